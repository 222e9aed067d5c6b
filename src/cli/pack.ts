import { basename, dirname, relative, resolve, sep } from 'node:path';
import type { Plan } from '../compile/plan.js';
import type { Loaded } from '../format/parse.js';
import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { safe, showDiagnostic } from './io.js';

export const pack: CommandSpec = {
  name: 'pack',
  summary: 'Check a moveset and write it as JSON, or as a JavaScript module, that a game can ship.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [
    ['--out <file>', 'where to write it (default: the standard output)'],
    ['--module', 'write an ES module, with its types and its source map beside it; needs --out'],
    ['--formulas', 'with --module: take along what reads formulas, for opponents and for facts by name'],
    ROOT_OPTION,
  ],
  example: 'loggia pack demo/boatyard/pell.yaml --out pell.packed.json',
  async run([file], given, io) {
    const { out, module, formulas } = given;
    if (formulas && !module) {
      io.err('loggia pack: --formulas says what a module takes along; give --module as well.');
      return 2;
    }
    if (module && !(typeof out === 'string' && /\.m?js$/.test(out))) {
      io.err(
        'loggia pack: --module writes a module and two files beside it; say where with --out, like --out pell.js.',
      );
      return 2;
    }
    const { loadMoveset } = await import('../format/index.js');
    const loaded = await loadMoveset(file, rootOf(given));
    const { plan, diagnostics, files } = loaded;
    for (const d of diagnostics) io.err(showDiagnostic(d, io.errColor));
    if (!plan) {
      io.err(`loggia pack: ${safe(file)} has errors; nothing was written.`);
      return 1;
    }
    if (typeof out !== 'string') {
      io.out(await writePacked(plan));
      return 0;
    }
    const texts = module
      ? await writeModule(loaded, plan, out, formulas === true)
      : [[out, `${await writePacked(plan)}\n`] as const];
    const { writeAll } = await import('../format/write-whole.js');
    const fault = writeAll(texts, [file, ...files]);
    if (fault) {
      io.err(`loggia pack: ${safe(fault.file)} cannot be written: ${safe(fault.why)}.`);
      return 2;
    }
    const [to, text] = texts[texts.length - 1];
    const beside = texts.slice(0, -1).map(([other]) => safe(basename(other)));
    const size = `${Buffer.byteLength(text)} bytes${beside.length > 0 ? `, with ${beside.join(' and ')} beside it` : ''}`;
    io.out(`${io.color.green('packed')}  ${safe(plan.name)} into ${safe(to)}: ${size}`);
    return 0;
  },
};

async function writePacked(plan: Plan): Promise<string> {
  const { packMoveset } = await import('../compile/pack.js');
  return JSON.stringify(packMoveset(plan));
}

/** A module, its types and its source map, each with the file that it goes into. */
async function writeModule(
  loaded: Loaded,
  plan: Plan,
  out: string,
  formulas: boolean,
): Promise<(readonly [string, string])[]> {
  const { packModule } = await import('../emit/module.js');
  const folder = dirname(resolve(out));
  const { code, types, map } = packModule(plan, loaded, {
    file: basename(out),
    formulas,
    sourceName: (name) => relative(folder, resolve(name)).split(sep).join('/'),
  });
  return [
    [`${out}.map`, map],
    [out.replace(/js$/, 'ts').replace(/\.(m?ts)$/, '.d.$1'), types],
    [out, code],
  ];
}
