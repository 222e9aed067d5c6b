import type { Plan } from '../../src/compile/plan.js';
import type { ScenarioFile } from '../../src/format/project-files.js';
import { isPlain } from '../../src/moveset/read.js';
import { resolveFrom } from './disk.js';

/** Somebody who can be invited to where one plays. */
export interface Guest {
  /** Who it is, and what plays it: no two are the same. */
  readonly id: string;
  readonly text: string;
  readonly name: string;
  /** The file of the moveset, from the root on. */
  readonly moveset: string;
  /** What a scenario says of a member; files are named from the root on. */
  readonly entry: Readonly<Record<string, unknown>>;
}

/** Who can be invited: one with the moveset that is played, who stands still, and everybody whom a scenario has besides. */
export function guestsOf(file: string, scenarios: readonly ScenarioFile[]): Guest[] {
  const found = new Map<string, Guest>();
  found.set(file, { id: file, text: 'one with the same moveset', name: 'double', moveset: file, entry: {} });
  for (const { file: scenario, moveset: first = '', others = {} } of scenarios) {
    for (const [name, other] of Object.entries(others)) {
      const { at: _, facing: __, progress: ___, moveset = first, plays, ...rest } = isPlain(other) ? other : {};
      if (typeof moveset !== 'string') continue;
      const own = resolveFrom(scenario, moveset);
      const played = typeof plays === 'string' ? resolveFrom(scenario, plays) : plays;
      const id = JSON.stringify([own, played ?? null]);
      const how = typeof played === 'string' ? `plays ${short(played)}` : played === undefined ? 'stands' : 'plays';
      const entry = { ...rest, ...(played !== undefined && { plays: played }) };
      found.set(id, { id, text: `${name} (${short(own)}), ${how}`, name, moveset: own, entry });
    }
  }
  return [...found.values()];
}

/** Whom some movesets may call, as scenarios say who that is: the files of their movesets, from the root on. */
export function summonsFor(plans: readonly Plan[], scenarios: readonly ScenarioFile[]): Record<string, string> {
  const wanted = new Set(plans.flatMap((plan) => plan.names.summon));
  const found: Record<string, string> = {};
  for (const { file, summons = {} } of scenarios)
    for (const [name, moveset] of Object.entries(summons))
      if (wanted.has(name) && typeof moveset === 'string') found[name] ??= resolveFrom(file, moveset);
  return found;
}

function short(file: string): string {
  return file.replace(/^.*\//, '');
}
