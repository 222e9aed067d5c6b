import { stringify } from 'yaml';
import { checkMoveset, type Plan } from '../../src/index.js';

/** How many smaller movesets are tried. */
const TRIES = 400;

/**
 * The smallest moveset found, as YAML, for which something still fails: parts are taken out one by one, as long as what is left is
 * sound and fails.
 */
export function shrink(source: Record<string, unknown>, fails: (plan: Plan) => boolean): string {
  let smallest = structuredClone(source);
  let tries = 0;
  for (let found = true; found && tries < TRIES; ) {
    found = false;
    for (const path of pathsOf(smallest)) {
      if (++tries > TRIES) break;
      const less = structuredClone(smallest);
      if (!takeOut(less, path)) continue;
      const { plan } = checkMoveset(less);
      if (!plan || !fails(plan)) continue;
      smallest = less;
      found = true;
    }
  }
  return stringify(smallest, { collectionStyle: 'flow', lineWidth: 120 });
}

/** All paths, the shortest first: whole abilities go before their keys. */
function pathsOf(node: unknown, path: readonly string[] = []): string[][] {
  if (typeof node !== 'object' || node === null) return [];
  return Object.keys(node)
    .flatMap((key) => [[...path, key], ...pathsOf((node as Record<string, unknown>)[key], [...path, key])])
    .sort((a, b) => a.length - b.length);
}

function takeOut(node: unknown, [key, ...rest]: readonly string[]): boolean {
  if (typeof node !== 'object' || node === null || !(key in node)) return false;
  const inner = node as Record<string, unknown>;
  if (rest.length > 0) return takeOut(inner[key], rest);
  if (Array.isArray(node)) node.splice(Number(key), 1);
  else delete inner[key];
  return true;
}
