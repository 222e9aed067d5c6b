import { encode } from '@jridgewell/sourcemap-codec';
import { packMoveset } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { MODULE } from '../compile/unpack.js';
import type { Path } from '../report/diagnostic.js';
import { oneLine } from './emitter.js';
import { writeNames } from './names.js';
import { emitTick } from './tick.js';

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
 * Writes a moveset as an ES module that does exactly what the interpreter does, without `eval`. The same moveset gives the same
 * text. Throws a {@link PackingError} with the places of all functions, since those cannot be written.
 */
export function packModule(
  plan: Plan,
  { files = [], texts = [], placeOf }: ModuleSource = {},
  { file = 'moveset.js', sourceName = (name) => name }: ModuleOptions = {},
): GeneratedModule {
  const packed = packMoveset(plan);
  const { uses, code, origins } = emitTick(plan);
  const used = ['abilities', 'loadouts', 'phases', 'pools', 'stances', 'triggers'].filter((name) =>
    code.some((line) => line.includes(`${name}[`)),
  );
  const head = [
    `// ${oneLine(plan.name)}, a moveset of Loggia as a module. It is generated: change the moveset and generate it again.`,
    `import { ${['complete', 'planOf', ...uses].sort().join(', ')} } from 'loggia/module';`,
    '',
    '/** What it was generated from. */',
    `const plan = planOf(${MODULE}, ${JSON.stringify(packed)});`,
    ...(used.length > 0 ? [`const { ${used.join(', ')} } = plan;`] : []),
    '',
  ];
  const tail = [
    '',
    'export default complete(plan, { takeIn, notePress, decide, move, tick });',
    `//# sourceMappingURL=${file}.map`,
    '',
  ];
  const placed = origins.map((path) => (path && placeOf ? placeOf(path) : undefined));
  // Comments say in which line of the moveset to look.
  const lines = code.map((line, i) => {
    const place = placed[i];
    if (!place || !/^\/\*\*|\/\//.test(line)) return line;
    const where = `(${sourceName(place.file).replace(/^.*[\\/]/, '')}:${place.line})`;
    return line.endsWith(' */') ? `${line.slice(0, -3)} ${where} */` : `${line} ${where}`;
  });
  const segments = placed.map((place, i): [number, number, number, number][] => {
    if (!place) return [];
    return [[code[i].search(/\S/), files.indexOf(place.file), place.line - 1, place.column - 1]];
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

/** The types of what a file of this name exports: the plan, with the names of the moveset. */
export function writeTypes(plan: Plan, file: string): string {
  const { name, text } = writeNames(plan);
  return [
    `// The types of ${file}. They are generated with it.`,
    "import type { Plan } from 'loggia';",
    '',
    text,
    `declare const plan: Plan<${name}>;`,
    'export default plan;',
    '',
  ].join('\n');
}
