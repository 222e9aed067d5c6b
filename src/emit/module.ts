import { encode } from '@jridgewell/sourcemap-codec';
import { compilePlan } from '../compile/compile.js';
import { packMoveset } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { MODULE } from '../compile/version.js';
import { writeData } from '../record/code.js';
import { NotedMaking } from '../record/recipes.js';
import { wantObject, wantOptions, wantPlan } from '../report/arguments.js';
import { type Path, Sink } from '../report/diagnostic.js';
import { commentText } from '../report/words.js';
import { writeNames } from './names.js';
import { emitPlan } from './plan.js';
import { emitTick, type PrintedTick } from './tick.js';

/** The files of a moveset and its places in them, as `loadMoveset` and `parseMoveset` return them. */
export interface ModuleSource {
  readonly files?: readonly string[];
  readonly texts?: readonly string[];
  readonly placeOf?: (
    path: Path,
  ) => { readonly file: string; readonly line: number; readonly column: number } | undefined;
}

/** How a module is written. */
export interface ModuleOptions {
  /** Name of its own file, for its source map. Default: `moveset.js`. */
  file?: string;
  /**
   * Whether it takes along what reads formulas, for opponents of an arena and for facts by their names. It makes a small game
   * more than twice as large. Default false.
   */
  formulas?: boolean;
  /** How its source map calls a file of the moveset. Default: as it was loaded. */
  sourceName?(file: string): string;
}

/** A moveset as an ES module. */
export interface GeneratedModule {
  /** JavaScript; its default export is the plan that a `Character` takes. */
  readonly code: string;
  /** The types of that module, with the names of the moveset. */
  readonly types: string;
  /** Its source map, to the lines of the moveset. JSON. */
  readonly map: string;
}

/**
 * Writes a moveset as an ES module that does exactly what the interpreter does, without `eval`. The same moveset
 * gives the same text.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @param source The file that it is from, for the source map.
 * @param options What it is called, and where it takes the library from.
 * @throws {PackingError} with the places of all functions, since those cannot be written.
 */
export function packModule(plan: Plan, source: ModuleSource = {}, options: ModuleOptions = {}): GeneratedModule {
  wantPlan('packModule', plan);
  wantObject('packModule', 'where it comes from', source, 'what a loader returns');
  wantOptions('packModule', options, ['file', 'sourceName', 'formulas']);
  const { files = [], texts = [], placeOf } = source;
  const { file = 'moveset.js', sourceName = (name) => name, formulas = false } = options;
  const { uses, code, origins } = writeTick(plan, formulas);
  const head = [
    `// ${commentText(plan.name)}, a moveset of Loggia as a module. It is generated: change the moveset and generate it again.`,
    `import { ${['complete', ...uses].sort().join(', ')} } from 'loggia/module';`,
    '',
    'export default /* @__PURE__ */ make();',
    '',
    '// All in one function: bundlers make variables of the constants of a file, which takes engines twice the time.',
    'function make() {',
  ];
  const tail = ['  return complete(plan, code);', '}', `//# sourceMappingURL=${encodeURIComponent(file)}.map`, ''];
  const placed = origins.map((path) => (path && placeOf ? placeOf(path) : undefined));
  // Comments say in which line of the moveset to look.
  const lines = code.map((line, i) => {
    const place = placed[i];
    if (!place || !/^\/\*\*|\/\//.test(line)) return indent(line);
    const where = commentText(`(${sourceName(place.file).replace(/^.*[\\/]/s, '')}:${place.line})`);
    return indent(line.endsWith(' */') ? `${line.slice(0, -3)} ${where} */` : `${line} ${where}`);
  });
  const segments = placed.map((place, i): [number, number, number, number][] => {
    if (!place) return [];
    return [[code[i].search(/\S/) + INDENT.length, files.indexOf(place.file), place.line - 1, place.column - 1]];
  });
  return {
    code: [...head, ...lines, ...tail].join('\n'),
    types: writeTypes(plan, file),
    map: `${JSON.stringify({
      version: 3,
      file,
      sources: files.map(sourceName),
      sourcesContent: texts,
      names: [],
      mappings: encode([...head.map(() => []), ...segments, ...tail.map(() => [])]),
    })}\n`,
  };
}

const INDENT = '  ';

function indent(line: string): string {
  return line === '' ? '' : INDENT + line;
}

/** The code of a module, with its plan written out where that is wanted and can be done, or made of the packed moveset. */
export function writeTick(plan: Plan, formulas: boolean): PrintedTick {
  // Also where it is not needed, it says what cannot be written.
  const packed = packMoveset(plan);
  if (!formulas) {
    const making = new NotedMaking();
    const again = compilePlan(plan.parsed, plan.names, plan.rate, new Sink(), plan.code, making);
    const written = emitTick(again.plan, (printer) => emitPlan(again.plan, making.recipes, printer));
    if (written) return written;
  }
  return emitTick(plan, ({ uses }) => {
    uses.add('planOf');
    return `const plan = planOf(${MODULE}, ${writeData(packed)});`;
  }) as PrintedTick;
}

/** The types of what a file of this name exports: the plan, with the names of the moveset. */
export function writeTypes(plan: Plan, file: string): string {
  const { name, text } = writeNames(plan);
  return [
    `// The types of ${commentText(file)}. They are generated: "loggia types" makes them again.`,
    "import type { Plan } from 'loggia';",
    '',
    text,
    `declare const plan: Plan<${name}>;`,
    'export default plan;',
    '',
  ].join('\n');
}
