import { existsSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, isAbsolute, relative, resolve } from 'node:path';
import type { Plugin } from 'vite';
import { packMoveset } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { packModule, writeTypes } from '../emit/module.js';
import { hasKeys } from '../format/has-keys.js';
import { type Loaded, loadMoveset } from '../format/index.js';
import { isInFolder } from '../format/root.js';
import { writeWhole } from '../format/write-whole.js';
import { writeData } from '../record/written.js';
import { wantOptions } from '../report/arguments.js';

/** How movesets are imported. */
export interface ImportOptions {
  /** The folder that included files must be in. Default: the nearest one above the moveset with a package.json or .git. */
  root?: string;
  /** Whether modules take along what reads formulas, for opponents of an arena and for facts by their names. Default false. */
  formulas?: boolean;
  /**
   * Writes `pell.d.yaml.ts` beside `pell.yaml` whenever its names change, so that TypeScript knows them; its option
   * `allowArbitraryExtensions` must be on. Default false.
   */
  types?: boolean;
}

/**
 * A plugin for Vite by which `import pell from './pell.yaml'` gives a plan. A build takes the generated module; the development
 * server takes the interpreter, which says more and is there at once. Faults are shown at their places, and the files that
 * a moveset includes are watched. Other YAML files are left to other plugins.
 */
export function movesets(options: ImportOptions = {}): Plugin {
  wantOptions('movesets', options, ['root', 'formulas', 'types']);
  const { root, formulas = false, types = false } = options;
  let builds = false;
  let folder = '.';
  let served: { strict?: boolean; allow?: readonly string[] } = {};
  return {
    name: 'loggia',
    enforce: 'pre',
    configResolved(config) {
      builds = config.command === 'build';
      folder = config.root;
      served = config.server.fs;
    },
    async load(id) {
      if (!isMoveset(id) || !(builds || isAllowed(id, served))) return null;
      const loaded = await loadMoveset(id, root === undefined ? {} : { root });
      for (const file of [...loaded.files, ...loaded.missing]) this.addWatchFile(resolve(file));
      const { plan, diagnostics } = loaded;
      for (const d of diagnostics) if (d.severity === 'warning') this.warn(faultOf([d], folder));
      if (!plan)
        this.error(
          faultOf(
            diagnostics.filter((d) => d.severity === 'error'),
            folder,
          ),
        );
      const fault = types ? keepTypes(id, plan) : undefined;
      if (fault) this.warn(fault);
      return { ...(builds ? written(id, plan, loaded, formulas) : interpreted(plan)), moduleType: 'js' };
    },
  };
}

/** Whether an import is a moveset's file. Scenarios and opponents are YAML, too; modules that other plugins make up are no files. */
function isMoveset(id: string): boolean {
  if (!/\.ya?ml$/.test(id) || !isAbsolute(id) || !statSync(id, { throwIfNoEntry: false })?.isFile()) return false;
  return hasKeys(id, ['stances', 'include']);
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
