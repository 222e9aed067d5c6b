import { expect } from 'vitest';
import type { Readout } from '../../src/index.js';

interface Hand {
  readonly x: number;
  readonly y: number;
  readonly facing: number;
  readonly wind: number;
  readonly stance: string;
  readonly body: string;
  readonly sprinting: boolean;
}

/** In tick `t`, a controller by hand is where its moveset's character is and does the same. */
export function expectAlike(t: number, readout: Readout, hand: Hand): void {
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
