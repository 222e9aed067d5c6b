import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, TileWorld } from '../../src/index.js';
import { A_WAKE, ABILITY, HEAR_AGAIN, NEXT_WORK, STALE } from '../../src/moveset/slots.js';
import { plan as compileText, ROOT } from '../support.js';

const BOATYARD = join(ROOT, 'demo/boatyard');
const { plan } = parseMoveset(readFileSync(join(BOATYARD, 'pell.yaml'), 'utf8'), 'pell.yaml', {
  read: (path) => ({ text: readFileSync(join(BOATYARD, path), 'utf8') }),
});
if (!plan) throw new Error('the demo has faults');

const world = new TileWorld([
  '################################',
  '#..............................#',
  '#.......####...................#',
  '#..................--..........#',
  '#...........##.................#',
  '#.@.......####.........#.......#',
  '################################',
]);
const BUTTONS = plan.names.button;

/** Something that comes in before a tick. */
type Deed = ['button', number] | ['event', number] | ['freeze', number] | ['learn'] | ['pool', number];

const deed: fc.Arbitrary<Deed> = fc.oneof(
  { weight: 12, arbitrary: fc.tuple(fc.constant('button' as const), fc.nat(BUTTONS.length - 1)) },
  { weight: 2, arbitrary: fc.tuple(fc.constant('event' as const), fc.nat(plan.names.event.length - 1)) },
  { weight: 1, arbitrary: fc.tuple(fc.constant('freeze' as const), fc.integer({ min: 1, max: 8 })) },
  { weight: 1, arbitrary: fc.tuple(fc.constant('learn' as const)) },
  { weight: 1, arbitrary: fc.tuple(fc.constant('pool' as const), fc.integer({ min: 0, max: 24 })) },
);
/** A run: so many ticks of rest, then a deed, again and again. */
const run = fc.array(fc.tuple(fc.nat(14), deed), { minLength: 10, maxLength: 60 });

/** Plays a run and calls `look` after each tick. */
function play(
  script: [number, Deed][],
  c: Character,
  look: (c: Character) => void,
  before?: (c: Character) => void,
): void {
  const down = new Set<number>();
  const act = ([kind, value]: Deed) => {
    const buttons = c.plan.names.button;
    if (kind === 'event') c.door.event(c.plan.names.event[value as number]);
    else if (kind === 'freeze') c.door.freeze(value as number);
    else if (kind === 'learn') c.door.learn('heave');
    else if (kind === 'pool') c.door.pool('wind', value as number);
    else if (down.delete(value as number)) c.door.release(buttons[value as number]);
    else {
      down.add(value as number);
      c.door.press(buttons[value as number]);
    }
  };
  for (const [rest, one] of [...script, [60, ['freeze', 1]] as [number, Deed]]) {
    act(one);
    for (let i = 0; i <= rest; i++) {
      before?.(c);
      c.tick();
      look(c);
    }
  }
}

const born = () => new Character(plan, { world, at: [2.5, 1] });
const options = { seed: 20, numRuns: 120 };

test('whatever is pressed: pools keep their limits, numbers stay numbers, the body stays in the world', () => {
  fc.assert(
    fc.property(run, (script) => {
      play(script as [number, Deed][], born(), (c) => {
        for (const pool of c.plan.names.pool) {
          const { min, max } = c.readout.poolLimits(pool);
          expect(c.readout.pool(pool)).toBeGreaterThanOrEqual(min);
          expect(c.readout.pool(pool)).toBeLessThanOrEqual(max);
        }
        expect(c.record.some(Number.isNaN)).toBe(false);
        expect(c.readout.x).toBeGreaterThan(1);
        expect(c.readout.y).toBeGreaterThanOrEqual(1 - 1e-5);
      });
    }),
    options,
  );
});

test('whatever was pressed: when nothing runs any more, nothing of it is left', () => {
  fc.assert(
    fc.property(run, (script) => {
      play(script as [number, Deed][], born(), (c) => {
        if (c.plan.names.lane.some((lane) => c.readout.ability(lane)) || c.readout.stopped) return;
        expect(c.facts.fact('gravity')).toBe(25);
        expect(c.facts.fact('steer')).toBe(1);
        expect(c.facts.fact('tagged(unharmed)') + c.facts.fact('tagged(bright)')).toBe(0);
        expect(c.readout.loadout).toBe('rigger');
        expect(c.readout.drive.shape).toBe(c.readout.stance === 'duck' ? 'low' : 'tall');
      });
    }),
    options,
  );
});

/** Has everything looked at in every tick: conditions, dates, requests. */
function wake(c: Character): void {
  c.record[NEXT_WORK] = -1;
  c.record[STALE] = 1;
  c.record[HEAR_AGAIN] = -1;
  for (let i = 0; i < c.plan.abilities.length; i++) c.record[c.plan.layout.abilities + i * ABILITY + A_WAKE] = -1;
}

const tell = (c: Character) => [
  c.readout.x,
  c.readout.y,
  c.readout.stance,
  ...c.plan.names.lane.map((lane) => c.readout.ability(lane)),
  ...c.plan.names.pool.map((pool) => c.readout.pool(pool)),
  ...c.plan.names.ability.map((ability) => c.readout.charges(ability)),
];

