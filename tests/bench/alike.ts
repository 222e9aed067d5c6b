import type { Readout } from '../../src/index.js';
import { must } from '../support.js';

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
  const is = [readout.stance, readout.ability() ?? 'none', readout.isRunning('sprint'), readout.facing];
  const wanted = [hand.stance, hand.body, hand.sprinting, hand.facing];
  must(
    is.every((one, i) => one === wanted[i]),
    { t, is, wanted },
  );
  const at = [readout.x, readout.y, readout.pool('wind')];
  const goal = [hand.x, hand.y, hand.wind];
  must(
    at.every((one, i) => Math.abs(one - goal[i]) < 5e-7),
    { t, at, goal },
  );
}
