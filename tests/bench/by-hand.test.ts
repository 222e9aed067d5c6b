import { expect, test } from 'vitest';
import { ByHand } from '../../bench/by-hand.js';
import { driveByHand, driveCharacter, LOOP, writeChanges } from '../../bench/drive.js';
import { Character, flatGround } from '../../src/index.js';
import { pellPlan } from '../support.js';

test('the controller by hand and the moveset do the same, tick for tick', () => {
  const c = new Character(pellPlan(), { world: flatGround() });
  const hand = new ByHand();
  hand.x = 0;
  hand.vx = 0;
  const changes = writeChanges();
  for (let t = 0; t < 4 * LOOP; t++) {
    driveCharacter(c, changes[t % LOOP]);
    driveByHand(hand, changes[t % LOOP]);
    c.tick();
    hand.tick();
    const { readout } = c;
    expect([t, readout.stance, readout.ability() ?? 'none', readout.isRunning('sprint'), readout.facing]).toEqual([
      t,
      hand.stance,
      hand.body,
      hand.sprinting,
      hand.facing,
    ]);
    expect(readout.x).toBeCloseTo(hand.x, 6);
    expect(readout.y).toBeCloseTo(hand.y, 6);
    expect(readout.pool('wind')).toBeCloseTo(hand.wind, 6);
  }
});
