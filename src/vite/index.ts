import { existsSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, isAbsolute, relative, resolve } from 'node:path';
import type { Plugin, ViteDevServer } from 'vite';
import { writeOrigin } from '../compile/origin.js';
import { packMoveset } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { packModule, writeTypes } from '../emit/module.js';
import { hasKeys } from '../format/has-keys.js';
import { type Loaded, loadMoveset, type PlacedDiagnostic } from '../format/index.js';
import { parseOpponentSource } from '../format/opponent.js';
import { readText } from '../format/read-text.js';
import { isInFolder } from '../format/root.js';
import { writeWhole } from '../format/write-whole.js';
import { writeData } from '../record/code.js';
import { wantOptions } from '../report/arguments.js';
import { usesFormulas } from './uses-formulas.js';
import { serveViewer } from './viewer.js';

/** How movesets are imported. */
export interface ImportOptions {
  /** The folder that included files must be in. Default: the nearest one above the moveset with a package.json or .git. */
  root?: string;
  /**
   * Whether modules take along what reads formulas, for opponents of an arena and for facts by their names. Default: whether a source file
   * below Vite's root names `facts`, `compileOpponent` or another thing that needs it; tests do not count.
   */
  formulas?: boolean;
  /**
   * Writes `pell.d.yaml.ts` beside `pell.yaml` whenever its names change, so that TypeScript knows them, as `loggia types --out`
   * does; its option `allowArbitraryExtensions` must be on. Default false.
   */
  types?: boolean;
}

/** A query that says what an imported file is, of YAML or JSON; without one, YAML files are looked into. */
const QUERY = /\?(moveset|opponent)$/;
/** Files with a query, as modules: with an ending by which no other plugin takes them for data. */
const ASKED = /^\0loggia-(moveset|opponent):(.+)\.js$/;

/**
 * A plugin for Vite by which `import pell from './pell.yaml'` gives a plan; `./pell.json?moveset` does so of JSON,
 * and `./rival.yaml?opponent` gives what `compileOpponent` takes. A build takes the generated module; the development
 * server takes the interpreter, which says more and is there at once. Faults are shown at their places, and the files
 * that a moveset includes are watched. Other YAML files are left to other plugins.
 * @param options Whether types are written, and how clips are checked.
 */
export function movesets(options: ImportOptions = {}): Plugin {
  wantOptions('movesets', options, ['root', 'formulas', 'types']);
  const { root, formulas, types = false } = options;
  let takesFormulas: boolean | undefined;
  let builds = false;
  let folder = '.';
  let out = '';
  /** Movesets that pages have, by the modules that these asked for. */
  const live = new Map<string, { readonly id: string; readonly files: ReadonlySet<string> }>();
  const nameOf = (file: string) => relative(folder, resolve(file));
  let served: { strict?: boolean; allow?: readonly string[] } = {};
  return {
    name: 'loggia',
    enforce: 'pre',
    configResolved(config) {
      builds = config.command === 'build';
      folder = config.root;
      out = resolve(config.root, config.build.outDir);
      served = config.server.fs;
    },
    /** The viewer, for whatever is shown by `loggia/show`. */
    configureServer(server) {
      server.middlewares.use('/__loggia', serveViewer(folder));
    },
    transformIndexHtml() {
      return builds ? [] : [{ tag: 'script', children: 'globalThis.__loggia = true', injectTo: 'head-prepend' }];
    },
    buildStart() {
      // Sources may have changed since the last build.
      takesFormulas = formulas;
    },
    async resolveId(source, importer) {
      const [query, kind] = QUERY.exec(source) ?? [];
      if (query === undefined) return null;
      const found = await this.resolve(source.slice(0, -query.length), importer, { skipSelf: true });
      return found && `\0loggia-${kind}:${found.id}.js`;
    },
    async load(asked, options) {
      const [, kind = 'moveset', id = asked] = ASKED.exec(asked) ?? [];
      if (id === asked ? !isMoveset(id) : !isFile(id)) return null;
      if (!builds && !isAllowed(id, served)) return null;
      if (kind === 'opponent') {
        this.addWatchFile(id);
        const { source, diagnostics } = readOpponent(id);
        if (source === undefined) return this.error(faultOf(diagnostics, folder));
        return { code: `export default ${writeData(source)};\n`, map: null, moduleType: 'js' };
      }
      const loaded = await loadMoveset(id, root === undefined ? {} : { root });
      const watched = [...loaded.files, ...loaded.missing].map((file) => resolve(file));
      for (const file of watched) this.addWatchFile(file);
      if (!builds) live.set(asked, { id, files: new Set(watched) });
      const { plan, diagnostics } = loaded;
      for (const d of diagnostics) if (d.severity === 'warning') this.warn(faultOf([d], folder));
      if (!plan)
        this.error(
          faultOf(
            diagnostics.filter((d) => d.severity === 'error'),
            folder,
          ),
        );
      const fault = types && id === asked ? keepTypes(id, plan) : undefined;
      if (fault) this.warn(fault);
      // A server renders once: nobody there is to be swapped.
      if (!builds && options?.ssr) return { ...interpreted(plan), moduleType: 'js' };
      if (!builds) return { ...living(nameOf, id, plan), moduleType: 'js' };
      takesFormulas ??= usesFormulas(folder, out);
      return { ...written(id, plan, loaded, takesFormulas), moduleType: 'js' };
    },
    /** A changed moveset takes the place of the old one in the running page; with faults, the old one runs on. */
    async handleHotUpdate({ file, modules, server }) {
      const changed = [...live].filter(([, { files }]) => files.has(resolve(file)));
      if (changed.length === 0) return undefined;
      for (const [asked, { id }] of changed) {
        // Whoever asks anew gets it as it is now: pages that are loaded again, and the server itself.
        for (const graph of graphsOf(server)) {
          const module = graph.getModuleById(asked);
          if (module) graph.invalidateModule(module);
        }
        const { plan, diagnostics, files, missing } = await loadMoveset(id, root === undefined ? {} : { root });
        live.set(asked, { id, files: new Set([...files, ...missing].map((one) => resolve(one))) });
        if (plan) {
          if (types && id === asked) keepTypes(id, plan);
          const data = { asked: nameOf(id), packed: packMoveset(plan), origin: writeOrigin(plan, nameOf) };
          server.ws.send({ type: 'custom', event: SWAP_EVENT, data });
          continue;
        }
        const { message, loc, frame } = faultOf(
          diagnostics.filter(({ severity }) => severity === 'error'),
          folder,
        );
        server.config.logger.error(`\n${message}`, { timestamp: true });
        const err = {
          message,
          loc: { ...loc, file: nameOf(loc.file) },
          frame,
          stack: '',
          plugin: 'loggia',
          id: nameOf(id),
        };
        server.ws.send({ type: 'error', err });
      }
      const own = new Set(changed.flatMap(([asked, { id, files }]) => [asked, id, ...files]));
      return modules.filter(({ id }) => id === null || !own.has(id));
    },
  };
}

