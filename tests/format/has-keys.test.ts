import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { hasKeys } from '../../src/format/has-keys.js';

const file = join(mkdtempSync(join(tmpdir(), 'loggia-')), 'one.yaml');
const isScenario = (text: string) => {
  writeFileSync(file, text);
  return hasKeys(file, ['scenario']);
};

test.each([
  '{"loggia":1,"scenario":"minified"}',
  '{ loggia: 1, scenario: flow }',
  "loggia: 1\n'scenario': quoted\n",
  '\uFEFFscenario: first\n',
  '# comment\n---\nscenario: later\n',
  '? scenario\n: complex\n',
])('a scenario is one however it is written: %j', (text) => {
  expect(isScenario(text)).toBe(true);
});

test('what only speaks of one is none, but what cannot be read may be', () => {
  expect(isScenario('loggia: 1\nname: no scenario\n')).toBe(false);
  expect(isScenario('more: { scenario: below }\n')).toBe(false);
  expect(isScenario('loggia: [\nscenario: cut off\n')).toBe(true);
});
