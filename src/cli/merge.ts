import { readFileSync } from 'node:fs';
import { isPlain } from '../moveset/read.js';
import type { CommandSpec } from './command.js';
import { safe } from './io.js';
import { presentSweep, type SweepResult } from './present-sweep.js';

/** A file with more is none of ours. */
const MOST_BYTES = 400_000_000;

export const merge: CommandSpec = {
  name: 'merge',
  summary: 'Put the parts of a sweep together that several machines have run.',
  args: '<part...>',
  argsDoc: 'files that "loggia sweep --shard i/n --out part.json" wrote',
  options: [
    ['--csv', 'print the table as CSV'],
    ['--json', 'print the runs as JSON'],
    ['--out <file>', 'write them to a file: .svg, .png or .html for a plot, .csv, .json'],
  ],
  example: 'loggia merge part-1.json part-2.json --out dash.svg',
  async run(files, given, io) {
    const parts: SweepResult[] = [];
    for (const file of files) {
      const part = readPart(file);
      if (typeof part === 'string') {
        io.err(safe(`loggia merge: ${file} ${part}.`));
        return 1;
      }
      parts.push(part);
    }
    const [first] = parts;
    const other = parts.findIndex(({ sweep }) => JSON.stringify(sweep) !== JSON.stringify(first.sweep));
    if (other >= 0) {
      io.err(
        safe(
          `loggia merge: ${files[other]} is of another sweep than ${files[0]}, or its files were changed in between.`,
        ),
      );
      return 1;
    }
    const rows = new Map(parts.flatMap((part) => part.rows.map((row) => [row.index, row])));
    const sorted = [...rows.values()].sort((a, b) => a.index - b.index);
    const code = await presentSweep({ ...first, rows: sorted }, given, files, io);
    if (rows.size === first.sweep.count) return code;
    io.err(
      `loggia merge: ${first.sweep.count - rows.size} of ${first.sweep.count} runs are missing; a part of the sweep is not here.`,
    );
    return 1;
  },
};

/** A part, or what is wrong with the file. */
function readPart(file: string): SweepResult | string {
  let data: unknown;
  try {
    const text = readFileSync(file, 'utf8');
    if (text.length > MOST_BYTES) return 'is too large';
    data = JSON.parse(text);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === undefined
      ? 'is no JSON'
      : `cannot be read: ${(error as NodeJS.ErrnoException).code}`;
  }
  return isPart(data) ? data : 'is no part of a sweep: "loggia sweep --json" writes one';
}

function isPart(data: unknown): data is SweepResult {
  if (!isPlain(data) || data.loggia !== 1 || !isPlain(data.sweep) || !Array.isArray(data.rows)) return false;
  const { id, scenario, vary, measures, count } = data.sweep as Partial<SweepResult['sweep']>;
  const texts = (list: unknown): list is string[] =>
    Array.isArray(list) && list.every((one) => typeof one === 'string');
  if (typeof id !== 'number' || typeof scenario !== 'string' || !texts(measures) || !Array.isArray(vary)) return false;
  if (!Number.isInteger(count) || vary.length < 1 || vary.length > 2) return false;
  if (!vary.every((axis) => isPlain(axis) && Array.isArray(axis.labels))) return false;
  const size = vary.reduce((product, { labels }) => product * labels.length, 1);
  return (
    size === count &&
    vary.every(
      ({ title, labels, numbers, unit, path }) =>
        typeof unit === 'string' &&
        Array.isArray(path) &&
        path.every((step) => typeof step === 'string' || Number.isInteger(step)) &&
        typeof title === 'string' &&
        texts(labels) &&
        Array.isArray(numbers) &&
        numbers.length === labels.length &&
        numbers.every(Number.isFinite),
    ) &&
    data.rows.every(
      (row) =>
        isPlain(row) &&
        Number.isInteger(row.index) &&
        (row.index as number) >= 0 &&
        (row.index as number) < size &&
        Array.isArray(row.values) &&
        row.values.length === vary.length &&
        row.values.every((value) => typeof value === 'string' || Number.isFinite(value)) &&
        (row.fault === undefined || typeof row.fault === 'string') &&
        Array.isArray(row.measured) &&
        row.measured.length === measures.length &&
        row.measured.every((value) => value === null || Number.isFinite(value)),
    )
  );
}
