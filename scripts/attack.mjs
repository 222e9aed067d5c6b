/*
 * What tests/ does to a few thousand movesets, snapshots and tapes, done to many more: `npm run attack`. It takes about half an hour.
 * A number of times and a first seed may be given: `npm run attack -- 200000 1`.
 */
import { spawnSync } from 'node:child_process';

const [many = '100000', seed = '500000'] = process.argv.slice(2);
if (![many, seed].every((n) => /^\d+$/.test(n))) {
  console.error('attack: give how many movesets to try and the first seed, like: npm run attack -- 100000 500000');
  process.exit(2);
}
/** How many of what each file tries are one of these: see tests/random/for-random.ts. */
const runs = [
  ['tests/format/mutated.test.ts', Number(many) * 2],
  ['tests/arena/spoiled.test.ts', Math.ceil(Number(many) / 5)],
];
let failed = false;
for (const [file, count] of runs) {
  const { status } = spawnSync(process.execPath, ['node_modules/vitest/vitest.mjs', 'run', '--testTimeout=0', file], {
    stdio: 'inherit',
    env: { ...process.env, LOGGIA_RANDOM: String(count), LOGGIA_SEED: seed },
  });
  failed ||= status !== 0;
}
process.exit(failed ? 1 : 0);
