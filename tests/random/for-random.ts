import { Random } from './random.js';

/** How many movesets are tried, and how long each is played. */
export const MOVESETS = Number(process.env.LOGGIA_RANDOM ?? 1000);
export const TICKS = 64;

/** Runs a check over so many random movesets; what fails names the seed that brings it back. */
export function forRandom(count: number, check: (random: Random, seed: number) => void): void {
  const first = Number(process.env.LOGGIA_SEED ?? 1);
  for (let seed = first; seed < first + count; seed++) {
    try {
      check(new Random(seed), seed);
    } catch (error) {
      (error as Error).message = `LOGGIA_SEED=${seed} LOGGIA_RANDOM=1: ${(error as Error).message}`;
      throw error;
    }
  }
}
