import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { CommandSpec } from './command.js';
import { type ExitCode, type Io, safe } from './io.js';

/** Every command, in the order in which help lists them; a new one is a file beside these and a line here. Only the one that is asked for is loaded. */
export const COMMANDS: Readonly<Record<string, () => Promise<CommandSpec>>> = {
  new: async () => (await import('./new.js')).make,
  check: async () => (await import('./check.js')).check,
  run: async () => (await import('./run.js')).run,
  compare: async () => (await import('./compare.js')).compare,
  lab: async () => (await import('./lab.js')).lab,
  report: async () => (await import('./report.js')).report,
  replay: async () => (await import('./replay.js')).replay,
  timing: async () => (await import('./timing.js')).timing,
  chart: async () => (await import('./chart.js')).chart,
  legal: async () => (await import('./legal.js')).legal,
  sweep: async () => (await import('./sweep.js')).sweep,
  merge: async () => (await import('./merge.js')).merge,
  explore: async () => (await import('./explore.js')).explore,
  facts: async () => (await import('./facts.js')).facts,
  types: async () => (await import('./types.js')).types,
  pack: async () => (await import('./pack.js')).pack,
  schema: async () => (await import('./schema.js')).schema,
  completion: async () => (await import('./completion.js')).completionOf(loadCommands),
};

/** All commands with their options. */
export async function loadCommands(): Promise<CommandSpec[]> {
  return Promise.all(Object.values(COMMANDS).map((load) => load()));
}

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
  const [first] = words;
  const asked = first !== undefined && Object.hasOwn(COMMANDS, first) ? COMMANDS[first] : undefined;
  for (const { name, summary, args, argsDoc, options, example, run } of asked
    ? [await asked()]
    : await loadCommands()) {
    const command = program.command(name).description(summary).argument(args, argsDoc);
    for (const [flags, doc] of options) command.option(flags, doc);
    command.addHelpText('after', `\nExample:\n  ${example}`).exitOverride().copyInheritedSettings(program);
    command.action(async (given: string | string[], chosen) => {
      code = await run([given].flat(), chosen, io);
    });
  }
  const known = [...Object.keys(COMMANDS), 'help'];
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
