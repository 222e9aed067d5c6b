import { isPlain } from '../moveset/read.js';
import { A_KNOWN, BASE_LOADOUT } from '../record/slots.js';
import { wantCharacter, wantObject } from '../report/arguments.js';
import { nearestName } from '../report/nearest.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { LARGEST } from '../report/usage-error.js';
import { describe } from '../report/words.js';
import { nameNow } from '../tick/take-in/map-rows.js';
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
  /** Marks that say `saved` and are set. Saves of older versions lack them. */
  readonly marks?: Readonly<Record<string, readonly [x: number, y: number, z: number]>>;
  /** What was loaded and is not known to this moveset: kept, so that nothing is lost. */
  readonly aside?: Readonly<Record<string, unknown>>;
}

/** The result of loading progress: a sentence for each thing that could not be used. */
export interface LoadedProgress {
  readonly problems: readonly string[];
  /** Give it to `saveProgress`, so that it is saved again. */
  readonly aside: Readonly<Record<string, unknown>>;
}

/**
 * What a character has learnt, its loadout, and what is in its pools.
 * @param character Whose it is.
 * @param aside What `loadProgress` could not use, so that it is saved again.
 */
export function saveProgress(character: Character, aside: Readonly<Record<string, unknown>> = {}): Progress {
  wantCharacter('saveProgress', character);
  wantObject('saveProgress', 'what was kept aside', aside);
  const { plan, readout, record } = character;
  const known = (at: number) => record[at + A_KNOWN] === 1;
  const marks = plan.savedMarks.flatMap((name) => {
    const at = readout.mark(name);
    return at ? [[name, [at.x, at.y, at.z]] as const] : [];
  });
  return {
    loggia: FORMAT,
    moveset: plan.name,
    learnt: plan.abilities.filter((a) => a.locked && known(a.at)).map((a) => a.name),
    forgotten: plan.abilities.filter((a) => !a.locked && !known(a.at)).map((a) => a.name),
    latched: plan.abilities.filter((a) => a.latchedAt >= 0 && record[a.latchedAt] === 1).map((a) => a.name),
    loadout: plan.names.loadout[record[BASE_LOADOUT]] ?? null,
    pools: Object.fromEntries(plan.names.pool.map((pool) => [pool, readout.pool(pool)])),
    ...(marks.length > 0 && { marks: Object.fromEntries(marks) }),
    ...(Object.keys(aside).length > 0 && { aside }),
  };
}

/**
 * Gives saved progress to a character; it holds from its next tick on. Never throws for what is in it: what this
 * moveset does not know, what is of a wrong type, and what is not progress at all is told and kept aside.
 * @param character Who gets it.
 * @param saved What `saveProgress` gave, also out of JSON, also of an older version of the moveset.
 */
export function loadProgress(character: Character, saved: unknown): LoadedProgress {
  wantCharacter('loadProgress', character);
  if (nestsTooDeep(saved))
    return { problems: [`This save nests deeper than ${DEEPEST} levels; nothing was taken from it.`], aside: {} };
  if (!isPlain(saved) || saved.loggia !== FORMAT)
    return { problems: [`This is not progress of format ${FORMAT}; nothing was taken from it.`], aside: { saved } };
  return new Loading(character, saved).load();
}

/** For so many unknown names the nearest is looked up: a save with more is of another moveset. */
const MOST_GUESSES = 50;

class Loading {
  private readonly problems: string[] = [];
  private readonly aside: Record<string, unknown> = {};
  /** What was aside before: it may be known by now. */
  private readonly kept: Record<string, unknown>;

  constructor(
    private readonly character: Character,
    private readonly progress: Record<string, unknown>,
  ) {
    this.kept = isPlain(progress.aside) ? progress.aside : {};
    // A save of another format and what had a wrong type stay aside, however often they are loaded and saved.
    for (const key of ['saved', 'faulty']) if (this.kept[key] !== undefined) this.aside[key] = this.kept[key];
  }

  load(): LoadedProgress {
    const { character, progress } = this;
    const { door, plan } = character;
    const learnt = this.takeNames('learnt');
    const forgotten = this.takeNames('forgotten');
    const latched = this.takeNames('latched');
    // What the save does not mention is as it is at the start.
    for (const { name, locked, at } of plan.abilities) {
      const knows = locked ? learnt.has(name) : !forgotten.has(name);
      if (knows === (character.record[at + A_KNOWN] === 1)) continue;
      if (knows) door.learn(name);
      else door.forget(name);
    }
    if (progress.latched !== undefined)
      for (const { name, latchedAt } of plan.abilities) if (latchedAt >= 0) door.latch(name, latched.has(name));
    this.takeLoadout();
    this.takePools();
    this.takeMarks();
    return { problems: this.problems, aside: this.aside };
  }

