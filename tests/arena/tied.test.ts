import { expect, test } from 'vitest';
import { Arena, compileOpponent, type Opponent } from '../../src/arena/index.js';
import { parseMoveset } from '../../src/format/text.js';
import { BoxWorld, Character, flatGround } from '../../src/index.js';
import { plan, sentences } from '../support.js';

const HEAD = `
loggia: 1
pools: { grit: { max: 20 } }
inputs:
  move: { stick: { left: KeyA, right: KeyD } }
  jump: { button: Space }
  gaff: { button: KeyJ }
hurt: { pool: grit, when: pool.grit > 0 }
events: [struck, hit, grabbed]
stances: { stand: { when: grounded }, fall: {} }
`;

const SENTRY = plan(`${HEAD}name: Sentry
tags: sentry
abilities:
  hop: { start: { press: jump }, when: grounded, phases: [{ for: 1f, move: { up: 9 } }] }
`);

test('a mark on somebody goes with them, and is unset when they are gone; a hook holds on to it', () => {
  const pell = plan(`${HEAD}name: Pell
abilities:
  hook:
    start: { press: gaff }
    marks: [hooked, there]
    mark: { hooked: on(foe), there: foe }
    end: not known(hooked)
    phases: [{ move: { along: toward(hooked), speed: 3, live: true } }]
`);
  const arena = new Arena({ world: flatGround() });
  const one = arena.add('pell', pell).character;
  const other = arena.add('sentry', SENTRY, { at: [8, 0] }).character;
  one.door.press('gaff');
  arena.tick();
  expect([one.readout.mark('hooked'), one.readout.mark('there')]).toEqual([
    { x: 8, y: 0.9, z: 0 },
    { x: 8, y: 0.9, z: 0 },
  ]);
  other.door.stick('move', 1, 0);
  for (let i = 0; i < 60; i++) arena.tick();
  other.door.press('jump');
  for (let i = 0; i < 10; i++) arena.tick();
  const saved = arena.snapshot();
  // Of where they were before this tick, as all that is known of others.
  const { x, y } = other.readout;
  arena.tick();
  expect(one.readout.mark('hooked')).toEqual({ x, y: y + 0.9, z: 0 });
  expect(y).toBeGreaterThan(0.5);
  expect(one.readout.mark('there')?.x).toBe(8);
  arena.remove('sentry');
  arena.tick();
  expect(one.readout.mark('hooked')).toBeNull();
  expect(one.readout.ability()).toBeNull();
  arena.restore(saved);
  arena.tick();
  expect(one.readout.mark('hooked')).toEqual({ x, y: y + 0.9, z: 0 });
});

test('a mark on a moving block goes with it; a body that rides it stays there, whatever pulls, until it lets go', () => {
  const world = new BoxWorld([
    { from: [-9, -1], to: [9, 0] },
    {
      from: [1, 2],
      to: [3, 3],
      path: {
        points: [
          { at: 0, to: [0, 0] },
          { at: 2, to: [4, 2] },
        ],
        after: 'back',
      },
    },
  ]);
  const pell = new Character(
    plan(`${HEAD}name: Pell
probes: { rope: { ray: [3, 3], at: [0, 1] } }
abilities:
  cling:
    start: { hold: gaff }
    marks: [hooked]
    mark: { hooked: on(rope) }
    phases: [{ ride: { on: hooked, at: [-0.5, -1.9] } }]
`),
    { world, at: [0.5, 0] },
  );
  const at = () => {
    const mark = pell.readout.mark('hooked');
    return [pell.readout.x - (mark?.x ?? 0), pell.readout.y - (mark?.y ?? 0)].map((n) => Math.round(n * 1e9) / 1e9);
  };
  pell.door.press('gaff');
  let first: { x: number } | null = null;
  for (let i = 0; i < 100; i++) {
    world.advanceTo(i / 60);
    pell.tick();
    first ??= pell.readout.mark('hooked');
    if (i > 1) expect(at()).toEqual([-0.5, -1.9]);
  }
  // A block that is 99 ticks further along its path.
  expect((pell.readout.mark('hooked')?.x ?? 0) - (first?.x ?? 0)).toBeCloseTo((99 / 60) * 2, 9);
  expect(pell.readout.vy).toBeCloseTo(1, 9);
  pell.door.release('gaff');
  world.advanceTo(100 / 60);
  pell.tick();
  // It goes on as fast as it was taken along, and falls.
  expect(pell.readout.vx).toBeGreaterThan(0.9);
  expect(pell.readout.vy).toBeLessThan(1);
});

const CRATE = `${HEAD}name: Crate
body: { shapes: { box: [0.6, 0.6] } }
abilities:
  carried:
    start: { event: grabbed }
    marks: [hands]
    mark: { hands: on(grabbed.from) }
    ride: { on: hands, at: [0.7, -0.2] }
    end: event(struck) or not known(hands)
  thrown: { start: { event: struck }, breaks: all, phases: [{ for: 30f, steer: 0 }] }
`.replace('events: [struck, hit, grabbed]', 'events: { struck: {}, grabbed: { values: { from: point, by: number } } }');
const CARRIER = `${HEAD}name: Pell
abilities:
  grab: { start: { press: gaff }, phases: [{ for: 2f, touch: { box: [1, 1], at: [0.8, 0.5], tells: grabbed } }] }
  throw: { start: { press: jump }, phases: [{ for: 1f, strike: { box: [1, 2], at: [0.7, 1], push: [9, 6], hits: all } }] }
`;

