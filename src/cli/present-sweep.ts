import { csvLine } from '../draw/csv.js';
import type { Plot } from '../draw/plot.js';
import type { Path } from '../report/diagnostic.js';
import type { SweepRow } from '../study/sweep.js';
import { type ExitCode, type Io, safe } from './io.js';

/** A sweep, or a part of one, as `--json` prints it. */
export interface SweepResult {
  readonly loggia: 1;
  readonly sweep: {
    readonly id: number;
    readonly scenario: string;
    readonly vary: readonly {
      readonly title: string;
      readonly path: Path;
      readonly labels: readonly string[];
      readonly numbers: readonly number[];
      readonly unit: string;
    }[];
    readonly measures: readonly string[];
    /** How many runs there are in all. */
    readonly count: number;
  };
  readonly rows: readonly SweepRow[];
}

/** Columns of a bar. */
const BAR = 28;

/** Prints a sweep, or writes it to a file, as was asked for. */
export async function presentSweep(
  result: SweepResult,
  given: Readonly<Record<string, string | true | undefined>>,
  sources: readonly string[],
  io: Io,
): Promise<ExitCode> {
  const csv = () => `${toCsv(result).join('\n')}\n`;
  const json = () => `${JSON.stringify(result, null, 1)}\n`;
  if (given.out !== undefined) {
    const plot = await import('../draw/plot.js');
    const { writePages } = await import('./write-out.js');
    return writePages(
      String(given.out),
      {
        svg: () => [plot.plotSvg(plotOf(result))],
        png: async () => [await (await import('./png.js')).toPng(plot.plotSvg(plotOf(result)))],
        html: () => [plot.plotHtml(plotOf(result))],
        csv: () => [csv()],
        json: () => [json()],
      },
      sources,
      io,
    );
  }
  const faults = new Set(result.rows.map(({ fault }) => fault));
  const [only] = faults;
  if (faults.size === 1 && only !== undefined && !given.json) {
    io.err(safe(`none of the ${result.rows.length} runs is possible: ${only}`));
    return 1;
  }
  if (given.json) io.out(json().trimEnd());
  else if (given.csv) io.out(csv().trimEnd());
  else if (result.sweep.vary.length === 1) printList(result, io);
  else printGrids(result, io);
  return result.rows.some(({ fault }) => fault !== undefined) ? 1 : 0;
}

function toCsv({ sweep, rows }: SweepResult): string[] {
  return [
    csvLine([...sweep.vary.map(({ title }) => title), ...sweep.measures, 'fault']),
    ...rows.map(({ values, measured, fault }) => csvLine([...values, ...measured, fault])),
  ];
}

function plotOf({ sweep, rows }: SweepResult): Plot {
  const byIndex = new Map(rows.map((row) => [row.index, row]));
  return {
    title: sweep.scenario,
    axes: sweep.vary.map(({ title, labels, numbers }) => ({ title, labels, numbers })),
    measured: sweep.measures.map((title, i) => ({
      title,
      values: Array.from({ length: sweep.count }, (_, index) => byIndex.get(index)?.measured[i] ?? null),
    })),
  };
}

/** A number with three decimals at most, and none that say nothing. */
const short = (value: number | null): string =>
  value === null ? 'never' : Number.isFinite(value) ? String(Math.round(value * 1000) / 1000) : String(value);

function printList({ sweep, rows }: SweepResult, io: Io): void {
  const [{ title }] = sweep.vary;
  const known = rows.flatMap(({ measured: [value] }) => (value === null ? [] : value));
  const most = Math.max(...known.map(Math.abs), 0);
  const cells = rows.map(({ values, measured }) => [String(values[0]), ...measured.map(short)]);
  const heads = ['', ...sweep.measures];
  const widths = heads.map((head, i) => Math.max(head.length, ...cells.map((line) => line[i].length)));
  io.out(safe(sweep.scenario));
  io.out(io.color.dim(safe(title)));
  io.out(io.color.bold(heads.map((head, i) => safe(head).padStart(widths[i])).join('  ')));
  rows.forEach(({ measured: [value], fault }, i) => {
    const line = cells[i].map((cell, k) => safe(cell).padStart(widths[k])).join('  ');
    if (fault !== undefined) io.out(`${cells[i][0].padStart(widths[0])}  ${io.color.red(safe(fault))}`);
    else {
      const length = most === 0 ? 0 : Math.round((Math.abs(value ?? 0) / most) * BAR);
      io.out(`${line}  ${io.color.cyan('#'.repeat(length))}`.trimEnd());
    }
  });
}

/** A grid for each measure: the first number downwards, the second one across. */
function printGrids({ sweep, rows }: SweepResult, io: Io): void {
  const [down, across] = sweep.vary;
  const byIndex = new Map(rows.map((row) => [row.index, row]));
  io.out(safe(sweep.scenario));
  io.out(io.color.dim(safe(`down: ${down.title}   across: ${across.title}`)));
  sweep.measures.forEach((measure, m) => {
    const cells = down.labels.map((_, i) =>
      across.labels.map((_, k) => {
        const row = byIndex.get(i * across.labels.length + k);
        return row ? (row.fault === undefined ? short(row.measured[m]) : 'fault') : '-';
      }),
    );
    const widths = across.labels.map((label, k) => Math.max(label.length, ...cells.map((line) => line[k].length)));
    const first = Math.max(measure.length, ...down.labels.map((label) => label.length));
    io.out('');
    io.out(
      io.color.bold(
        `${safe(measure).padStart(first)}  ${across.labels.map((label, k) => safe(label).padStart(widths[k])).join('  ')}`,
      ),
    );
    down.labels.forEach((label, i) => {
      io.out(`${safe(label).padStart(first)}  ${cells[i].map((cell, k) => cell.padStart(widths[k])).join('  ')}`);
    });
  });
  const faults = new Set(rows.flatMap(({ fault }) => fault ?? []));
  for (const fault of [...faults].slice(0, 5)) io.out(io.color.red(safe(fault)));
}
