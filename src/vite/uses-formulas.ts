import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** What reads formulas while a game runs: facts by their names, opponents, scenarios; or the names of all numbers. */
const USES = /\b(?:facts|compileOpponent|checkOpponent|parseOpponent|runScenario\w*|swapMoveset)\b/;
const SOURCE = /\.(?:[cm]?[jt]sx?|vue|svelte|astro)$/;
/** What is not part of a game. */
const APART =
  /^(?:node_modules|dist|build|out|coverage|tests?|__tests__|e2e)$|^\.|\.(?:test|spec|config)\.[^.]+$|\.d\.[^.]+(?:\.ts)?$/;
/** Larger files are not written by hand, and more than so many are not looked at. */
const LONGEST = 1_000_000;
const MOST_FILES = 20_000;

/**
 * Whether some source file below a folder names what reads formulas. What is there is told by its text, before the bundler knows
 * what a program reaches: a name in a comment counts, and code outside of the folder does not. `out` is where the bundler writes.
 */
export function usesFormulas(folder: string, out: string): boolean {
  const folders = [folder];
  let files = 0;
  for (let next = folders.pop(); next !== undefined; next = folders.pop())
    for (const entry of readdirSync(next, { withFileTypes: true })) {
      if (APART.test(entry.name)) continue;
      const path = join(next, entry.name);
      if (path === out) continue;
      if (entry.isDirectory()) folders.push(path);
      else if (entry.isFile() && SOURCE.test(entry.name) && ++files <= MOST_FILES && namesUse(path)) return true;
    }
  return false;
}

function namesUse(file: string): boolean {
  return statSync(file).size <= LONGEST && USES.test(readFileSync(file, 'utf8'));
}
