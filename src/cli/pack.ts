import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { safe, showDiagnostic } from './io.js';

export const pack: CommandSpec = {
  name: 'pack',
  summary: 'Check a moveset and write it as JSON that a game can ship without checks and parsers.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [['--out <file>', 'where to write it (default: the standard output)'], ROOT_OPTION],
  example: 'loggia pack demo/boatyard/pell.yaml --out pell.packed.json',
  async run([file], given, io) {
    const { out } = given;
    const { loadMoveset } = await import('../format/index.js');
    const { packMoveset } = await import('../compile/pack.js');
    const { plan, diagnostics, files } = await loadMoveset(file, rootOf(given));
    for (const d of diagnostics) io.err(showDiagnostic(d, io.errColor));
    if (!plan) {
      io.err(`loggia pack: ${safe(file)} has errors; nothing was written.`);
      return 1;
    }
    const text = `${JSON.stringify(packMoveset(plan))}\n`;
    if (typeof out !== 'string') {
      io.out(text.trimEnd());
      return 0;
    }
    const { writeWhole } = await import('./write-whole.js');
    const fault = writeWhole(out, text, [file, ...files]);
    if (fault) {
      io.err(`loggia pack: ${safe(out)} cannot be written: ${fault}.`);
      return 2;
    }
    io.out(`${io.color.green('packed')}  ${safe(plan.name)} into ${safe(out)}: ${Buffer.byteLength(text)} bytes`);
    return 0;
  },
};