test('who is carried is where its carrier is in the same tick, also after that has turned; a throw is a push', () => {
  const arena = new Arena({ world: flatGround() });
  // The crate joins first: it must still come after whom it rides.
  const crate = arena.add('crate', plan(CRATE), { at: [1, 0] }).character;
  const pell = arena.add('pell', plan(CARRIER)).character;
  pell.door.press('gaff');
  pell.door.stick('move', 1, 0);
  for (let i = 0; i < 20; i++) arena.tick();
  const apart = () =>
    [crate.readout.x - pell.readout.x, crate.readout.y - pell.readout.y].map((n) => Number(n.toFixed(9)));
  expect(apart()).toEqual([0.7, 0.7]);
  pell.door.stick('move', -1, 0);
  arena.tick();
  expect(apart()).toEqual([-0.7, 0.7]);
  for (let i = 0; i < 20; i++) arena.tick();
  expect(pell.readout.vx).toBe(-5);
  expect(crate.readout.vx).toBeCloseTo(-5, 9);
  pell.door.press('jump');
  arena.tick();
  arena.tick();
  expect([crate.readout.vx, crate.readout.ability()]).toEqual([-8, 'thrown']);
  expect(crate.readout.vy).toBeGreaterThan(5);
});

test('in the open, a rider keeps its side of a mount that turns', () => {
  const rider = plan(
    `${HEAD}name: Pell
view: open
abilities:
  mount: { start: { hold: gaff }, marks: [saddle], mark: { saddle: on(foe) }, phases: [{ ride: { on: saddle, at: [0.5, 0.4, 0.25] } }] }
`.replace('right: KeyD', 'right: KeyD, up: KeyW, down: KeyS'),
  );
  const arena = new Arena({ world: flatGround() });
  const pell = arena.add('pell', rider, { at: [-1, 0] }).character;
  const hulk = arena.add('hulk', rider).character;
  const from = () =>
    (['x', 'y', 'z'] as const).map((axis) => Number((pell.readout[axis] - hulk.readout[axis]).toFixed(9)));
  pell.door.press('gaff');
  for (let i = 0; i < 3; i++) arena.tick();
  expect(from()).toEqual([0.5, 1.3, 0.25]);
  hulk.door.stick('move', 0, 1);
  for (let i = 0; i < 3; i++) arena.tick();
  expect(from()).toEqual([0.25, 1.3, -0.5]);
});

test('one on another on a third: each goes after whom it rides, in whatever order they have joined', () => {
  const rider = plan(`${HEAD}name: Pell
targets: { below: { reach: 1.5, tagged: below } }
tags: below
abilities:
  mount: { start: { hold: gaff }, marks: [saddle], mark: { saddle: on(below) }, phases: [{ ride: { on: saddle, at: [0, 0.9] } }] }
`);
  const arena = new Arena({ world: flatGround() });
  const [top, middle, low] = [2, 0.9, 0].map((x, i) => arena.add(`${i}`, rider, { at: [x, 0] }).character);
  for (const c of [top, middle]) {
    c.door.press('gaff');
    for (let i = 0; i < 3; i++) arena.tick();
  }
  low.door.stick('move', -1, 0);
  for (let i = 0; i < 9; i++) {
    arena.tick();
    expect([top, middle].map((c) => Number((c.readout.x - low.readout.x).toFixed(9)))).toEqual([0, 0]);
  }
});

test('a rider steers its mount, which hears nothing any more once it has got off', () => {
  const rider = plan(`${HEAD}name: Pell
abilities:
  mount:
    start: { toggle: gaff }
    marks: [saddle]
    mark: { saddle: on(foe) }
    ride: { on: saddle, at: [0, 0.9], steers: true }
    end: not known(saddle)
`);
  const make = (plays?: Opponent) => {
    const arena = new Arena({ world: flatGround() });
    const pell = arena.add('pell', rider, { at: [-1, 0] }).character;
    const hulk = arena.add('hulk', SENTRY, { plays }).character;
    return { arena, pell, hulk };
  };
  const { arena, pell, hulk } = make();
  pell.door.press('gaff');
  pell.door.release('gaff');
  for (let i = 0; i < 5; i++) arena.tick();
  expect([pell.readout.x, pell.readout.y, hulk.readout.x]).toEqual([0, 1.8, 0]);
  pell.door.stick('move', 1, 0);
  pell.door.press('jump');
  for (let i = 0; i < 12; i++) arena.tick();
  expect(hulk.readout.vx).toBe(5);
  expect(hulk.readout.y).toBeGreaterThan(0.5);
  expect([pell.readout.x - hulk.readout.x, pell.readout.y - hulk.readout.y].map((n) => Number(n.toFixed(9)))).toEqual([
    0, 1.8,
  ]);
  pell.door.press('gaff');
  for (let i = 0; i < 60; i++) arena.tick();
  // The stick is still pushed, and moves Pell alone.
  expect([hulk.readout.vx, hulk.facts.held('jump'), pell.readout.vx]).toEqual([0, false, 5]);

  // What plays a mount waits as long as somebody steers it, also where its rider leaves.
  const played = make(compileOpponent(SENTRY, { acts: [{ when: 'grounded', press: 'jump', every: '1f' }] }));
  played.pell.door.press('gaff');
  for (let i = 0; i < 60; i++) played.arena.tick();
  expect(played.hulk.readout.y).toBe(0);
  played.arena.remove('pell');
  for (let i = 0; i < 3; i++) played.arena.tick();
  expect(played.hulk.readout.y).toBeGreaterThan(0);
});

