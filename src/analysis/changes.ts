import { originOf } from '../compile/origin.js';
import type { Plan } from '../compile/plan.js';
import { isPlain } from '../moveset/read.js';
import { wantPlan } from '../report/arguments.js';
import type { Chart, ChartAbility, ChartArrow } from './chart.js';
import { chartOf } from './chart.js';
import { type LegalCell, legalOf, momentText } from './legal.js';
import { type Timing, timingOf } from './timing.js';

/** A number of an ability's timing that is another one now. Times are in ticks. */
export interface TimingChange {
  readonly ability: string;
  /** What: a key of `Timing`, or `cost wind`. */
  readonly what: string;
  readonly before: number | string | null;
  readonly after: number | string | null;
}

/** A value of the moveset's text that is another one now; null where it was not or is no longer written. */
export interface ValueChange {
  /** Its path, entries of lists by their names: `abilities.galeDash.phases.go.move.speed`. */
  readonly path: string;
  readonly before: unknown;
  readonly after: unknown;
}

/** A pair that may be followed otherwise than before. */
export interface LegalChange {
  /** A stance, or an ability and its phase. */
  readonly moment: string;
  readonly into: string;
  readonly before: Pick<LegalCell, 'may' | 'by'> | null;
  readonly after: Pick<LegalCell, 'may' | 'by'> | null;
}

/** What is otherwise in a second version of a moveset. Plain data. */
export interface MovesetChanges {
  /** Abilities that only the second has, and those that only the first had. */
  readonly added: readonly string[];
  readonly removed: readonly string[];
  readonly timing: readonly TimingChange[];
  readonly legal: readonly LegalChange[];
  /** All values that differ, timing or not; empty where the movesets are packed. */
  readonly values: readonly ValueChange[];
}

/**
 * What changed between two versions of a moveset: numbers, who may follow whom, and every value of its text.
 * @param before The first version.
 * @param after The second one.
 */
export function changesOf(before: Plan, after: Plan): MovesetChanges {
  wantPlan('changesOf: the first argument', before);
  wantPlan('changesOf: the second argument', after);
  const [old, now] = [before.names.ability, after.names.ability];
  const added = now.filter((name) => !old.includes(name));
  const removed = old.filter((name) => !now.includes(name));
  // Of what is new or gone as a whole, it says enough that it is.
  const isWhole = (path: string) => [...added, ...removed].some((name) => path.startsWith(`abilities.${name}.`));
  return {
    added,
    removed,
    timing: timingChanges(timingOf(before), timingOf(after)),
    legal: legalChanges(before, after),
    values: valueChanges(originOf(before).source, originOf(after).source).filter(({ path }) => !isWhole(path)),
  };
}

const TIMES = [
  'lane',
  'startup',
  'active',
  'recovery',
  'total',
  'cooldown',
  'damage',
  'damagePerSecond',
  'costPerDamage',
  'stun',
  'onHit',
  'onBlock',
] as const satisfies readonly (keyof Timing)[];

function timingChanges(before: readonly Timing[], after: readonly Timing[]): TimingChange[] {
  return after.flatMap((now) => {
    const old = before.find(({ ability }) => ability === now.ability);
    if (!old) return [];
    const told = (what: string, a: number | string | null, b: number | string | null): TimingChange[] =>
      a === b ? [] : [{ ability: now.ability, what, before: a, after: b }];
    const pools = [...new Set([...Object.keys(old.costs), ...Object.keys(now.costs)])];
    const list = (names: readonly string[]) => names.join(', ') || null;
    const cancels = ({ cancels }: Timing) => list(cancels.map(({ into, from }) => `${into} from ${from}f`));
    return [
      ...TIMES.flatMap((key) => told(key, old[key], now[key])),
      ...pools.flatMap((pool) => told(`cost ${pool}`, old.costs[pool] ?? null, now.costs[pool] ?? null)),
      ...told('open to', cancels(old), cancels(now)),
      ...told('in a combo', list(old.combos), list(now.combos)),
    ];
  });
}

function legalChanges(before: Plan, after: Plan): LegalChange[] {
  const cells = (plan: Plan) =>
    new Map(
      legalOf(plan).rows.flatMap((row) =>
        row.cells.map(({ into, may, by }) => [JSON.stringify([momentText(row), into]), { may, by }] as const),
      ),
    );
  const [old, now] = [cells(before), cells(after)];
  return [...new Set([...old.keys(), ...now.keys()])].flatMap((key) => {
    const [a, b] = [old.get(key) ?? null, now.get(key) ?? null];
    const [moment, into] = JSON.parse(key) as [string, string];
    if (a === null || b === null || a.may === b.may) return [];
    return [{ moment, into, before: a, after: b }];
  });
}

function valueChanges(before: unknown, after: unknown): ValueChange[] {
  if (before === undefined || after === undefined) return [];
  const [old, now] = [leavesOf(before), leavesOf(after)];
  return [...new Set([...old.keys(), ...now.keys()])].flatMap((path) => {
    const [a, b] = [old.get(path) ?? null, now.get(path) ?? null];
    return a === b ? [] : [{ path, before: a, after: b }];
  });
}

/** Every value that is no map or list of maps, by its path. */
function leavesOf(value: unknown, path = '', leaves = new Map<string, unknown>()): Map<string, unknown> {
  const at = (key: string | number) => (path === '' ? String(key) : `${path}.${key}`);
  if (isPlain(value)) for (const [key, item] of Object.entries(value)) leavesOf(item, at(key), leaves);
  else if (Array.isArray(value) && value.some(isPlain))
    value.forEach((item, i) => {
      const name = isPlain(item) && typeof item.name === 'string' ? item.name : i;
      leavesOf(item, at(name), leaves);
    });
  else
    leaves.set(
      path,
      Array.isArray(value) ? value.map(String).join(', ') : typeof value === 'function' ? 'a function' : value,
    );
  return leaves;
}

/**
 * A chart of the second version of a moveset, in which abilities and arrows say whether they are new, gone or changed.
 * @param before The first version.
 * @param after The second one.
 */
export function chartChanges(before: Plan, after: Plan): Chart {
  wantPlan('chartChanges: the first argument', before);
  wantPlan('chartChanges: the second argument', after);
  const [old, now] = [chartOf(before), chartOf(after)];
  const find = (chart: Chart, name: string) => chart.abilities.find((one) => one.name === name);
  const changeOf = (ability: ChartAbility): ChartAbility['change'] => {
    const was = find(old, ability.name);
    return was ? (JSON.stringify(was) === JSON.stringify(ability) ? null : 'changed') : 'new';
  };
  const keyOf = ({ from, to }: ChartArrow) => JSON.stringify([from, to]);
  const [oldArrows, newArrows] = [new Set(old.arrows.map(keyOf)), new Set(now.arrows.map(keyOf))];
  const gone = old.abilities.filter(({ name }) => !find(now, name));
  return {
    ...now,
    lanes: [
      ...now.lanes,
      ...old.lanes.filter((lane) => !now.lanes.includes(lane) && gone.some((one) => one.lane === lane)),
    ],
    abilities: [
      ...now.abilities.map((ability) => ({ ...ability, change: changeOf(ability) })),
      ...gone.map((ability) => ({ ...ability, change: 'gone' as const })),
    ],
    arrows: [
      ...now.arrows.map((arrow) => ({ ...arrow, change: oldArrows.has(keyOf(arrow)) ? null : ('new' as const) })),
      ...old.arrows
        .filter((arrow) => !newArrows.has(keyOf(arrow)))
        .map((arrow) => ({ ...arrow, change: 'gone' as const })),
    ],
  };
}
