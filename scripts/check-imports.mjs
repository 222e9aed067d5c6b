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
  saved: [],
  character: [],
  emit: ['@jridgewell/sourcemap-codec'],
  interpret: [],
  module: [],
  arena: [],
  format: ['node:', 'yaml'],
  scenario: ['node:'],
  vite: ['node:', 'vite'],
  vitest: ['node:', 'vitest'],
  rapier: [],
  devices: [],
  cli: ['node:', 'commander', 'picocolors'],
};
/** Folders that stand beside what is above them: pages must not pull in files, files no pages. */
const APART = {
  devices: ['format', 'scenario', 'vite', 'vitest', 'rapier'],
  rapier: ['format', 'scenario', 'vite', 'vitest'],
};

const order = Object.keys(FOLDERS);
const faults = [];
for (const path of readdirSync('src', { recursive: true })) {
  const [folder, ...rest] = path.split('/');
  if (!path.endsWith('.ts') || rest.length === 0) continue;
  if (!order.includes(folder))
    faults.push(`src/${path}: the folder ${folder} is not in the table of scripts/check-imports.mjs.`);
  const { importedFiles } = ts.preProcessFile(readFileSync(join('src', path), 'utf8'), true, true);
  for (const { fileName } of importedFiles) {
    if (!fileName.startsWith('.')) {
      if (!FOLDERS[folder]?.some((name) => fileName.startsWith(name)))
        faults.push(`src/${path}: ${folder} takes no package ${fileName}.`);
      continue;
    }
    const [other] = relative('src', join('src', dirname(path), fileName)).split('/');
    if (order.indexOf(other) > order.indexOf(folder) || APART[folder]?.includes(other))
      faults.push(`src/${path}: ${folder} may not use ${other}, which stands below it.`);
  }
}
for (const fault of faults) console.error(fault);
process.exitCode = faults.length > 0 ? 1 : 0;
