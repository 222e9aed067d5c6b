import { writeNames } from '../emit/names.js';
import { commentText } from '../report/words.js';
import type { CommandSpec } from './command.js';
import { refuse, safe } from './io.js';

export const types: CommandSpec = {
  name: 'types',
  summary: 'Print the names of a moveset as TypeScript types, so that code that uses the file is checked.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [],
  example: 'loggia types demo/boatyard/pell.yaml > pell-names.d.ts',
  async run([file], _, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { plan, diagnostics } = await loadMoveset(file);
    if (!plan) return refuse(io, diagnostics, `loggia types: ${safe(file)} has errors; nothing was printed.`);
    const { name, text } = writeNames(plan);
    io.out(
      `// Names of the moveset ${commentText(plan.name)}. Made by "loggia types"; run it again when the moveset changes.`,
    );
    io.out(`// Use: new Character(plan as Plan<${name}>, ...)`);
    io.out(text);
    return 0;
  },
};
