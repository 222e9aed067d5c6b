// Holds the one-way rule of docs/architecture.md: a folder of src/ uses those above it in this table and none below,
// and takes the packages that are named there.
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';

const FOLDERS = {
  report: ['fastest-levenshtein'],
  world: [],
  record: [],
  moveset: [],
  compile: [],
  text: [],
  probes: [],
  analysis: [],
  motion: [],
  strikes: [],
  tick: [],
  'tick/pools': [],
  'tick/presses': [],
  'tick/fold': [],
  'tick/walk': [],
  'tick/judge': [],
  'tick/phases': [],
  'tick/requests': [],
  'tick/take-in': [],
  saved: [],
  character: [],
  emit: ['@jridgewell/sourcemap-codec'],
  interpret: [],
  module: [],
  arena: [],
  recording: [],
  format: ['node:', 'yaml'],
  scenario: ['node:'],
  study: [],
  draw: ['@dagrejs/dagre', 'd3-scale', 'd3-shape'],
  show: ['node:'],
  vite: ['node:', 'vite'],
  vitest: ['node:', 'vitest'],
  rapier: [],
  devices: [],
  cli: ['node:', 'commander', 'picocolors', 'yaml', 'sax', '@resvg/resvg-wasm'],
};
/** Folders that stand beside what is above them: pages must not pull in files, files no pages. */
const APART = {
  devices: ['format', 'scenario', 'vite', 'vitest', 'rapier'],
  rapier: ['format', 'scenario', 'vite', 'vitest'],
};

const order = Object.keys(FOLDERS);
/** The folder of a file in the table: with the one above it where both are there. */
function folderOf(path) {
  const [first, second] = path.split('/');
  return order.includes(`${first}/${second}`) ? `${first}/${second}` : first;
}
const faults = [];
for (const path of readdirSync('src', { recursive: true })) {
  const folder = folderOf(path);
  if (!path.endsWith('.ts') || !path.includes('/')) continue;
  if (!order.includes(folder) || (folder === 'tick' && path.split('/').length > 2))
    faults.push(`src/${path}: the folder ${folder} is not in the table of scripts/check-imports.mjs.`);
  const { importedFiles } = ts.preProcessFile(readFileSync(join('src', path), 'utf8'), true, true);
  for (const { fileName } of importedFiles) {
    if (!fileName.startsWith('.')) {
      if (!FOLDERS[folder]?.some((name) => fileName.startsWith(name)))
        faults.push(`src/${path}: ${folder} takes no package ${fileName}.`);
      continue;
    }
    const other = folderOf(relative('src', join('src', dirname(path), fileName)));
    if (order.indexOf(other) > order.indexOf(folder) || APART[folder]?.includes(other))
      faults.push(`src/${path}: ${folder} may not use ${other}, which stands below it.`);
  }
}
for (const fault of faults) console.error(fault);
process.exitCode = faults.length > 0 ? 1 : 0;
