import type { CommandSpec } from './command.js';

const SHELLS = ['bash', 'zsh', 'fish'] as const;

/** The command that completes all commands. */
export const completionOf = (loadCommands: () => Promise<CommandSpec[]>): CommandSpec => ({
  name: 'completion',
  summary: 'Print a script that completes commands and options in a shell.',
  args: '<shell>',
  argsDoc: SHELLS.join(', '),
  options: [],
  example: 'loggia completion bash >> ~/.bashrc',
  async run([shell], _, io) {
    const commands = (await loadCommands()).map(({ name, summary, options }) => ({
      name,
      summary,
      options: options.map(([flags, doc]) => ({ flag: flags.split(' ')[0], doc })),
    }));
    if (shell === 'bash') io.out(bash(commands));
    else if (shell === 'zsh') io.out(zsh(commands));
    else if (shell === 'fish') io.out(fish(commands));
    else {
      io.err(
        `loggia completion: there is no shell "${shell.replace(/[^\w-]/g, '?')}" here. There are ${SHELLS.join(', ')}.`,
      );
      return 2;
    }
    return 0;
  },
});

interface Completed {
  readonly name: string;
  readonly summary: string;
  readonly options: readonly { readonly flag: string; readonly doc: string }[];
}

/** Text within single quotes of a shell. */
const quoted = (text: string): string => `'${text.replaceAll("'", "'\\''")}'`;

function bash(commands: readonly Completed[]): string {
  const cases = commands.map(
    ({ name, options }) => `    ${name}) words="${options.map(({ flag }) => flag).join(' ')} --help" ;;`,
  );
  return `_loggia() {
  local word="\${COMP_WORDS[COMP_CWORD]}" words=""
  if [ "$COMP_CWORD" -eq 1 ]; then
    COMPREPLY=($(compgen -W "${commands.map(({ name }) => name).join(' ')} help" -- "$word"))
    return
  fi
  case "\${COMP_WORDS[1]}" in
${cases.join('\n')}
  esac
  case "$word" in
    -*) COMPREPLY=($(compgen -W "$words" -- "$word")) ;;
    *) COMPREPLY=($(compgen -f -- "$word")) ;;
  esac
}
complete -o filenames -F _loggia loggia`;
}

function zsh(commands: readonly Completed[]): string {
  const list = commands.map(({ name, summary }) => `    ${quoted(`${name}:${summary.replaceAll(':', ' -')}`)}`);
  const cases = commands.map(({ name, options }) => {
    const flags = options.map(({ flag, doc }) => quoted(`${flag}[${doc.replace(/[[\]]/g, '')}]`));
    return `    ${name}) _arguments ${[...flags, "'*:file:_files'"].join(' ')} ;;`;
  });
  return `#compdef loggia
_loggia() {
  local -a commands
  commands=(
${list.join('\n')}
  )
  if (( CURRENT == 2 )); then
    _describe command commands
    return
  fi
  local command=$words[2]
  shift words
  (( CURRENT-- ))
  case $command in
${cases.join('\n')}
  esac
}
compdef _loggia loggia`;
}

function fish(commands: readonly Completed[]): string {
  return commands
    .flatMap(({ name, summary, options }) => [
      `complete -c loggia -n __fish_use_subcommand -a ${name} -d ${quoted(summary)}`,
      ...options.map(
        ({ flag, doc }) =>
          `complete -c loggia -n '__fish_seen_subcommand_from ${name}' -l ${flag.replace(/^--/, '')} -d ${quoted(doc)}`,
      ),
    ])
    .join('\n');
}
