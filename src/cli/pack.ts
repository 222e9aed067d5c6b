import { renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { Command } from 'commander';
import { packMoveset } from '../compile/pack.js';
import { loadMoveset } from '../format/index.js';
import { paintDiagnostic } from './check.js';
import type { ExitCode, Io } from './io.js';

export function addPack(program: Command, io: Io, done: (code: ExitCode) => void): void {
  program
    .command('pack')
    .description('check a moveset and write it as JSON that a game can ship without checks and parsers')
    .argument('<file>', 'a moveset file, YAML or JSON')
    .option('--out <file>', 'where to write it; without it, to the screen')
    .addHelpText('after', '\nExample:\n  loggia pack demo/boatyard/pell.yaml --out pell.packed.json')
    .action(async (file: string, { out }: { out?: string }) => done(await pack(file, out, io)));
}

async function pack(file: string, out: string | undefined, io: Io): Promise<ExitCode> {
  const { plan, diagnostics } = await loadMoveset(file);
  for (const d of diagnostics) io.err(paintDiagnostic(d, io));
  if (!plan) {
    io.err(`${io.color.red('faulty')} ${file}: nothing was written`);
    return 1;
  }
  const text = `${JSON.stringify(packMoveset(plan))}\n`;
  if (out === undefined) {
    io.out(text.trimEnd());
    return 0;
  }
  const unfinished = `${out}.unfinished`;
  try {
    writeFileSync(unfinished, text);
    renameSync(unfinished, out);
  } catch (error) {
    rmSync(unfinished, { force: true });
    io.err(`loggia pack: ${out} cannot be written: ${(error as NodeJS.ErrnoException).code}.`);
    return 2;
  }
  io.out(`${io.color.green('packed')} ${plan.name} into ${basename(out)}: ${text.length} bytes`);
  return 0;
}
