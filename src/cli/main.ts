import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Command, CommanderError } from 'commander';
import { nearestName } from '../report/nearest.js';
import { addCheck } from './check.js';
import type { ExitCode, Io } from './io.js';
import { addPack } from './pack.js';
import { addRun } from './run.js';
import { addSchema } from './schema.js';

/** Every command; a new one is a file beside these and a line here. */
const COMMANDS = [addCheck, addRun, addPack, addSchema];

function version(): string {
  const here = dirname(fileURLToPath(import.meta.url));
  return JSON.parse(readFileSync(join(here, '../../package.json'), 'utf8')).version;
}

/** The command line as a function of its words (without node and the script). Never throws for what is wrong with them. */
export async function main(words: readonly string[], io: Io): Promise<ExitCode> {
  let code: ExitCode = 0;
  const program = new Command('loggia')
    .description('build, check and try the ability state machines of game characters')
    .version(version(), '-v, --version', 'print the version')
    .helpCommand(false)
    .showSuggestionAfterError(false)
    .exitOverride()
    .configureOutput({
      writeOut: (text) => io.out(text.trimEnd()),
      writeErr: (text) => io.err(text.trimEnd().replace(/^error: /, 'loggia: ')),
    });
  for (const add of COMMANDS)
    add(program, io, (result) => {
      code = result;
    });
  for (const command of program.commands) command.exitOverride().copyInheritedSettings(program);
  const [first] = words;
  const known = program.commands.map((command) => command.name());
  if (first && !first.startsWith('-') && !known.includes(first)) {
    const nearest = nearestName(first, known);
    const tail = nearest ? `Did you mean "${nearest}"?` : `There are ${known.join(', ')}.`;
    io.err(`loggia: there is no command "${first}". ${tail}`);
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
