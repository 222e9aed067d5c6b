import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import type { Plan } from '../../src/index.js';
import { makeMoveset } from '../random/moveset.js';
import { create, difference, makeScript, play, worldOf } from '../random/play.js';
import { Random } from '../random/random.js';
import { plan, ROOT } from '../support.js';
import { generated } from './generated.js';

/** How many changes are tried; `LOGGIA_SPOIL=2000` says more, and lists what nothing notices. */
const CHANGES = Number(process.env.LOGGIA_SPOIL ?? 120);
const SCRIPTS = Number(process.env.LOGGIA_SCRIPTS ?? 24);
const TICKS = 64;

/** What is changed into what: operators, and numbers by one. */
const OTHERS: Readonly<Record<string, string>> = {
  '===': '!==',
  '!==': '===',
  '<=': '>',
  '>=': '<',
  ' < ': ' >= ',
  ' > ': ' <= ',
  '&&': '||',
  '||': '&&',
  ' + ': ' - ',
  ' - ': ' + ',
  '|=': '=',
};
const SPOTS = /===|!==|<=|>=| < | > |&&|\|\|| \+ | - |\|=|\b\d+(?:\.\d+)?\b/g;

interface Change {
  readonly line: string;
  readonly from: string;
  readonly to: string;
  apply(code: string): string;
}

/** One of the places that can be changed, but none in a comment. */
function pickChange(random: Random, code: string): Change {
  const spots = [...code.matchAll(SPOTS)].filter(({ index }) => {
    const line = code.slice(code.lastIndexOf('\n', index) + 1, index);
    return !line.includes('//') && !line.trimStart().startsWith('/**');
  });
  const { index, 0: from } = random.pick(spots);
  const to = OTHERS[from] ?? String(Number(from) + 1);
  const line = code.slice(code.lastIndexOf('\n', index) + 1, code.indexOf('\n', index)).trim();
  return { line, from, to, apply: (text) => text.slice(0, index) + to + text.slice(index + from.length) };
}

/** Whether playing tells a spoilt module from the moveset that it was made of. */
function isNoticed(made: Plan, seed: number, change: (code: string) => string): boolean {
  let spoilt: Plan;
  try {
    spoilt = generated(made, change);
  } catch {
    return true;
  }
  for (let i = 0; i < SCRIPTS; i++) {
    const random = new Random(seed + i);
    const world = worldOf(random, made);
    const script = makeScript(random, made, TICKS);
    const told = play(create(made, world), script);
    try {
      if (difference(told, play(create(spoilt, world), script)) !== undefined) return true;
    } catch {
      return true;
    }
  }
  return false;
}

const pell = plan(`${readFileSync(join(ROOT, 'demo/boatyard/pell-basics.yaml'), 'utf8')}\nevents: [bell]\n`);

test('a module in which one number or operator is changed is told from its moveset', () => {
  const missed: string[] = [];
  for (let seed = 1; seed <= CHANGES; seed++) {
    const random = new Random(seed);
    const made = random.chance(0.4) ? pell : makeMoveset(random, { functions: false });
    let change: Change | undefined;
    generated(made, (code) => {
      change = pickChange(random, code);
      return code;
    });
    const { line, from, to, apply } = change as Change;
    if (!isNoticed(made, seed * 1000, apply)) missed.push(`${seed}: ${from} -> ${to} in ${line}`);
  }
  if (process.env.LOGGIA_SPOIL) console.log(missed.join('\n'));
  console.log(`${CHANGES - missed.length} of ${CHANGES} changes were noticed`);
  expect(missed.length / CHANGES).toBeLessThan(0.4);
}, 600_000);
