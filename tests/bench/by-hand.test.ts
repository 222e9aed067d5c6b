import { test } from 'vitest';
import { ByHand } from '../../bench/by-hand.js';
import { driveByHand, driveCharacter, LOOP, writeChanges } from '../../bench/drive.js';
import { Character, flatGround } from '../../src/index.js';
import { pellPlan } from '../support.js';
import { expectAlike } from './alike.js';

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
    expectAlike(t, c.readout, hand);
  }
});
