import { existsSync, readFileSync } from 'node:fs';
import { basename, dirname, relative, resolve } from 'node:path';
import type { Plugin } from 'vite';
import { packMoveset } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { packModule, writeTypes } from '../emit/module.js';
import { type Loaded, loadMoveset } from '../format/index.js';
import { writeWhole } from '../format/write-whole.js';
import { writeData } from '../record/written.js';

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
export function movesets({ root, formulas = false, types = false }: ImportOptions = {}): Plugin {
  let builds = false;
  let folder = '.';
  return {
    name: 'loggia',
    enforce: 'pre',
    configResolved(config) {
      builds = config.command === 'build';
      folder = config.root;
    },
    async load(id) {
      if (!/\.ya?ml$/.test(id) || !isMoveset(id)) return null;
      const loaded = await loadMoveset(id, root === undefined ? {} : { root });
      for (const file of loaded.files) this.addWatchFile(resolve(file));
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

/** Scenarios and opponents are YAML, too. */
function isMoveset(file: string): boolean {
  const text = readFileSync(file, 'utf8');
  return /^["']?loggia["']?\s*:/m.test(text) && /^["']?stances["']?\s*:|^["']?include["']?\s*:/m.test(text);
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
