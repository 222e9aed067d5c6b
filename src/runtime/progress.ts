import { A_KNOWN, BASE_LOADOUT } from '../record/slots.js';
import { nearestName } from '../report/nearest.js';
import { LARGEST } from '../report/usage-error.js';
import type { Character } from './character.js';

const FORMAT = 1;

/** What a character has learnt and has, as it is saved. Plain data for JSON. */
export interface Progress {
  readonly loggia: 1;
  /** Name of the moveset, for people. */
  readonly moveset: string;
  /** Locked abilities that are known, and others that were forgotten. */
  readonly learnt: readonly string[];
  readonly forgotten: readonly string[];
  /** Abilities whose toggle is latched. Saves of older versions lack it, and leave latches as they are. */
  readonly latched?: readonly string[];
  readonly loadout: string | null;
  readonly pools: Readonly<Record<string, number>>;
  /** What was loaded and not known to this moveset: kept, so that nothing is lost. */
  readonly aside?: Readonly<Record<string, unknown>>;
}

/** What became of loaded progress: a sentence for each thing that this moveset does not know. */
export interface LoadedProgress {
  readonly problems: readonly string[];
  /** Give it to `saveProgress`, so that it is saved again. */
  readonly aside: Readonly<Record<string, unknown>>;
}

/** What a character has learnt, wears and has in its pools. */
export function saveProgress(character: Character, aside: Readonly<Record<string, unknown>> = {}): Progress {
  const { plan, readout, record } = character;
  const known = (at: number) => record[at + A_KNOWN] === 1;
  return {
    loggia: FORMAT,
    moveset: plan.name,
    learnt: plan.abilities.filter((a) => a.locked && known(a.at)).map((a) => a.name),
    forgotten: plan.abilities.filter((a) => !a.locked && !known(a.at)).map((a) => a.name),
    latched: plan.abilities.filter((a) => a.latchedAt >= 0 && record[a.latchedAt] === 1).map((a) => a.name),
    loadout: plan.names.loadout[record[BASE_LOADOUT]] ?? null,
    pools: Object.fromEntries(plan.names.pool.map((pool) => [pool, readout.pool(pool)])),
    ...(Object.keys(aside).length > 0 && { aside }),
  };
}

/**
 * Gives saved progress to a character; it holds from its next tick on. Never throws for what is in it:
 * names that the moveset does not know, and what is not progress at all, are told and kept aside.
 */
export function loadProgress(character: Character, saved: unknown): LoadedProgress {
  const { door, plan } = character;
  const progress = (typeof saved === 'object' && saved !== null ? saved : {}) as Partial<Progress>;
  if (progress.loggia !== FORMAT)
    return { problems: [`This is not progress of format ${FORMAT}; nothing was taken from it.`], aside: { saved } };
  const problems: string[] = [];
  const aside: Record<string, unknown> = {};
  const take = (
    key: 'learnt' | 'forgotten' | 'latched' | 'loadout' | 'pools',
    kind: string,
    name: string,
    known: readonly string[],
    value: unknown,
    use: () => unknown,
  ) => {
    if (known.includes(name)) return void use();
    const nearest = nearestName(name, known);
    problems.push(`There is no ${kind} "${name}" in ${plan.name}${nearest ? `. Did it become "${nearest}"?` : '.'}`);
    if (key === 'pools') aside.pools = { ...(aside.pools as object), [name]: value };
    else if (key === 'loadout') aside.loadout = name;
    else aside[key] = [...((aside[key] as string[]) ?? []), name];
  };
  // What was aside before may be known by now.
  const kept = (progress.aside ?? {}) as Partial<Progress>;
  const { ability, loadout, pool } = plan.names;
  const listed = (key: 'learnt' | 'forgotten' | 'latched') => {
    const known = new Set<string>();
    for (const name of [...listOf(progress[key]), ...listOf(kept[key])])
      take(key, 'ability', name, ability, name, () => known.add(name));
    return known;
  };
  const [learnt, forgotten, latched] = [listed('learnt'), listed('forgotten'), listed('latched')];
  // What the save does not tell of is as it is at birth.
  for (const { name, locked, at } of plan.abilities) {
    const knows = locked ? learnt.has(name) : !forgotten.has(name);
    if (knows === (character.record[at + A_KNOWN] === 1)) continue;
    if (knows) door.learn(name);
    else door.forget(name);
  }
  if (progress.latched !== undefined)
    for (const { name, latchedAt } of plan.abilities) if (latchedAt >= 0) door.latch(name, latched.has(name));
  const worn = progress.loadout ?? kept.loadout;
  if (typeof worn === 'string') take('loadout', 'loadout', worn, loadout, worn, () => door.loadout(worn));
  for (const [name, value] of Object.entries({ ...kept.pools, ...progress.pools }))
    take('pools', 'pool', name, pool, value, () => {
      if (Number.isFinite(value) && Math.abs(value) <= LARGEST) door.pool(name, value);
    });
  return { problems, aside };
}

function listOf(names: unknown): string[] {
  return Array.isArray(names) ? names.map(String) : [];
}
