import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import type { Effect } from '../../src/moveset/effects/effect.js';
import type { Frame } from '../../src/record/frame.js';

const LIST = '../../src/moveset/effects/index.js';

// Test files share their modules: this one has them again, and so has the next.
beforeAll(() => vi.resetModules());
afterAll(() => {
  vi.doUnmock(LIST);
  vi.resetModules();
});

/** An effect that a later version might have: it owns numbers, acts in every tick, and asks the world. */
vi.doMock(LIST, async (original) => {
  const { EFFECTS } = await original<{ EFFECTS: Effect[] }>();
  const { VY, X, Y, Z } = await import('../../src/record/slots.js');
  const { effect } = await import('../../src/moveset/effects/effect.js');
  const { number } = await import('../../src/moveset/shape.js');
  /** Hovers: climbs while the ground below is nearer than its height; owns the ticks it has run and the last distance. */
  const hover = effect(
    'hover',
    number(0, 100),
    (height) => ({
      each: ({ r, world, cast, hit }: Frame, own: number) => {
        r[own] += 1;
        Object.assign(cast, { kind: 'ray', x: r[X], y: r[Y], z: r[Z], hx: 0, hy: 0, hz: 0, dx: 0, dy: -50, dz: 0 });
        r[own + 1] = world?.ray(cast, hit) ? hit.part * 50 : 50;
        r[VY] = r[own + 1] < height ? 6 : 0;
      },
    }),
    { inStances: false, owns: 2 },
  );
  return { EFFECTS: [...EFFECTS, hover] };
});

test('an effect may own numbers of the record, act every tick and ask the world', async () => {
  const { makeCharacter, tap, tick } = await import('../support.js');
  const make = () =>
    makeCharacter(`
body: { gravity: 0 }
abilities: { float: { start: { press: gaff }, phases: [{ for: 60f, hover: 3, move: { forward: 1 } }, { for: 5f, move: { forward: 1 } }] } }`);
  const c = make();
  const { scope } = c.plan.phases[0];
  expect([scope.owns, scope.ownAt > 0]).toEqual([8, true]);
  const own = c.plan.layout.ranges.find(({ label }) => label === 'effects of a phase in body');
  expect(own).toEqual({ label: 'effects of a phase in body', at: scope.ownAt, count: 8 });
  tap(c, 'gaff');
  tick(c, 40);
  expect(c.readout.y).toBeGreaterThan(2.9);
  // `move` owns the first six.
  expect(c.record[scope.ownAt + 6]).toBe(41);
  expect(c.record[scope.ownAt + 7]).toBeCloseTo(c.readout.y, 9);
  const other = make();
  other.restore(c.snapshot());
  for (const each of [c, other]) tick(each, 10);
  expect(other.checksum()).toBe(c.checksum());
  // Nothing of it is left in the phase after, which shares the places.
  tick(c, 10);
  expect([c.readout.phase(), c.record[scope.ownAt + 6], c.record[scope.ownAt + 7]]).toEqual(['2', 0, 0]);
});