/** Whether an import is a moveset's file. Scenarios and opponents are YAML, too; modules that other plugins make up are no files. */
function isMoveset(id: string): boolean {
  return /\.ya?ml$/.test(id) && isFile(id) && hasKeys(id, ['stances', 'include']);
}

function isFile(path: string): boolean {
  return isAbsolute(path) && statSync(path, { throwIfNoEntry: false })?.isFile() === true;
}

/** An opponent as data, checked as far as that goes without a moveset. */
function readOpponent(file: string): { source?: unknown; diagnostics: readonly PlacedDiagnostic[] } {
  const read = readText(file);
  return 'fault' in read ? { diagnostics: [read.fault] } : parseOpponentSource(read.text, file);
}

/** Whether the development server may serve a file: what is imported by its address is asked for by pages. */
function isAllowed(file: string, { strict, allow }: { strict?: boolean; allow?: readonly string[] }): boolean {
  return strict === false || allow === undefined || allow.some((folder) => isInFolder(folder, file));
}

function written(id: string, plan: Plan, loaded: Loaded, formulas: boolean): { code: string; map: string } {
  const folder = dirname(id);
  const { code, map } = packModule(plan, loaded, { formulas, sourceName: (file) => relative(folder, resolve(file)) });
  return { code, map };
}

/** Names the message by which a page hears of a changed moveset. */
const SWAP_EVENT = 'loggia:moveset';

interface Graph<M> {
  getModuleById(id: string): M | undefined;
  invalidateModule(module: M): void;
}

/** The modules of pages and of the server itself; older versions of Vite have both in one. */
function graphsOf(server: ViteDevServer): Graph<never>[] {
  const { environments, moduleGraph } = server as Partial<Pick<ViteDevServer, 'environments'>> & ViteDevServer;
  const graphs = environments ? Object.values(environments).map((one) => one.moduleGraph) : [moduleGraph];
  return graphs as unknown as Graph<never>[];
}

/** A module whose moveset is another one as soon as its file is: whoever imports it has the new one, and who was made from the old one, too. */
function living(nameOf: (file: string) => string, id: string, plan: Plan): { code: string; map: null } {
  const code = `import { unpackMoveset } from 'loggia';
import { keepLive, swapLive } from 'loggia/module';
let plan = keepLive(unpackMoveset(${writeData(packMoveset(plan))}), ${writeData(writeOrigin(plan, nameOf))});
export { plan as default };
if (import.meta.hot)
  import.meta.hot.on(${writeData(SWAP_EVENT)}, ({ asked, packed, origin }) => {
    if (asked === ${writeData(nameOf(id))}) plan = swapLive(plan, unpackMoveset(packed), origin);
  });
`;
  return { code, map: null };
}

function interpreted(plan: Plan): { code: string; map: null } {
  const code = `import { unpackMoveset } from 'loggia';\nexport default unpackMoveset(${writeData(packMoveset(plan))});\n`;
  return { code, map: null };
}

/** Writes the types beside a moveset, if they are not there as they are; says why it could not. */
function keepTypes(id: string, plan: Plan): string | undefined {
  const file = id.replace(/\.(ya?ml)$/, '.d.$1.ts');
  const types = writeTypes(plan, basename(id));
  if (existsSync(file) && readFileSync(file, 'utf8') === types) return undefined;
  const fault = writeWhole(file, types, [id]);
  return fault && `${file} cannot be written: ${fault}.`;
}

/** All faults as one message, at the place of the first, with its line as Vite's overlay shows code. */
function faultOf(faults: Loaded['diagnostics'], folder: string) {
  const [{ file, line, column, excerpt, caret }] = faults;
  const mark = ' '.repeat(caret[0]) + '^'.repeat(caret[1] - caret[0]);
  return {
    message: faults.map((d) => `${relative(folder, resolve(d.file))}:${d.line}:${d.column} ${d.sentence}`).join('\n'),
    loc: { file, line, column },
    frame: `${line} | ${excerpt}\n${' '.repeat(String(line).length)} | ${mark}\n`,
  };
}
