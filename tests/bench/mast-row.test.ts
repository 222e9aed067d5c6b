import { expect, test } from 'vitest';
import { MastRowByHand } from '../../bench/mast-row-by-hand.js';
import { loadDemo, playAll, playByHand, ROW } from '../../bench/worlds.js';
import { Character } from '../../src/index.js';

test('in the play of the benchmark both controllers make nearly every move, about as often', () => {
  const hand = new MastRowByHand(ROW);
  const play = playByHand(hand);
  for (let i = 0; i < 4; i++) play();
  expect(hand.made.filter((count) => count > 0).length).toBeGreaterThan(12);
  const character = new Character(loadDemo('pell-mast-row.yaml'), { world: ROW, at: [2.5, 1] });
  const made = new Map<string, number>();
  const ours = playAll(character, (event) => made.set(event, (made.get(event) ?? 0) + 1));
  for (let i = 0; i < 4; i++) ours();
  expect(made.size).toBeGreaterThan(15);
  const sum = (counts: Iterable<number>) => [...counts].reduce((all, count) => all + count, 0);
  const ratio = sum(made.values()) / sum(hand.made);
  expect([ratio > 0.7, ratio < 1.5]).toEqual([true, true]);
});
