import type { CommandSpec } from './command.js';
import { refuse, safe } from './io.js';

const FORMATS = ['moveset', 'scenario', 'opponent'];

export const schema: CommandSpec = {
  name: 'schema',
  summary: 'Print the JSON Schema of a format, for editors that complete and check YAML and JSON.',
  args: '<format>',
  argsDoc: 'moveset, scenario or opponent',
  options: [['--for <file>', 'with the names of this moveset, so that editors complete them']],
  example: 'loggia schema moveset --for pell.yaml > pell.schema.json',
  async run([format], { for: file }, io) {
    if (!FORMATS.includes(format)) {
      io.err(`loggia schema: there is no format "${safe(format)}". The formats are ${FORMATS.join(', ')}.`);
      return 2;
    }
    const { movesetSchema, loadMoveset } = await import('../format/index.js');
    const { opponentSchema, scenarioSchema } = await import('../scenario/schema.js');
    let names: Parameters<typeof movesetSchema>[0];
    if (typeof file === 'string') {
      const loaded = await loadMoveset(file);
      names = loaded.names;
      if (!names)
        return refuse(io, loaded.diagnostics, `loggia schema: ${safe(file)} cannot be read; nothing was printed.`);
    }
    const make = { moveset: movesetSchema, scenario: scenarioSchema, opponent: opponentSchema }[format as 'moveset'];
    io.out(JSON.stringify(make(names), null, 2));
    return 0;
  },
};
