import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, TileWorld } from '../../src/index.js';
import { WANT_SHAPE } from '../../src/record/slots.js';
import { must, ROOT } from '../support.js';

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

const action: fc.Arbitrary<Deed> = fc.oneof(
  { weight: 12, arbitrary: fc.tuple(fc.constant('button' as const), fc.nat(BUTTONS.length - 1)) },
  { weight: 2, arbitrary: fc.tuple(fc.constant('event' as const), fc.nat(plan.names.event.length - 1)) },
  { weight: 1, arbitrary: fc.tuple(fc.constant('freeze' as const), fc.integer({ min: 1, max: 8 })) },
  { weight: 1, arbitrary: fc.tuple(fc.constant('learn' as const)) },
  { weight: 1, arbitrary: fc.tuple(fc.constant('pool' as const), fc.integer({ min: 0, max: 24 })) },
);
/** A run: so many ticks of rest, then a action, again and again. */
const run = fc.array(fc.tuple(fc.nat(14), action), { minLength: 10, maxLength: 60 });

/** Plays a run and calls `look` after each tick. */
function play(script: [number, Deed][], c: Character, look: (c: Character) => void): void {
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
      c.tick();
      look(c);
    }
  }
}

const born = () => new Character(plan, { world, at: [2.5, 1] });
const options = { seed: 20, numRuns: 60 };

test('whatever is pressed: pools keep their limits, numbers stay numbers, the body stays in the world', () => {
  fc.assert(
    fc.property(run, (script) => {
      play(script as [number, Deed][], born(), (c) => {
        for (const pool of c.plan.names.pool) {
          const { min, max } = c.readout.poolLimits(pool);
          const value = c.readout.pool(pool);
          must(value >= min && value <= max, { pool, value, min, max });
        }
        must(!c.record.some(Number.isNaN), { record: 'has NaN' });
        const { x, y } = c.readout;
        must(x > 1 && y >= 1 - 1e-5, { x, y });
      });
    }),
    options,
  );
});

test('whatever was pressed: when nothing runs any more, nothing of it is left', () => {
  fc.assert(
    fc.property(run, (script) => {
      let room = true;
      play(script as [number, Deed][], born(), (c) => {
        const hadRoom = room;
        room = c.facts.headroom;
        if (c.plan.names.lane.some((lane) => c.readout.ability(lane)) || c.readout.stopped) return;
        // The low form stays as long as there was no room for the other one.
        if (c.readout.loadout === 'lantern' && !hadRoom) return;
        expect(c.facts.fact('gravity')).toBe(25);
        expect(c.facts.fact('steer')).toBe(1);
        expect(c.facts.fact('tagged(unharmed)') + c.facts.fact('tagged(bright)')).toBe(0);
        expect(c.readout.loadout).toBe('rigger');
        expect(c.record[WANT_SHAPE]).toBe(c.readout.stance === 'duck' ? 1 : 0);
      });
    }),
    options,
  );
});
