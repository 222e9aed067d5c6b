import { expect, test } from 'vitest';
import { packModule } from '../../src/format/text.js';
import { compileMoveset, PackingError } from '../../src/index.js';
import { planOf } from '../../src/module/index.js';

test('functions cannot be written: all of them are told with their places', () => {
  const plan = compileMoveset({
    loggia: 1,
    name: 'Pell',
    pools: { wind: { max: 9, regen: () => 1 } },
    stances: { stand: { when: () => true }, fall: {} },
  });
  expect(() => packModule(plan)).toThrow(PackingError);
  expect(() => packModule(plan)).toThrow(/pools\.wind\.regen, stances\.stand\.when/);
});

test('a module of another version is refused with a way out', () => {
  expect(() => planOf(99, {})).toThrow('generated as 99, but this Loggia takes 1; generate it again');
});
