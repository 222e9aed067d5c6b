import { Random } from './random.js';

/** How many movesets are tried in each run of the tests; `npm run test:long` tries many more. */
export const MOVESETS = Number(process.env.LOGGIA_RANDOM ?? 71);
export const TICKS = 64;

/** Seeds that have found a fault: they are always tried. */
const FOUND = [35, 49, 216, 496, 774, 9229, 11796, 31162];

/** Runs a check over so many random movesets, and those of seeds that found something; what fails names the seed that brings it back. */
export function forRandom(count: number, check: (random: Random, seed: number) => void): void {
  for (const seed of seedsFor(count)) {
    try {
      check(new Random(seed), seed);
    } catch (error) {
      throw named(error, seed);
    }
  }
}

/** The same of a check that waits for something, one after the other. */
export async function forRandomInTurn(count: number, check: (random: Random, seed: number) => Promise<void>) {
  for (const seed of seedsFor(count)) {
    await check(new Random(seed), seed).catch((error) => {
      throw named(error, seed);
    });
  }
}

function seedsFor(count: number): Iterable<number> {
  const { LOGGIA_SEED } = process.env;
  const first = Number(LOGGIA_SEED ?? 1);
  const seeds = Array.from({ length: Math.ceil(count) }, (_, i) => first + i);
  return LOGGIA_SEED ? seeds : new Set([...FOUND, ...seeds]);
}

function named(error: unknown, seed: number): unknown {
  (error as Error).message = `LOGGIA_SEED=${seed} LOGGIA_RANDOM=1: ${(error as Error).message}`;
  return error;
}
