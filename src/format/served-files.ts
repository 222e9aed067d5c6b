import { existsSync, lstatSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { isSkipped, MOST_BYTES, MOST_FILES, NAMES, type ScenarioFile, scenarioIn } from './project-files.js';
import { isInFolder, realPath } from './root.js';
import { writeWhole } from './write-whole.js';

/** A folder is looked through so far. */
const DEEPEST = 8;

/** An answer to a page: data, or a fault in a sentence. */
export interface Answer {
  readonly status: number;
  readonly data: unknown;
}

/** Movesets and scenarios under a folder, to be read and written by a page; nothing else is. */
export class ServedFiles {
  /**
   * @param root The folder.
   * @param base What names start from. Default: the same.
   */
  constructor(
    private readonly root: string,
    private readonly base = root,
  ) {}

  /** The path of a file that may be read or written; undefined for any other. */
  private find(name: string): string | undefined {
    if (!NAMES.test(name) || name.includes('\0')) return undefined;
    const path = resolve(this.base, name);
    if (!isInFolder(this.root, path) || !isInFolder(this.root, dirname(path))) return undefined;
    // What a link leads to may be elsewhere by the time it is written.
    if (existsSync(path) && (lstatSync(path).isSymbolicLink() || !lstatSync(path).isFile())) return undefined;
    return path;
  }

  read(name: string): Answer {
    const path = this.find(name);
    if (path === undefined) return fault(403, `${name} is no moveset or scenario under the folder that is served.`);
    try {
      if (statSync(path).size > MOST_BYTES) return fault(413, `${name} has more than ${MOST_BYTES} bytes.`);
      return { status: 200, data: { file: name, text: readFileSync(path, 'utf8') } };
    } catch (error) {
      return fault(404, `${name} cannot be read: ${codeOf(error)}.`);
    }
  }

  /** When files were changed last, so that the page sees what others write. */
  stamps(names: readonly string[]): Answer {
    return {
      status: 200,
      data: Object.fromEntries(
        names.map((name) => {
          const path = this.find(name);
          try {
            return [name, path === undefined ? 0 : statSync(path).mtimeMs];
          } catch {
            return [name, 0];
          }
        }),
      ),
    };
  }

  /** Writes a file that was changed in the page, if nobody else has changed it meanwhile. */
  write(name: string, text: string, before: unknown): Answer {
    const path = this.find(name);
    if (path === undefined) return fault(403, `${name} is no moveset or scenario under the folder that is served.`);
    if (Buffer.byteLength(text) > MOST_BYTES) return fault(413, `${name} would have more than ${MOST_BYTES} bytes.`);
    const now = existsSync(path) ? readFileSync(path, 'utf8') : undefined;
    if (now !== before) return { status: 409, data: { fault: `${name} has changed on the disk.`, text: now ?? '' } };
    const why = writeWhole(path, text, []);
    return why ? fault(500, `${name} cannot be written: ${why}.`) : { status: 200, data: { file: name } };
  }

  /** Writes a new scenario; one that is there stays. */
  create(name: string, text: string): Answer {
    const path = this.find(name);
    if (path === undefined) return fault(403, `${name} is no name of a scenario under the folder that is served.`);
    if (Buffer.byteLength(text) > MOST_BYTES) return fault(413, `${name} would have more than ${MOST_BYTES} bytes.`);
    if (existsSync(path)) return fault(409, `${name} is there already; choose another name.`);
    if (!existsSync(dirname(path))) return fault(404, `There is no folder ${relative(this.base, dirname(path))}.`);
    const why = writeWhole(path, text, []);
    return why ? fault(500, `${name} cannot be written: ${why}.`) : { status: 200, data: { file: name } };
  }

  /** Scenarios under the root. */
  scenarios(): ScenarioFile[] {
    const found: ScenarioFile[] = [];
    let looked = 0;
    const visit = (folder: string, deep: number) => {
      for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
        if (++looked > MOST_FILES) return;
        const path = join(folder, entry.name);
        if (entry.isDirectory()) {
          if (deep < DEEPEST && !isSkipped(entry.name)) visit(path, deep + 1);
        } else if (entry.isFile() && NAMES.test(entry.name) && statSync(path).size <= MOST_BYTES) {
          const scenario = scenarioIn(nameOf(this.base, path), readFileSync(path, 'utf8'));
          if (scenario) found.push(scenario);
        }
      }
    };
    visit(realPath(this.root), 0);
    return found;
  }
}

/** A path as the page names it: from the root on. */
export function nameOf(root: string, path: string): string {
  return relative(realPath(root), realPath(path)).replaceAll('\\', '/');
}

export function fault(status: number, text: string): Answer {
  return { status, data: { fault: text } };
}

function codeOf(error: unknown): string {
  return (error as NodeJS.ErrnoException).code ?? String(error);
}
