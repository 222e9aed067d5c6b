import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chart } from './chart.js';
import { check } from './check.js';
import type { CommandSpec } from './command.js';
import { compare } from './compare.js';
import { explore } from './explore.js';
import { facts } from './facts.js';
import { type ExitCode, type Io, safe } from './io.js';
import { legal } from './legal.js';
import { merge } from './merge.js';
import { pack } from './pack.js';
import { replay } from './replay.js';
import { run } from './run.js';
import { schema } from './schema.js';
import { sweep } from './sweep.js';
import { timing } from './timing.js';
import { types } from './types.js';

/** Every command; a new one is a file beside these and a name here. */
export const COMMANDS: readonly CommandSpec[] = [
  check,
  run,
  compare,
  replay,
  timing,
  chart,
  legal,
  sweep,
  merge,
  explore,
  facts,
  types,
  pack,
  schema,
];

function version(): string {
  const here = dirname(fileURLToPath(import.meta.url));
  return JSON.parse(readFileSync(join(here, '../../package.json'), 'utf8')).version;
}

/** The command line as a function of its words (without node and the script). Never throws for what is wrong with them. */
export async function main(words: readonly string[], io: Io): Promise<ExitCode> {
  if (words[0] === '--version' || words[0] === '-v') {
    io.out(version());
    return 0;
  }
  const { Command, CommanderError } = await import('commander');
  let code: ExitCode = 0;
  const program = new Command('loggia')
    .description('Build, check and try the ability state machines of game characters.')
    .option('-v, --version', 'print the version')
    .helpCommand('help [command]', 'show the help of a command')
    .exitOverride()
    .configureOutput({
      writeOut: (text) => io.out(text.trimEnd()),
      writeErr: (text) =>
        io.err(
          text
            .trimEnd()
            .replace(/^error: /, 'loggia: ')
            .split('\n')
            .map(safe)
            .join('\n'),
        ),
    });
  for (const { name, summary, args, argsDoc, options, example, run } of COMMANDS) {
    const command = program.command(name).description(summary).argument(args, argsDoc);
    for (const [flags, doc] of options) command.option(flags, doc);
    command.addHelpText('after', `\nExample:\n  ${example}`).exitOverride().copyInheritedSettings(program);
    command.action(async (given: string | string[], chosen) => {
      code = await run([given].flat(), chosen, io);
    });
  }
  const [first] = words;
  const known = [...COMMANDS.map(({ name }) => name), 'help'];
  const strange = words
    .slice(0, first === 'help' ? 2 : 1)
    .find((word) => !word.startsWith('-') && !known.includes(word));
  if (strange !== undefined) {
    const { nearestName } = await import('../report/nearest.js');
    const nearest = nearestName(strange, known);
    const way = nearest ? `Did you mean "${nearest}"?` : `The commands are ${known.join(', ')}.`;
    io.err(`loggia: there is no command "${safe(strange)}". ${way}`);
    return 2;
  }
  if (!first) {
    program.outputHelp();
    return 2;
  }
  try {
    await program.parseAsync([...words], { from: 'user' });
  } catch (error) {
    if (!(error instanceof CommanderError)) throw error;
    return error.exitCode === 0 ? 0 : 2;
  }
  return code;
}
