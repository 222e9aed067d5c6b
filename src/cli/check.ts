import type { ClipTable, Loaded, PlacedDiagnostic } from '../format/index.js';
import { noNames } from '../moveset/read.js';
import { count } from '../report/words.js';
import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { type ExitCode, type Io, safe, showDiagnostic } from './io.js';

interface Report extends Loaded {
  readonly file: string;
  /** It is a part for others to include, and has no errors. */
  readonly isPart: boolean;
}

const FORMATS = ['text', 'json', 'sarif'] as const;
type Format = (typeof FORMATS)[number];

export const check: CommandSpec = {
  name: 'check',
  summary: 'Check movesets and report every error and warning, each with its place and what to do.',
  args: '<file...>',
  argsDoc: 'moveset files, YAML or JSON',
  options: [
    ['--clips <table>', 'compare clips with a JSON table of their lengths in seconds'],
    ROOT_OPTION,
    ['--watch', 'check again whenever one of the files changes'],
    ['--format <format>', `how to print: ${FORMATS.join(', ')} (default: text)`],
    ['--json', 'the same as --format json'],
  ],
  example: 'loggia check demo/boatyard/pell.yaml',
  async run(files, given, io) {
    const { clips, watch, format, json } = given;
    if (json && format !== undefined && format !== 'json') {
      io.err(`loggia check: --json and --format ${safe(String(format))} are two formats; give one of them.`);
      return 2;
    }
    const printed = json ? 'json' : (format ?? 'text');
    if (!isFormat(printed)) {
      io.err(`loggia check: there is no format "${safe(String(printed))}". The formats are ${FORMATS.join(', ')}.`);
      return 2;
    }
    const table = clips === undefined ? {} : await readTable(String(clips), io);
    if (!table) return 2;
    const options = { ...table, ...rootOf(given) };
    if (!watch) return checkOnce(files, options, printed, io).then(({ code }) => code);
    let seen = new Map<string, string>();
    for (;;) {
      const before = await looksOf(new Set([...files, ...seen.keys()]));
      const { watched } = await checkOnce(files, options, printed, io);
      io.out(io.color.dim(`watching ${count(watched.length, 'file')}; press Ctrl+C to stop`));
      // What was there as the check began: a file that is saved meanwhile is checked again.
      seen = await looksOf(watched);
      for (const [file, look] of before) if (seen.has(file)) seen.set(file, look);
      await nextChange(seen);
    }
  },
};

function isFormat(format: unknown): format is Format {
  return (FORMATS as readonly unknown[]).includes(format);
}

async function checkOnce(
  files: readonly string[],
  options: { clips?: ClipTable; root?: string },
  format: Format,
  io: Io,
): Promise<{ code: ExitCode; watched: readonly string[] }> {
  const { loadMoveset } = await import('../format/index.js');
  const reports: Report[] = [];
  for (const file of files) {
    const loaded = await loadMoveset(file, options);
    const diagnostics = loaded.diagnostics.filter(({ code }) => code !== 'is-part');
    reports.push({ file, ...loaded, diagnostics, isPart: diagnostics.length < loaded.diagnostics.length });
  }
  const ok = reports.every(({ plan, isPart }) => plan || isPart);
  if (format === 'json') io.out(JSON.stringify({ ok, files: reports.map(toJson) }, null, 2));
  else if (format === 'sarif')
    io.out(
      JSON.stringify((await import('./sarif.js')).toSarif(reports.flatMap((report) => report.diagnostics)), null, 2),
    );
  else for (const report of reports) printReport(report, io);
  return {
    code: ok ? 0 : 1,
    watched: [...new Set(reports.flatMap((report) => [report.file, ...report.files, ...report.missing]))],
  };
}

function printReport({ file, plan, isPart, names, diagnostics, omitted }: Report, io: Io): void {
  for (const d of diagnostics) io.out(showDiagnostic(d, io.color));
  if (omitted > 0) io.out(`${safe(file)}: and ${omitted} more, not shown`);
  const warnings = diagnostics.filter((d) => d.severity === 'warning').length;
  if (!plan && !isPart) {
    const errors = diagnostics.length - warnings + omitted;
    io.out(`${io.color.red(count(errors, 'error'))}  ${safe(file)}`);
    return;
  }
  const { pool, button, stick, stance, ability } = plan?.names ?? names ?? noNames();
  // Each side of a stick is a button, too.
  const inputs = button.length - stick.length * 3;
  const counts = [count(ability.length, 'ability'), count(stance.length, 'stance')];
  counts.push(count(inputs, 'input'), count(pool.length, 'pool'));
  if (warnings > 0) counts.push(count(warnings + omitted, 'warning'));
  io.out(`${io.color.green('ok')}  ${safe(file)}: ${plan ? safe(plan.name) : 'a part'}, ${counts.join(', ')}`);
}

/** A report as JSON: without the lists of known names, which may be long. */
function toJson({ file, diagnostics, omitted }: Report) {
  return { file, omitted, diagnostics: diagnostics.map(diagnosticToJson) };
}

export function diagnosticToJson({ params, ...d }: PlacedDiagnostic) {
  const { known, facts, functions, ...told } = params;
  return { ...d, params: told };
}

async function readTable(file: string, io: Io): Promise<{ clips: ClipTable } | undefined> {
  const { parseClipTable } = await import('../format/index.js');
  const { readText } = await import('../format/read-text.js');
  const result = readText(file);
  try {
    if ('text' in result) return { clips: parseClipTable(result.text) };
    io.err(`loggia check: ${safe(file)}: ${result.fault.sentence}`);
  } catch (error) {
    io.err(`loggia check: ${safe(file)}: ${safe((error as Error).message)}`);
  }
  return undefined;
}

/** What tells a file from how it was: none of a file that is not there. */
async function looksOf(files: Iterable<string>): Promise<Map<string, string>> {
  const { statSync } = await import('node:fs');
  const looks = new Map<string, string>();
  for (const file of files) {
    const stat = statSync(file, { throwIfNoEntry: false, bigint: true });
    looks.set(file, stat ? `${stat.mtimeNs} ${stat.size} ${stat.ino}` : '');
  }
  return looks;
}

/** Comes back once one of the files looks otherwise than it did. */
async function nextChange(seen: ReadonlyMap<string, string>): Promise<void> {
  for (;;) {
    const now = await looksOf(seen.keys());
    if ([...seen].some(([file, look]) => now.get(file) !== look)) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
