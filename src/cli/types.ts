import { basename } from 'node:path';
import type { CommandSpec } from './command.js';
import { refuse, safe } from './io.js';

export const types: CommandSpec = {
  name: 'types',
  summary: 'Write the types of a moveset: code that imports the file, or uses its plan, then knows all names.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [
    ['--out <file>', 'where to write them, like pell.d.yaml.ts beside pell.yaml (default: the standard output)'],
  ],
  example: 'loggia types demo/boatyard/pell.yaml --out demo/boatyard/pell.d.yaml.ts',
  async run([file], { out }, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { plan, diagnostics, files } = await loadMoveset(file);
    if (!plan) return refuse(io, diagnostics, `loggia types: ${safe(file)} has errors; nothing was printed.`);
    const { writeTypes } = await import('../emit/module.js');
    const text = writeTypes(plan, basename(file));
    if (typeof out !== 'string') {
      io.out(text.trimEnd());
      return 0;
    }
    const { writeWhole } = await import('../format/write-whole.js');
    const fault = writeWhole(out, text, [file, ...files]);
    if (fault) {
      io.err(`loggia types: ${safe(out)} cannot be written: ${safe(fault)}.`);
      return 2;
    }
    io.out(`${io.color.green('written')}  the names of ${safe(plan.name)} into ${safe(out)}`);
    return 0;
  },
};
