import type { Plan } from '../compile/plan.js';
import type { NameTypes } from '../moveset/name-types.js';
import { Rows } from '../record/rows.js';
import { LAYOUT_ID } from '../record/slots.js';
import { WHOLE } from '../record/stages.js';
import { wantFunction, wantOptions, wantPlan } from '../report/arguments.js';
import { UsageError } from '../report/usage-error.js';
import { type Rosters, rostersOf } from '../tick/roster.js';
import type { World } from '../world/world.js';
import { Character, type CharacterOptions } from './character.js';

/** What `tickAll` does beside ticking. */
export interface CrowdOptions<N extends NameTypes = NameTypes> {
  /** Where one whose numbers are still all 0 begins. Default [0, 0, 0]. */
  at?: ((index: number) => readonly [x: number, y: number, z?: number]) | undefined;
  /** Whether refused requests are told as events (default), or not: see {@link CharacterOptions}. */
  refusals?: boolean | undefined;
  /**
   * Called before each one's tick, as the place to press its keys. The character is lent: it is another one after the call, and it
   * has no events yet.
   */
  before?: ((character: Character<N>, index: number) => void) | undefined;
  /** Called after each one's tick, as the place to read it and its events. Lent in the same way. */
  after?: ((character: Character<N>, index: number) => void) | undefined;
}

const NO_OPTIONS = {};

function checkOptions<N extends NameTypes>(options: CrowdOptions<N>): void {
  wantOptions('tickAll', options, ['at', 'refusals', 'before', 'after']);
  wantFunction('tickAll', 'at', options.at);
  wantFunction('tickAll', 'before', options.before);
  wantFunction('tickAll', 'after', options.after);
}

/** What is kept of an array of characters, beside its numbers. */
export interface Crowd {
  plan: Plan;
  readonly world: World;
  /** A view of each one's numbers. */
  readonly views: Float64Array[];
  /** Those that somebody asked for. */
  readonly own: (Character | null)[];
  rosters: Rosters;
  /** Stands for all others in turn. */
  lent: Character;
}

const CROWDS = new WeakMap<Float64Array, Crowd>();

/** More bytes than this do not stay near a core from one tick to the next. */
const NEAR = 4 * 2 ** 20;
/** Numbers that come from memory together. */
const LINE = 8;

/**
 * One tick of many characters of one kind, whose numbers lie side by side in one array: `plan.arraySize()` of them
 * each, all 0 for one that is still to begin. They have no objects but a view of their numbers each; `characterIn`
 * makes one for who asks. The array is the caller's: a copy of it is a snapshot of all, and copied back it restores
 * all, but for keys that characters of `characterIn` have not taken in yet.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @param records Their numbers, `plan.arraySize()` of each.
 * @param count How many of them tick.
 * @param world What they move in.
 * @param options Where they begin, and what is done with each before and after its tick.
 * @throws {UsageError} for an array that is too short, and for numbers of another moveset.
 */
export function tickAll<N extends NameTypes>(
  plan: Plan<N>,
  records: Float64Array,
  count: number,
  world: World,
  options: CrowdOptions<N> = NO_OPTIONS,
): void {
  if (options !== NO_OPTIONS) checkOptions(options);
  const { at, refusals = true, before, after } = options;
  const crowd = crowdOf('tickAll', plan, records, count, world);
  const { views, own, rosters } = crowd;
  const lent = crowd.lent as Character<N>;
  lent.tellsRefusals = refusals;
  const far = count * plan.arraySize() * records.BYTES_PER_ELEMENT > NEAR;
  for (let i = 0; i < count; i++) {
    if (far && i + 1 < count) bringNear(views[i + 1]);
    if (views[i][LAYOUT_ID] !== plan.fingerprint) begin('tickAll', crowd, i, { at: at?.(i) });
    const one = own[i] as Character<N> | null;
    const roster = rosters.kept(views[i]);
    if (one !== null) {
      one.roster = roster;
      one.tellsRefusals = refusals;
      before?.(one, i);
      one.tick();
      after?.(one, i);
      continue;
    }
    lent.lend(views[i], roster);
    before?.(lent, i);
    plan.code.tick(lent, WHOLE);
    after?.(lent, i);
    if (!lent.incoming.isEmpty) handOver(crowd, i);
  }
}