  private takeNames(key: 'learnt' | 'forgotten' | 'latched'): ReadonlySet<string> {
    const { indexes, renamed } = this.character.plan;
    const known = new Set<string>();
    const strange: unknown[] = [];
    for (const list of [this.progress[key], this.kept[key]]) {
      if (list === undefined) continue;
      if (!Array.isArray(list)) {
        this.tellFaulty(key, list, `${describe(key)} must be a list of abilities, not ${describe(list)}.`);
        continue;
      }
      for (const name of list) {
        if (typeof name === 'string' && indexes.ability.has(name)) known.add(name);
        else if (typeof name === 'string' && indexes.ability.has(nameNow(name, renamed)))
          known.add(nameNow(name, renamed));
        else {
          this.tellUnknown('ability', name);
          strange.push(name);
        }
      }
    }
    if (strange.length > 0) this.aside[key] = strange;
    return known;
  }

  /** The loadout of the save goes before one that is aside; what is unknown stays aside. */
  private takeLoadout(): void {
    const { door, plan } = this.character;
    const { loadout } = this.progress;
    const isKnown = (name: unknown): name is string => typeof name === 'string' && plan.indexes.loadout.has(name);
    const now = (name: unknown) => (typeof name === 'string' && !isKnown(name) ? nameNow(name, plan.renamed) : name);
    const strange = [loadout, this.kept.loadout]
      .map(now)
      .filter((name) => name !== undefined && name !== null && !isKnown(name));
    const known = [loadout, this.kept.loadout].map(now).find(isKnown);
    if (known !== undefined) door.loadout(known);
    for (const name of strange) this.tellUnknown('loadout', name);
    if (strange.length > 0) this.aside.loadout = strange[0];
  }

  private takePools(): void {
    const { door, plan } = this.character;
    this.takeMap('pools', 'pool', plan.names.pool, 'amounts', (name, value) => {
      if (!isNumber(value))
        return `The amount of ${describe(name)} must be a number up to ${LARGEST}, not ${describe(value)}.`;
      door.pool(name, value);
      return undefined;
    });
  }

  private takeMarks(): void {
    const { door, plan } = this.character;
    this.takeMap('marks', 'mark', plan.savedMarks, 'points', (name, value) => {
      if (!Array.isArray(value) || value.length !== 3 || !value.every(isNumber))
        return `The place of ${describe(name)} must be a list of three numbers up to ${LARGEST}, not ${describe(value)}.`;
      door.mark(name, value[0], value[1], value[2]);
      return undefined;
    });
  }

  /** Takes what a save says by name. `take` tells what is wrong with a value. */
  private takeMap(
    key: 'pools' | 'marks',
    kind: 'pool' | 'mark',
    known: readonly string[],
    what: string,
    take: (name: string, value: unknown) => string | undefined,
  ): void {
    const strange: Record<string, unknown> = Object.create(null);
    for (const map of [this.kept[key], this.progress[key]]) {
      if (map === undefined) continue;
      if (!isPlain(map)) {
        this.tellFaulty(key, map, `${describe(key)} must be a map of ${what}, not ${describe(map)}.`);
        continue;
      }
      for (const [was, value] of Object.entries(map)) {
        const name = known.includes(was) ? was : nameNow(was, this.character.plan.renamed);
        if (!known.includes(name)) {
          this.tellUnknown(kind, name, known);
          strange[name] = value;
          continue;
        }
        const problem = take(name, value);
        if (problem) this.tellFaulty(name, value, problem);
      }
    }
    if (Object.keys(strange).length > 0) this.aside[key] = strange;
  }

  private tellFaulty(key: string, value: unknown, problem: string): void {
    this.problems.push(problem);
    this.aside.faulty = { ...(isPlain(this.aside.faulty) && this.aside.faulty), [key]: value };
  }

  private tellUnknown(
    kind: 'ability' | 'loadout' | 'pool' | 'mark',
    name: unknown,
    known: readonly string[] = this.character.plan.names[kind],
  ): void {
    const { plan } = this.character;
    const looks = typeof name === 'string' && this.problems.length < MOST_GUESSES;
    const nearest = looks ? nearestName(name, known) : undefined;
    const way = nearest ? `. Did it become ${describe(nearest)}?` : '.';
    this.problems.push(`There is no ${kind === 'mark' ? 'saved mark' : kind} ${describe(name)} in ${plan.name}${way}`);
  }
}

function isNumber(value: unknown): value is number {
  return typeof value === 'number' && Math.abs(value) <= LARGEST;
}
