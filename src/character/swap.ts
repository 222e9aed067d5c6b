import type { Plan } from '../compile/plan.js';
import { WITH_FORMULAS } from '../compile/version.js';
import type { NameKind } from '../moveset/shape.js';
import { LAYOUT_ID, SHAPE } from '../record/slots.js';
import { isPlain, want, wantOptions, wantPlan } from '../report/arguments.js';
import type { LoggiaEvent } from '../report/events.js';
import { UsageError } from '../report/usage-error.js';
import { KEY } from '../tick/take-in/devices.js';
import { initializeRecord } from '../tick/take-in/initialize.js';
import { nameNow, type Renamed } from '../tick/take-in/map-rows.js';
import { carry, endGone, resize, retune } from './carry.js';
import { Character, checkNeeds } from './character.js';

/** How a moveset takes the place of another. */
export interface SwapOptions {
  /** New names for old ones, of whatever kind, besides those of the moveset's own `renamed`. */
  renamed?: Readonly<Record<string, string>> | undefined;
  /** In an arena: the moveset whose place it takes. Default: that of the same name. */
  of?: Plan | undefined;
}

/** Something with a name that a moveset declares. */
export interface Named {
  readonly kind: NameKind;
  readonly name: string;
}

/** What became of a character whose moveset was replaced. Plain data. */
export interface Swapped {
  /** Of a member of an arena; of a character by itself the name of its moveset. */
  readonly name: string;
  /** What goes on as it was, by its new name. */
  readonly carried: readonly Named[];
  /** What the new moveset does not have any more. */
  readonly ended: readonly Named[];
  /** What it has and the old one had not: it is as it is at the start. */
  readonly begun: readonly Named[];
  /** What happened as things ended, by the names of the old moveset. The events of the last tick are gone: read them before. */
  readonly events: readonly LoggiaEvent[];
}

/** What may be swapped: see {@link swapMoveset}. */
export interface Swappable {
  /** @internal */
  swapFrom(next: Plan, of: Plan | undefined, renamed: Renamed): Swapped[];
}

/**
 * Puts another moveset in the place of that of a living character, between two ticks: by their names, pools, marks, cooldowns,
 * charges, latches, what is learnt, the stance, what runs and how far it is go on. What is gone ends as anything ends;
 * what is new begins as at the start. Numbers, formulas, windows, conditions and whole abilities may be others.
 * @param of A character, or an arena with all those of its members who have the moveset, and who may be called.
 * @param next The new moveset: interpreted, packed or a module.
 * @param options What has another name now.
 * @returns What was carried, ended and begun, of each.
 * @throws {UsageError} for another rate of ticks or another view, and for a moveset that asks what nothing
 * answers; nothing has changed then.
 */
export function swapMoveset(of: Character, next: Plan, options?: Omit<SwapOptions, 'of'>): Swapped;
export function swapMoveset(of: Swappable, next: Plan, options?: SwapOptions): Swapped[];
export function swapMoveset(of: Character | Swappable, next: Plan, options: SwapOptions = {}): Swapped | Swapped[] {
  const call = 'swapMoveset';
  want(
    of instanceof Character || typeof (of as Swappable | null)?.swapFrom === 'function',
    call,
    'the first argument',
    'a Character or an Arena',
    of,
  );
  wantPlan(`${call}: of the new moveset`, next);
  wantOptions(call, options, ['renamed', 'of']);
  const { renamed = {}, of: whose } = options;
  want(
    isPlain(renamed) && Object.values(renamed).every((name) => typeof name === 'string'),
    call,
    'renamed',
    'a map of new names by old ones',
    renamed,
  );
  if (whose !== undefined) wantPlan(`${call}: of the old moveset`, whose);
  const names = { ...next.renamed, ...renamed };
  if (!(of instanceof Character)) return of.swapFrom(next, whose, names);
  if (of.others !== null)
    throw new UsageError(`${call}: this character is in an arena; swap the moveset there.`, 'not-now');
  checkSwap(of, next);
  for (const watcher of of.watching) watcher.asking();
  const swapped = swapCharacter(of, of.plan.name, next, names);
  for (const watcher of of.watching) watcher.swapped(0, next, names);
  return swapped;
}

/** What keeps a moveset from taking the place of that of a character. */
export function checkSwap(c: Character, next: Plan): void {
  const { plan, mover, answer, places, room } = c;
  const refuse = (why: string): never => {
    throw new UsageError(`swapMoveset: ${next.name} cannot take the place of ${plan.name}: ${why}.`, 'out-of-range');
  };
  if (next.rate !== plan.rate) refuse(`it has ${next.rate} ticks per second instead of ${plan.rate}`);
  if (next.view !== plan.view) refuse(`it is seen ${next.view === 'open' ? 'in the open' : 'from the side'}`);
  if (next.arraySize() > room)
    refuse(`it needs ${next.arraySize()} numbers, and the array of this character holds ${room}`);
  // Numbers find their new places by what they are called.
  if (next.fingerprint !== plan.fingerprint)
    for (const { name, layout } of [plan, next])
      if (layout.ranges.length === 0)
        refuse(
          `their states differ, and the module of ${name} leaves out what its numbers are called; ${WITH_FORMULAS}`,
        );
  checkNeeds('swapMoveset', next, mover?.world ?? null, answer, places);
}

/** The same of one character that was checked. */
export function swapCharacter(c: Character, name: string, next: Plan, renamed: Renamed): Swapped {
  const { plan: old } = c;
  const lists = compareNames(old, next, renamed);
  if (old === next) return { name, ...lists, events: [] };
  c.events.count = c.reasons.count = c.values.count = 0;
  if (old.fingerprint === next.fingerprint) {
    c.takeOver(next, renamed, (_, was) => {
      const { r } = c;
      initializeRecord(next, r, { x: 0, y: 0, z: 0, facing: 1 });
      r.set(was.subarray(0, next.recordSize));
      for (let i = 0; i < next.names.button.length * KEY + next.names.stick.length * 2; i++)
        r[next.devicesAt + i] = was[old.devicesAt + i];
      r[LAYOUT_ID] = next.fingerprint;
      c.changeRoster();
      c.updateRoster();
      retune(c, old);
      resize(c, old, r[SHAPE]);
    });
    return { name, ...lists, events: [] };
  }
  const kept = endGone(c, next, renamed);
  const events = c.readEvents();
  c.takeOver(next, renamed, (_, was) => carry(c, old, was, kept, renamed));
  return { name, ...lists, events };
}

/** What has a state of its own. */
const KINDS = [
  'ability',
  'pool',
  'stance',
  'loadout',
  'lane',
  'mark',
  'event',
  'button',
  'stick',
  'aim',
  'choice',
] as const;

function compareNames(old: Plan, next: Plan, renamed: Renamed): Pick<Swapped, 'carried' | 'ended' | 'begun'> {
  const carried: Named[] = [];
  const ended: Named[] = [];
  const begun: Named[] = [];
  for (const kind of KINDS) {
    const known = new Set<string>();
    for (const name of old.names[kind]) {
      const now = next.indexes[kind].has(name) ? name : nameNow(name, renamed);
      known.add(now);
      if (next.indexes[kind].has(now)) carried.push({ kind, name: now });
      else ended.push({ kind, name });
    }
    for (const name of next.names[kind]) if (!known.has(name)) begun.push({ kind, name });
  }
  return { carried, ended, begun };
}