test('what is left out until something may come of it comes out as if every tick were worked through', () => {
  fc.assert(
    fc.property(run, (script) => {
      const [asleep, awake]: unknown[][] = [[], []];
      play(script as [number, Deed][], born(), (c) => asleep.push(tell(c)));
      play(script as [number, Deed][], born(), (c) => awake.push(tell(c)), wake);
      expect(asleep).toEqual(awake);
    }),
    options,
  );
});

/** Each depends on something that changes in a way of its own; `jump`, `gaff` and `gale` are the buttons. */
const LEFT_OUT: Record<string, string> = {
  'a stance by a stick': 'stances: { stand: { when: move.y < 0 }, fall: {} }',
  'a stance by an ability': 'stances: { stand: { when: running(act) }, fall: {} }',
  'a stance by a latch': 'stances: { stand: { when: latched(hum) }, fall: {} }',
  'a stance by a pool': 'stances: { stand: { when: pool.oil > 4 }, fall: {} }',
  'a stance by a time': 'stances: { stand: { when: air.time < 0.2s }, fall: {} }',
  'a stance by a probe':
    'probes: { side: { ray: [1, 0], at: [0, 0.5] } }\nstances: { stand: { when: side.hit }, fall: {} }',
  'an end by a moment': 'end: [landed, released(gale)]',
  'an end by what is no moment': 'end: not landed and grounded',
  'an end by a wall or ceiling': 'end: [atWall, atCeiling]',
  'an end by a stance': 'end: in(fall) or not in(stand)',
  'an end by a place': 'end: x > 6',
  'an end by a stick': 'end: [move.amount == 0, move.x * 2 < 1]',
  'an end by a tag': 'end: tagged(loud)',
  'an end by a time since another': 'end: since(hum) > 0.3s',
  phases: 'phases: [{ for: 0.1s, move: { up: 5 } }, { until: vy <= 0 }, { when: held(jump), for: 0.2s }]',
  interrupts: 'interrupt: pool.oil < 3\n    phases: [{ for: 0.3s, interrupt: not held(move.right) }]',
  beats: 'phases: [{ for: 0.4s, beats: [{ every: 0.1s, gain: { oil: -0.7 } }] }]',
  upkeep: 'upkeep: { oil: { rate: 7, restart: 4 } }\n    end: []',
  'charges by time': 'charges: { max: 3, every: 0.4s }\n    phases: [{ for: 0.1s }]',
  'charges by a place': 'charges: { max: 1, refill: y > 2 }\n    phases: [{ for: 0.1s }]',
  'charges by a stance': 'charges: { max: 1, refill: in(fall) }\n    phases: [{ for: 0.1s }]',
  grace: 'grace: 0.2s\n    when: move.amount > 0\n    phases: [{ for: 0.1s }]',
  'a cooldown': 'cooldown: 0.5s\n    phases: [{ for: 0.1s }]',
  'a follower': 'follows: { hum: 0.3s }\n    phases: [{ for: 0.1s }]',
  'live effects': 'gravity: pool.oil\n    walk: { speed: pool.oil }\n    end: air.time > 1s',
};

test.each(Object.entries(LEFT_OUT))('nothing is left out of %s', (_, more) => {
  const own = more.startsWith('stances') || more.startsWith('probes');
  const small = compileText(`loggia: 1
name: Pell
pools: { oil: { max: 10, regen: 2, rest: 0.3s } }
inputs:
  move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }
  jump: { button: Space, buffer: 0.1s }
  gaff: { button: KeyJ }
  gale: { button: KeyF }
lanes: [body, legs, form]
${own ? more : 'stances: { stand: { when: grounded }, fall: {} }'}
abilities:
  hum: { lane: legs, start: { toggle: gale, unlatch: in(stand) and stance.time > 0.5s }, tags: loud, end: held(move.down), phases: [{ for: 0.1s, move: { up: 9 } }, { for: 20s }] }
  drip: { lane: form, start: { rule: move.x > 0 and grounded }, upkeep: { oil: 3 } }
  act:
    start: [{ press: jump }, { hold: gaff }]
    ${own ? 'phases: [{ for: 0.2s, move: { up: 6 } }]' : more}
`);
  const buttons = small.names.button.length;
  const presses = fc.array(fc.tuple(fc.nat(20), fc.tuple(fc.constant('button' as const), fc.nat(buttons - 1))), {
    minLength: 10,
    maxLength: 40,
  });
  let acted = 0;
  fc.assert(
    fc.property(presses, (script) => {
      const [asleep, awake] = [false, true].map((always) => {
        const told: unknown[] = [];
        play(
          script,
          new Character(small, { world, at: [2.5, 1] }),
          (c) => told.push(tell(c)),
          always ? wake : undefined,
        );
        return told;
      });
      expect(asleep).toEqual(awake);
      acted += asleep.filter((row) => (row as unknown[]).includes('act')).length;
    }),
    { seed: 5, numRuns: 30 },
  );
  expect(acted).toBeGreaterThan(0);
});

test('a snapshot in the middle of anything goes on the same way in another character', () => {
  fc.assert(
    fc.property(run, fc.nat(100), (script, at) => {
      const sums: number[] = [];
      const other = born();
      let copied = false;
      play(script as [number, Deed][], born(), (c) => {
        sums.push(c.checksum());
        if (sums.length <= at || copied) return;
        copied = true;
        other.restore(c.snapshot());
        expect(other.checksum()).toBe(c.checksum());
        other.tick();
        const again = born();
        again.restore(c.snapshot());
        again.tick();
        expect(again.checksum()).toBe(other.checksum());
      });
    }),
    options,
  );
});
