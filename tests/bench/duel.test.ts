import { expect, test } from 'vitest';
import { duelByHand, duelByLoggia, loadDuel } from '../../bench/arena.js';

test('the duel by hand and the moveset are about the same play', () => {
  const { run: ours, arena, blows } = duelByLoggia(loadDuel());
  const { run: theirs, duel } = duelByHand();
  for (let i = 0; i < 5; i++) {
    ours();
    theirs();
  }
  // Its walls, its guards and its freezes are a little simpler.
  expect(duel.blows / blows()).toBeGreaterThan(0.6);
  expect(duel.blows / blows()).toBeLessThan(1.6);
  const [one] = arena.members.map(({ character }) => character.readout);
  expect(one.pool('grit')).toBeLessThan(100_000);
  expect(duel.one.grit).toBeLessThan(100_000);
});
