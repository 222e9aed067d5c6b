import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import type { TestProject } from 'vitest/node';
import { findChromium } from './browser/chromium.js';
import { ROOT } from './support.js';

/** What the built files are made of. */
const SOURCES = [
  'src',
  'viewer',
  'vite.viewer.config.ts',
  'package.json',
  'vite.config.ts',
  'vite.cli.config.ts',
  'tsconfig.json',
  'tsconfig.build.json',
];

/** Tests of what is shipped: they run built files, in processes and browsers. All others run the sources. */
const OF_WHAT_IS_SHIPPED = /^tests\/(browser|cli|vite|docs\.test)/;

/** What is shipped is built before its tests, unless what the build writes last is newer than all that it is made of. */
export default async function setup(project: TestProject): Promise<() => void> {
  const files = await testFilesOf(project);
  if (files.some((file) => OF_WHAT_IS_SHIPPED.test(file))) {
    const built = timeOf('dist/index.js');
    if (SOURCES.some((source) => timeOf(source) >= built))
      execFileSync(process.execPath, ['scripts/build.mjs', '--code'], { cwd: ROOT, stdio: 'inherit' });
    findChromium();
  }
  // What tests write goes to one folder, which is gone afterwards.
  const folder = mkdtempSync(join(tmpdir(), 'loggia-tests-'));
  process.env.TMPDIR = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}

/** The test files that were asked for, or all of them. */
async function testFilesOf(project: TestProject): Promise<string[]> {
  const asked = process.argv.slice(2).filter((word) => word !== 'run' && !word.startsWith('-'));
  const { testFiles } = await project.globTestFiles(asked.length > 0 ? asked : undefined);
  const files = testFiles.length > 0 ? testFiles : (await project.globTestFiles()).testFiles;
  return files.map((file) => relative(ROOT, file).replaceAll('\\', '/'));
}

/** When a file, or the newest file or folder in a folder, was changed; 0 if it is not there. */
function timeOf(name: string): number {
  const path = join(ROOT, name);
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat?.isDirectory()) return stat?.mtimeMs ?? 0;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((entry) => timeOf(join(name, entry))));
}
