import { join } from 'node:path';
import * as rapier2d from '@dimforge/rapier2d-compat';
import { beforeAll, expect, test } from 'vitest';
import { loadMoveset } from '../../src/format/index.js';
import { type AnyBlock, BoxWorld, Cast, Character, type Plan, TileWorld, type World } from '../../src/index.js';
import { RapierWorld } from '../../src/rapier/index.js';
import { FACE_LOCK, MARK_SET, PASSES, RUNNING, STUCK, TOUCHES } from '../../src/record/slots.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { type Deed, makeScript } from '../random/play.js';
import type { Random } from '../random/random.js';
import { ROOT } from '../support.js';

const WIDTH = 18;
const HEIGHT = 10;

/** A walled yard of random tiles: solid, one-way, slopes, areas, and blocks that move through it. */
function randomTiles(random: Random): TileWorld {
  const letters = '..........##-/\\_R~';
  const rows = Array.from({ length: HEIGHT }, (_, y) =>
    Array.from({ length: WIDTH }, (_, x) => {
      if (y === HEIGHT - 1) return '#';
      return x < 4 && y > HEIGHT - 5 ? '.' : letters[random.whole(0, random.chance(0.6) ? letters.length - 1 : 9)];
    }).join(''),
  );
  const blocks: AnyBlock[] = random.chance(0.4)
    ? [
        {
          from: [6, 1],
          to: [8, 1.5],
          tags: ['plank'],
          path: {
            points: [
              { at: 0, to: [0, 0] },
              { at: 0.7, to: [random.whole(-3, 5), random.whole(0, 3)] },
            ],
            after: 'back',
          },
        },
      ]
    : [];
  return new TileWorld(rows, {
    legend: {
      '/': { slope: [0, 1] },
      '\\': { slope: [1, 0] },
      _: { slope: [0, 0.5] },
      R: { tags: ['rough'] },
      '~': { solid: false, tags: ['rough', 'plank'] },
    },
    blocks,
    places: { slip: [2, 1], mast: [random.whole(0, 17), random.whole(0, 9)] },
    edges: { sides: 'wall', bottom: 'wall', top: 'wall' },
  });
}

function randomBoxes(random: Random): BoxWorld {
  const number = (least: number, most: number) => least + (random.whole(0, 1000) / 1000) * (most - least);
  const blocks: AnyBlock[] = [{ from: [-20, -1, -20], to: [20, 0, 20] }];
  for (let i = random.whole(2, 9); i > 0; i--) {
    const [x, y, z] = [number(-9, 9), number(0, 5), number(-9, 9)];
    if (Math.abs(x - 2.5) < 2 && Math.abs(z) < 2) continue;
    if (random.chance(0.3))
      blocks.push({ from: [x, y, z], to: [x + number(-2, 2), y + number(0, 3), z], radius: number(0.3, 1.5) });
    else if (random.chance(0.5)) {
      const raw = [0, 1, 2, 3].map(() => number(-1, 1) + 0.01);
      const length = Math.hypot(...raw);
      const turn = raw.map((n) => n / length) as unknown as readonly [number, number, number, number];
      blocks.push({ at: [x, y, z], size: [number(0.5, 3), number(0.5, 3), number(0.5, 3)], turn });
    } else blocks.push({ from: [x, y, z], to: [x + number(0.5, 3), y + number(0.5, 3), z + number(0.5, 3)] });
  }
  return new BoxWorld(blocks, { places: { slip: [2.5, 0], mast: [5, 4, 2] } });
}

const CAST = new Cast();

/** Whether the body is inside of something by more than rounding. */
function isInside(c: Character, world: World, by: number): boolean {
  const { x, y, z, width, height } = c.readout;
  const half = width / 2 - by;
  Object.assign(CAST, { kind: 'overlap', surfaces: null, passes: null, x, y: y + height / 2, z });
  Object.assign(CAST, { hx: half, hy: height / 2 - by, hz: half, dx: 0, dy: 0, dz: 0 });
  return world.overlap(CAST);
}

interface Look {
  readonly world: World;
  /** How far inside still counts as touching: the rounding of the world. */
  readonly by: number;
  readonly bounded: boolean;
  /** Its moves are no faster than this. Default: any speed. */
  readonly fastest?: number;
}

/** Looks at a body after each tick: it is nowhere that it may not be, and got there no faster than it may. */
function watch(c: Character, { world, by, bounded, fastest = Number.POSITIVE_INFINITY }: Look): () => void {
  let before = [c.readout.x, c.readout.y, c.readout.z];
  return () => {
    const { readout, r, plan } = c;
    const now = [readout.x, readout.y, readout.z];
    if (![...now, readout.vx, readout.vy, readout.vz].every(Number.isFinite)) expect(now).toBe('numbers');
    // While its clock stands still, what moves may come into the body.
    const free = readout.stopped || r[STUCK] === 1 || r[PASSES] !== 0 || (r[TOUCHES] & 8) !== 0;
    if (!free && isInside(c, world, by)) expect([readout.tick, ...now]).toBe('outside of what is solid');
    const { width, height } = readout;
    if (bounded && !free) {
      const out =
        now[0] < width / 2 - by || now[0] > WIDTH - width / 2 + by || now[1] < -by || now[1] > HEIGHT - height + by;
      if (out) expect([readout.tick, ...now]).toBe('within the world');
    }
    const jumped = readout.drive.warped;
    const moved = Math.hypot(now[0] - before[0], now[1] - before[1], now[2] - before[2]);
    // Its pace, what carries it, what it is put down or pushed out by.
    const most = (fastest + 10) * plan.dt + 1.5 * height;
    if (!jumped && moved > most) expect([readout.tick, moved]).toBe(`at most ${most}`);
    before = now;
  };
}