test('a target is who is wanted of the others: by team, tag, distance, direction, what holds for them, and what is least', () => {
  const seer = (target: string, more = '') =>
    plan(`${HEAD}name: Pell\ntargets: { prey: ${target} }\nconditions: { weak: prey.pool(grit) < 9${more} }\n`);
  const sees = (target: string): unknown => {
    const arena = new Arena({ world: flatGround() });
    const pell = arena.add('pell', seer(target), { team: 'yard' }).character;
    const ids = new Map([
      [0, null],
      [arena.add('mate', SENTRY, { at: [1, 0], team: 'yard' }).id, 'mate'],
      [arena.add('near', SENTRY, { at: [-2, 0], tags: 'boss' }).id, 'near'],
      [arena.add('far', SENTRY, { at: [4, 0] }).id, 'far'],
      [arena.add('down', SENTRY, { at: [3, 0] }).id, 'down'],
    ]);
    arena.find('down')?.character.door.pool('grit', 0);
    arena.find('far')?.character.door.pool('grit', 5);
    arena.tick();
    arena.tick();
    const fact = (name: string) => pell.facts.fact(`prey.${name}`);
    return [ids.get(fact('id')), fact('distance') < 99 ? fact('distance') : null, pell.facts.condition('weak')];
  };
  expect(sees('{}')).toEqual(['near', 2, false]);
  expect(sees('{ among: friends }')).toEqual(['mate', 1, false]);
  expect(sees('{ among: all, when: other.pool(grit) == 0 }')).toEqual(['down', 3, true]);
  expect(sees('{ tagged: boss }')).toEqual(['near', 2, false]);
  expect(sees('{ when: not other.tagged(boss) }')).toEqual(['far', 4, true]);
  expect(sees('{ least: other.pool(grit) }')).toEqual(['far', 4, true]);
  expect(sees('{ along: facing }')).toEqual(['far', 4, true]);
  expect(sees('{ reach: 1.9 }')).toEqual([null, null, true]);
  expect(sees('{ along: facing, reach: 2 * 2, when: other.in(stand) }')).toEqual(['far', 4, true]);
  expect(sees('{ when: other.in(fall) }')).toEqual([null, null, true]);
});

test('a pool of a target is what it has come back to by now', () => {
  const arena = new Arena({ world: flatGround() });
  const pell = arena.add(
    'pell',
    plan(`${HEAD}name: Pell\ntargets: { prey: {} }\nconditions: { full: prey.pool(wind) >= 7 }\n`),
  ).character;
  const winded = plan(`${HEAD}name: Hulk\n`.replace('max: 20 }', 'max: 20 }, wind: { max: 20, regen: 6 }'));
  const hulk = arena.add('hulk', winded, { at: [3, 0] });
  hulk.character.door.pool('wind', 1);
  arena.tick();
  arena.tick();
  let ticks = 2;
  while (!pell.facts.condition('full') && ticks < 90) {
    arena.tick();
    ticks++;
  }
  // As it was before the tick.
  expect([hulk.character.readout.pool('wind') >= 7, ticks > 59 && ticks < 63]).toEqual([true, true]);
});

test('what can be held on to is told apart, and `other` is read where somebody is chosen', () => {
  const told = (text: string) =>
    sentences(
      parseMoveset(
        `loggia: 1\nname: Pell\nevents: { rung: { values: { where: point } } }\nmarks: { hooked: {} }\nstances: { fall: {} }\n${text}`,
      ),
    );
  expect(
    told(`targets: { prey: { arc: 30, when: other.distanse < 3 } }
abilities:
  hook: { start: { code: only }, when: other.distance < 3, mark: { hooked: on(rung.where) } }
  ride: { start: { code: only }, ride: { on: saddle } }
`),
  ).toEqual([
    '6:20 missing-key "arc" of a target needs "along": the direction that is its middle.',
    '6:35 formula-name There is no fact or function "other.distanse" here. Did you mean "other.distance"?',
    '8:40 formula-name "other.distance" can be read in "targets" only, where somebody is chosen; here, read the target, as in "prey.distance".',
    expect.stringMatching(/^8:76 unknown-name .*on\(prey\), on\(hooked\), on\(foe\)\.$/),
    '9:46 unknown-name There is no mark "saddle". It can be hooked.',
  ]);
});
