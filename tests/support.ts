import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Loaded, parseMoveset } from '../src/format/text.js';
import type { Plan } from '../src/index.js';

export const ROOT = join(import.meta.dirname, '..');

/** The demo's moveset. */
export async function loadPell(): Promise<Plan> {
  return plan(readFileSync(join(ROOT, 'demo/boatyard/pell.yaml'), 'utf8'));
}

/** The plan of a moveset in YAML; a fault in it fails the test with its sentence. */
export function plan(text: string): Plan {
  const loaded = parseMoveset(text);
  if (!loaded.plan) throw new Error(sentences(loaded).join('\n'));
  return loaded.plan;
}

/** `line:column code sentence` for each diagnostic. */
export function sentences(loaded: Loaded): string[] {
  return loaded.diagnostics.map((d) => `${d.line}:${d.column} ${d.code} ${d.sentence}`);
}