function play(c: Character, script: readonly (readonly Deed[])[], look: Look): void {
  const check = watch(c, look);
  const world = look.world as Partial<TileWorld>;
  script.forEach((deeds, i) => {
    for (const deed of deeds) deed(c);
    world.advanceTo?.(i * c.plan.dt);
    c.tick();
    check();
  });
}

test('random worlds, movesets and input: a body is never inside a solid, out of the world, without a place, or too fast', () => {
  forRandom(MOVESETS / 2, (random) => {
    const plan = makeMoveset(random, { functions: random.chance(0.3) });
    const boxes = plan.view === 'open' || random.chance(0.3);
    const world = boxes ? randomBoxes(random) : randomTiles(random);
    const script = makeScript(random, plan, TICKS, { place: false });
    const c = new Character(plan, { world, at: [2.5, boxes ? 0 : 1] });
    play(c, script.actions, { world, by: 1e-4, bounded: !boxes });
  });
}, 300_000);

let mastRow: Plan;
let hull: Plan;
beforeAll(async () => {
  await rapier2d.init();
  const load = async (file: string) => (await loadMoveset(join(ROOT, 'demo/boatyard', file))).plan as Plan;
  mastRow = await load('pell-mast-row.yaml');
  hull = await load('pell-hull.yaml');
});

/** Random presses of Pell's keys, and aims. */
function mash(random: Random, plan: Plan, ticks: number): Deed[][] {
  const held = new Set<string>();
  return Array.from({ length: ticks }, () => {
    const deeds: Deed[] = [];
    for (let i = random.whole(0, 2); i > 0; i--) {
      const input = random.pick(plan.names.button);
      if (held.delete(input)) deeds.push((c) => c.door.release(input));
      else {
        held.add(input);
        deeds.push((c) => c.door.press(input));
      }
    }
    const aim = plan.names.aim[0];
    if (random.chance(0.1)) {
      const [x, y] = [random.whole(-9, 26), random.whole(-4, 14)];
      deeds.push(random.chance(0.5) ? (c) => c.door.aimAt(aim, x, y) : (c) => c.door.aim(aim, x - 8, y));
    }
    return deeds;
  });
}

/** When nothing runs, nothing is left of what ran. */
function checkRest(c: Character): void {
  const { r, plan } = c;
  if (r[RUNNING] > 0) return;
  const left = [c.facts.fact('gravity'), c.facts.fact('steer'), r[FACE_LOCK], r[PASSES]];
  if (left.join() !== '25,1,0,0') expect(left).toEqual([25, 1, 0, 0]);
  const own = plan.names.mark.filter((mark) => mark !== 'moored');
  for (const mark of own) {
    const at = plan.marksAt + plan.names.mark.indexOf(mark) * 4 + MARK_SET;
    if (r[at] !== 0) expect(mark).toBe('unset');
  }
}

test.each([
  ['Mast Row', 400],
  ['the hulls', 250],
])(
  'Pell on %s, mashing: safe, nothing left of what has ended, and a preview is what then happens',
  (where, count) => {
    let compared = 0;
    forRandom(Math.ceil((count * MOVESETS) / 2000), (random) => {
      const plan = where === 'Mast Row' ? mastRow : hull;
      const world = plan === mastRow ? randomTiles(random) : randomBoxes(random);
      const c = new Character(plan, {
        world,
        at: [2.5, plan === mastRow ? 1 : 0],
        places: () => ({ x: random.whole(1, 16), y: 1 }),
      });
      const check = watch(c, { world, by: 1e-4, bounded: plan === mastRow, fastest: 30 });
      for (const [i, deeds] of mash(random, plan, 200).entries()) {
        for (const deed of deeds) deed(c);
        // What is aimed and chosen is known one tick later.
        const { readout } = c;
        const seen = c.preview('tideStep');
        const facing = readout.facing;
        if ('advanceTo' in world) world.advanceTo(i / 60);
        c.tick();
        check();
        checkRest(c);
        const events = readout.eventCount > 0 ? readout.events : [];
        const warps = events.some((event) => event.kind === 'started' && event.ability === 'tideStep');
        if (!warps || deeds.length !== 1 || readout.facing !== facing || world.still === false) continue;
        const warped = events.find((event) => event.kind === 'warped');
        expect(seen).toMatchObject({ possible: true });
        expect(warped).toMatchObject({ x: (seen as { x: number }).x, y: (seen as { y: number }).y });
        compared++;
      }
    });
    // A handful may see none.
    if (MOVESETS >= 300) expect(compared).toBeGreaterThan(MOVESETS / 30);
  },
  300_000,
);

test('in a physics engine, too', () => {
  forRandom(Math.ceil(MOVESETS / 40), (random) => {
    const physics = new rapier2d.World({ x: 0, y: -25 });
    const box = (x: number, y: number, hx: number, hy: number, turn = 0) =>
      physics.createCollider(rapier2d.ColliderDesc.cuboid(hx, hy).setTranslation(x, y).setRotation(turn));
    box(9, -1, 30, 1);
    for (let i = 0; i < 8; i++) {
      const x = random.whole(0, 18);
      if (Math.abs(x - 2.5) > 2)
        box(
          x,
          random.whole(0, 8),
          random.whole(1, 8) / 4,
          random.whole(1, 8) / 4,
          random.chance(0.4) ? random.whole(0, 31) / 10 : 0,
        );
    }
    physics.step();
    const world = new RapierWorld(rapier2d, physics);
    const c = new Character(mastRow, { world, at: [2.5, 0.01], places: () => undefined });
    play(c, mash(random, mastRow, 120), { world, by: 2e-2, bounded: false });
    physics.free();
  });
}, 300_000);
