import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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

/** The command line is tested as it is shipped: built before all tests, unless what the build writes last is newer than all that it is made of. */
export default function setup(): () => void {
  const built = timeOf('dist/index.js');
  if (SOURCES.some((source) => timeOf(source) >= built))
    execFileSync(process.execPath, ['scripts/build.mjs', '--code'], { cwd: ROOT, stdio: 'inherit' });
  findChromium();
  // What tests write goes to one folder, which is gone afterwards.
  const folder = mkdtempSync(join(tmpdir(), 'loggia-tests-'));
  process.env.TMPDIR = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}

/** When a file, or the newest file or folder in a folder, was changed; 0 if it is not there. */
function timeOf(name: string): number {
  const path = join(ROOT, name);
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat?.isDirectory()) return stat?.mtimeMs ?? 0;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((entry) => timeOf(join(name, entry))));
}
