import type { Command } from 'commander';
import {
  type ClipTable,
  formatDiagnostic,
  loadMoveset,
  type PlacedDiagnostic,
  parseClipTable,
} from '../format/index.js';
import { readText } from '../format/read-text.js';
import type { ExitCode, Io } from './io.js';

export function addCheck(program: Command, io: Io, done: (code: ExitCode) => void): void {
  program
    .command('check')
    .description('read movesets and report every fault, each with its place and the way out')
    .argument('<file...>', 'moveset files, YAML or JSON')
    .option('--clips <table>', 'hold clips against a JSON table of their lengths in seconds')
    .option('--json', 'print the diagnostics as JSON')
    .addHelpText('after', '\nExample:\n  loggia check demo/boatyard/pell.yaml')
    .action(async (files: string[], options: Options) => done(await check(files, options, io)));
}

interface Options {
  clips?: string;
  json?: boolean;
}

async function check(files: string[], { clips, json }: Options, io: Io): Promise<ExitCode> {
  const table = clips === undefined ? {} : readTable(clips, io);
  if (!table) return 2;
  const reports = [];
  for (const file of files) reports.push({ file, ...(await loadMoveset(file, table)) });
  const failed = reports.some((report) => !report.plan);
  if (json) {
    io.out(
      JSON.stringify({ ok: !failed, files: reports.map(({ file, diagnostics }) => ({ file, diagnostics })) }, null, 2),
    );
    return failed ? 1 : 0;
  }
  for (const { file, plan, diagnostics } of reports) {
    for (const d of diagnostics) io.out(paintDiagnostic(d, io));
    if (plan) {
      const { pool, button, stance, ability } = plan.names;
      const warnings = diagnostics.length;
      const warned = warnings === 0 ? '' : `; ${warnings} ${warnings === 1 ? 'warning' : 'warnings'}`;
      const inputs = button.length - plan.sticks.length * 4 + plan.sticks.length;
      const counts = `${ability.length} abilities, ${stance.length} stances, ${inputs} inputs, ${pool.length} pools`;
      io.out(
        `${io.color.green('sound')}  ${file}: ${plan.name}, ${counts}; a record of ${plan.recordSize * 8} bytes${warned}`,
      );
    } else {
      const errors = diagnostics.filter((d) => d.severity === 'error').length;
      io.out(`${io.color.red('faulty')} ${file}: ${errors} ${errors === 1 ? 'error' : 'errors'}`);
    }
  }
  return failed ? 1 : 0;
}

function readTable(file: string, io: Io): { clips: ClipTable } | undefined {
  const result = readText(file);
  try {
    if ('text' in result) return { clips: parseClipTable(result.text) };
    io.err(`loggia check: ${file}: ${result.fault.sentence}`);
  } catch (error) {
    io.err(`loggia check: ${file}: ${(error as Error).message}`);
  }
  return undefined;
}

export function paintDiagnostic(d: PlacedDiagnostic, { color }: Io): string {
  const text = formatDiagnostic(d);
  const paint = d.severity === 'error' ? color.red : color.yellow;
  return text.replace(` ${d.severity} ${d.code}:`, ` ${paint(d.severity)} ${d.code}:`);
}
