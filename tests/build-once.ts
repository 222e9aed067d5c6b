import { execFileSync } from 'node:child_process';
import { ROOT } from './support.js';

/** The command line is tested as it is shipped: built once before all tests. */
export function setup(): void {
  execFileSync('npm', ['run', '-s', 'build'], { cwd: ROOT, stdio: 'inherit' });
}
