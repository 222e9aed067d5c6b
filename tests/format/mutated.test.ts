import { cpSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { type PlacedDiagnostic, parseMoveset } from '../../src/format/index.js';
import { runScenarioFile } from '../../src/scenario/index.js';
import { forRandom, MOVESETS } from '../random/for-random.js';
import type { Random } from '../random/random.js';
import { PELL_TEXT, ROOT } from '../support.js';

const BITS = [
  '{',
  '}',
  '[',
  ']',
  ':',
  ' ',
  '\n',
  '- ',
  ', ',
  '"',
  "'",
  '&a ',
  '*a',
  '? ',
  '|\n',
  '%',
  '\t',
  '\u0000',
  '#',
];
const WORDS = [
  'wind',
  'hop',
  'grounded',
  '12f',
  '0.2s',
  '-1',
  '1e99',
  '.nan',
  'null',
  'for',
  'move',
  '__proto__',
  '---',
];

/** Text with a few pieces left out, doubled, exchanged or put in. */
function mutate(random: Random, text: string): string {
  let out = text;
  for (let i = random.whole(1, 4); i > 0; i--) {
    const tokens = out.split(/(\s+|[{}[\]:,])/);
    const at = random.whole(0, tokens.length - 1);
    const other = random.whole(0, tokens.length - 1);
    switch (random.whole(0, 6)) {
      case 0:
        tokens.splice(at, random.whole(1, 9));
        break;
      case 1:
        tokens.splice(at, 0, ...tokens.slice(other, other + random.whole(1, 30)));
        break;
      case 2:
        [tokens[at], tokens[other]] = [tokens[other], tokens[at]];
        break;
      case 3:
        tokens[at] = random.pick(WORDS);
        break;
      case 4:
        tokens[at] = tokens[at].slice(1);
        break;
      default:
        tokens[at] += random.pick(BITS);
    }
    out = tokens.join('');
  }
  return out;
}

function checkPlaces(text: string, diagnostics: readonly PlacedDiagnostic[]): void {
  const lines = text.split('\n');
  for (const { line, column, sentence, excerpt } of diagnostics) {
    if (!(line >= 1 && line <= lines.length && column >= 1 && column <= lines[line - 1].length + 1))
      expect({ line, column, sentence }).toBe('a place in the file');
    if (/\p{Cc}/u.test(sentence + excerpt)) expect({ sentence, excerpt }).toBe('one line');
    if (/undefined|\[object|NaN of/.test(sentence)) expect(sentence).toBe('a sentence');
  }
}

test('whatever is done to the text of a moveset, each fault is told with a place in it', () => {
  const texts = [PELL_TEXT, readFileSync(join(ROOT, 'bench/yard-fight.yaml'), 'utf8')];
  let good = 0;
  forRandom(MOVESETS / 2, (random) => {
    const text = mutate(random, random.pick(texts));
    const { plan, diagnostics } = parseMoveset(text);
    checkPlaces(text, diagnostics);
    if (plan) good++;
    else expect(diagnostics.length).toBeGreaterThan(0);
  });
  expect(good).toBeGreaterThan(MOVESETS / 50);
});

test('whatever is done to a scenario, it runs or each fault is told with a place in it', async () => {
  const yard = mkdtempSync(join(tmpdir(), 'loggia-'));
  cpSync(join(ROOT, 'demo/boatyard'), yard, { recursive: true });
  const folder = join(yard, 'scenarios');
  const texts = readdirSync(folder).map((file) => readFileSync(join(folder, file), 'utf8'));
  const file = join(folder, 'mutated.yaml');
  const todo: string[] = [];
  forRandom(MOVESETS / 10, (random) => todo.push(mutate(random, random.pick(texts))));
  let ran = 0;
  for (const text of todo) {
    // An hour of ticks is no fault.
    if (/run: *\d{3,}s/.test(text)) continue;
    writeFileSync(file, text);
    const { result, diagnostics } = await runScenarioFile(file);
    checkPlaces(text, diagnostics);
    if (result) ran++;
    else expect(diagnostics.length).toBeGreaterThan(0);
  }
  // A handful may all be faulty.
  if (MOVESETS >= 300) expect(ran).toBeGreaterThan(0);
});