/**
 * A character of such an array, to be pressed, asked and read like any other; the same one each time. One that has
 * not begun begins, where the options say. `tickAll` ticks it with the others.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @param records The array of all of them, as `tickAll` has it.
 * @param index Which of them, from 0 on.
 * @param world What they move in.
 * @param start Where one begins that has not begun.
 * @throws {UsageError} for an array that is too short.
 */
export function characterIn<N extends NameTypes>(
  plan: Plan<N>,
  records: Float64Array,
  index: number,
  world: World,
  start: Pick<CharacterOptions, 'at' | 'facing'> = {},
): Character<N> {
  if (!Number.isInteger(index) || index < 0)
    throw new UsageError(
      `characterIn: ${String(index)} is no place of a character; give a whole number from 0 on.`,
      'out-of-range',
    );
  wantOptions('characterIn', start, ['at', 'facing']);
  const crowd = crowdOf('characterIn', plan, records, index + 1, world);
  if (crowd.views[index][LAYOUT_ID] !== plan.fingerprint) begin('characterIn', crowd, index, start);
  return keep(crowd, index) as Character<N>;
}

function crowdOf(call: string, plan: Plan, records: Float64Array, count: number, world: World): Crowd {
  if (!Number.isInteger(count)) check(call, plan, records, count, world);
  let crowd = CROWDS.get(records);
  if (crowd === undefined || crowd.plan !== plan || crowd.world !== world) {
    check(call, plan, records, count, world);
    crowd = { plan, world, views: [], own: [], rosters: rostersOf(plan), lent: new Character(plan, { world }) };
    CROWDS.set(records, crowd);
    plan.live?.add(crowd);
  }
  const { views, own } = crowd;
  if (views.length < count) {
    check(call, plan, records, count, world);
    const size = plan.arraySize();
    for (let i = views.length; i < count; i++) {
      views.push(records.subarray(i * size, (i + 1) * size));
      own.push(null);
    }
  }
  return crowd;
}

function check(call: string, plan: Plan, records: Float64Array, count: number, world: World): void {
  wantPlan(call, plan);
  if (!Number.isInteger(count) || count < 0)
    throw new UsageError(`${call}: there cannot be ${String(count)} characters; give a whole number.`, 'out-of-range');
  if (typeof world?.sweep !== 'function')
    throw new UsageError(
      `${call}: it takes a world; without one, an engine moves each character by itself.`,
      'wrong-record',
    );
  const needed = count * plan.arraySize();
  if (!(records instanceof Float64Array && records.length >= needed))
    throw new UsageError(
      `${call}: the array must be a Float64Array of at least ${needed} numbers for ${count} of ${plan.name}; it holds ${records?.length ?? 'no'} numbers.`,
      'wrong-record',
    );
}

function begin(
  call: string,
  { plan, world, views }: Crowd,
  index: number,
  start: Pick<CharacterOptions, 'at' | 'facing'>,
): void {
  if (views[index][LAYOUT_ID] !== 0)
    throw new UsageError(
      `${call}: the numbers of character ${index} are of another moveset than ${plan.name}; fill them with 0 to begin again.`,
      'wrong-record',
    );
  new Character(plan, { ...start, world, into: views[index] });
}

/** Reads through the numbers of the next one, all at once, so that its tick does not wait for them one by one. */
function bringNear(r: Float64Array): void {
  let sum = 0;
  for (let at = 0; at < r.length; at += LINE) sum += r[at];
  FETCHED[0] = sum;
}

/** Without a use of what is read, nothing would be. */
const FETCHED = new Float64Array(1);

/** Makes one that is there for good. */
function keep({ plan, world, views, own }: Crowd, index: number): Character {
  const one = own[index] ?? new Character(plan, { world, into: views[index] }, true);
  own[index] = one;
  return one;
}

/** Whoever is told something outside of its own tick waits for the next one by itself. */
function handOver(crowd: Crowd, index: number): void {
  const { incoming: lent } = crowd.lent;
  const { incoming } = keep(crowd, index);
  for (let i = 0; i < lent.keys; i++) incoming.key(lent.codes[i]);
  const { data, count } = lent;
  for (let at = 0; at < count * Rows.WIDTH; at += Rows.WIDTH)
    incoming.add(data[at], data[at + 1], data[at + 2], data[at + 3], data[at + 4]);
  lent.clear();
}
