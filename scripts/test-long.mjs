/*
 * What the tests do to a few hundred random movesets, done to many more: `npm run test:long`. The first seed is another one each day; a number
 * of movesets and a first seed may be given, and a part of the names of the test files that are meant: `npm run test:long -- 200000 500000 format/mutated`. A seed that finds a fault goes into tests/random/for-random.ts.
 */
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const DAY = 24 * 3600 * 1000;
const [many = '4000', seed = String(Math.floor(Date.now() / DAY) * 10_000), which = ''] = process.argv.slice(2);
if (![many, seed].every((n) => /^\d+$/.test(n))) {
  console.error('test:long: give how many movesets to try and the first seed, like: npm run test:long -- 4000 500000');
  process.exit(2);
}
console.log(`Random movesets ${seed} to ${Number(seed) + Number(many) - 1}`);

const files = readdirSync('tests', { recursive: true })
  .map((file) => join('tests', String(file)))
  .filter(
    (file) => file.endsWith('.test.ts') && file.includes(which) && readFileSync(file, 'utf8').includes('MOVESETS'),
  );
const { status } = spawnSync(
  process.execPath,
  ['node_modules/vitest/vitest.mjs', 'run', '--testTimeout=0', '--reporter=verbose', ...files],
  { stdio: 'inherit', env: { ...process.env, LOGGIA_RANDOM: many, LOGGIA_SEED: seed } },
);
process.exit(status ?? 1);
