import { readFileSync } from 'node:fs';
import { originOf } from '../compile/origin.js';
import { replaceAt } from '../format/edit.js';
import { writeWhole } from '../format/write-whole.js';
import { aimAt } from '../study/aim.js';
import type { Sweeper, SweepRow } from '../study/sweep.js';
import { type ExitCode, type Io, safe } from './io.js';

/** Looks for the value with which a measure comes to a number, tells it, and writes it where it belongs. */
export function aim(
  sweeper: Sweeper,
  rows: readonly SweepRow[],
  goal: number,
  measure: string,
  { write, scenario }: { write: boolean; scenario: string },
  io: Io,
): ExitCode {
  const found = aimAt(sweeper, rows, goal);
  const [varied] = sweeper.varied;
  const name = varied.text.slice(0, varied.text.indexOf('=')).trim();
  if (found === undefined) {
    io.err(`loggia sweep: ${safe(measure)} was measured in no run, so nothing can be aimed at.`);
    return 1;
  }
  const { value, measured, how } = found;
  const told = {
    exact: '',
    near: `, which is as near as it comes: ${goal} lies in a step between two values`,
    outside: `, the nearest: the values do not reach ${goal}`,
    uneven: `, the best of these runs: ${measure} goes up and down, so it was not looked for between them`,
  };
  io.out('');
  io.out(safe(`${name} = ${value} gives ${measure} ${Math.round(measured * 1e4) / 1e4}${told[how]}.`));
  if (!write) return how === 'exact' || how === 'near' ? 0 : 1;
  if (how === 'outside' || how === 'uneven') {
    io.err('loggia sweep: nothing was written, since it does not come to what was aimed at.');
    return 1;
  }
  const place = varied.of === 'moveset' ? originOf(sweeper.plan).placeOf?.(varied.path) : undefined;
  const file = place?.file ?? scenario;
  const text = readFileSync(file, 'utf8');
  const changed = replaceAt(text, place ?? varied.path, varied.present, value);
  if (changed === undefined) {
    io.err(
      safe(
        `loggia sweep: ${file} does not have ${String(varied.present)} at ${name} by itself (it may come from an alias, or be left out); write ${value} there by hand.`,
      ),
    );
    return 1;
  }
  const fault = writeWhole(file, changed, []);
  if (fault) {
    io.err(safe(`loggia sweep: ${file} cannot be written: ${fault}.`));
    return 1;
  }
  io.out(safe(`wrote ${value} for ${String(varied.present)} into ${file}${place ? `:${place.line}` : ''}`));
  return 0;
}
