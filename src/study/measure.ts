import type { Arena } from '../arena/index.js';
import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import { read } from '../moveset/read.js';
import { formula } from '../moveset/shape.js';
import { C_HITS } from '../record/combat.js';
import type { Operand } from '../record/frame.js';
import { Sink } from '../report/diagnostic.js';
import type { LoggiaEvent } from '../report/events.js';
import { nearestName, nearestOrAll } from '../report/nearest.js';
import { wordDiagnostic } from '../report/wording.js';
import type { Onlooker } from '../scenario/run.js';

/** What is measured of a run. */
export interface Measure extends Onlooker {
  /** What came of it; null where what it waits for has not come. */
  value(): number | null;
}

/** A measure that cannot be understood: why, in a sentence. */
export class MeasureFault extends Error {}

/** Measures that have names of their own, and what they mean. */
export const MEASURES: Readonly<Record<string, string>> = {
  distance: 'how far it has gone over the ground from its start to its end',
  height: 'how far above its start it has been at most',
  damage: 'what its blows have taken',
  damagePerSecond: 'the same for each second of the run',
  hits: 'how many of its blows have met somebody unguarded',
  combo: 'most blows that one of the others took without being free between',
};

/** How others are written. */
export const MEASURE_FORMS = [
  'a formula, at the end: pool.wind',
  'max, min or sum of a formula over all ticks: max vx',
  'time to an event, in seconds: time to landed',
  'a formula as an event comes: at started galeDash: x',
] as const;

/**
 * Makes what measures runs of the first character of a scenario.
 * @param text A name of {@link MEASURES}, or one of {@link MEASURE_FORMS}.
 * @param plan The moveset of the first character; before any character is made of it.
 */
export function makeMeasure(text: string, plan: Plan): Measure {
  const asked = text.trim();
  const { rate } = plan;
  switch (asked) {
    case 'distance':
      return moved(([x, , z], [fromX, , fromZ]) => Math.hypot(x - fromX, z - fromZ));
    case 'height':
      return moved(([, y], [, fromY], most) => Math.max(most, y - fromY));
    case 'damage':
      return blows((sum, { damage }) => sum + damage);
    case 'damagePerSecond': {
      let ticks = 0;
      const all = blows((sum, { damage }) => sum + damage);
      return {
        ...all,
        look(arena, tick) {
          ticks = tick + 1;
          all.look(arena, tick);
        },
        value: () => ((all.value() ?? 0) * rate) / Math.max(1, ticks),
      };
    }
    case 'hits':
      return blows((sum, { outcome }) => sum + Number(outcome === 'struck' || outcome === 'armoured'));
    case 'combo':
      return combo();
  }
  const time = /^time to (.+)$/s.exec(asked);
  if (time) {
    const happens = eventOf(time[1], plan);
    return last((seen, c, arena, tick) => (seen === null && happens(c, arena) ? (tick + 1) / rate : seen));
  }
  const at = /^at ([^:]+):(.+)$/s.exec(asked);
  if (at) {
    const happens = eventOf(at[1], plan);
    const amount = amountOf(at[2], plan);
    return last((seen, c, arena) => (seen === null && happens(c, arena) ? amount(c) : seen));
  }
  const over = /^(max|min|sum) (.+)$/s.exec(asked);
  const amount = amountOf(over ? over[2] : asked, plan);
  if (!over) return last((_, c) => amount(c));
  const [, how] = over;
  return last((seen, c) => {
    const now = amount(c);
    if (seen === null) return now;
    return how === 'sum' ? seen + now : how === 'max' ? Math.max(seen, now) : Math.min(seen, now);
  });
}

/** The first character, while it is there. */
function firstOf(arena: Arena, id: number): Character | undefined {
  const [first] = arena.members;
  return first?.id === id ? first.c : undefined;
}

/** A number that each tick makes of the one before. */
function last(next: (seen: number | null, c: Character, arena: Arena, tick: number) => number | null): Measure {
  let seen: number | null = null;
  let id = -1;
  return {
    begin(arena) {
      seen = null;
      id = arena.members[0].id;
    },
    look(arena, tick) {
      const c = firstOf(arena, id);
      if (c) seen = next(seen, c, arena, tick);
    },
    value: () => seen,
  };
}

type Place = readonly [x: number, y: number, z: number];

function moved(next: (now: Place, from: Place, before: number) => number): Measure {
  let from: Place | undefined;
  const measured = last((seen, { readout: { x, y, z } }) => next([x, y, z], from ?? [x, y, z], seen ?? 0));
  return {
    ...measured,
    begin(arena) {
      measured.begin?.(arena);
      const { x, y, z } = arena.members[0].c.readout;
      from = [x, y, z];
    },
  };
}

type Blow = Extract<Arena['events'][number], { kind: 'blow' }>;

function blows(add: (sum: number, blow: Blow) => number): Measure {
  return last((seen, _, arena) => {
    let sum = seen ?? 0;
    if (arena.eventCount > 0) {
      const [{ name }] = arena.members;
      for (const event of arena.events) if (event.kind === 'blow' && event.by === name) sum = add(sum, event);
    }
    return sum;
  });
}

function combo(): Measure {
  return last((seen, c, arena) => {
    let most = seen ?? 0;
    for (const { c: other } of arena.members)
      if (other !== c && other.plan.combatAt >= 0) most = Math.max(most, other.r[other.plan.combatAt + C_HITS]);
    return most;
  });
}

/** Whether something happens in a tick. */
function eventOf(text: string, plan: Plan): (c: Character, arena: Arena) => boolean {
  const asked = text.trim();
  const told = /^(started|ended|refused) (\S+)$/.exec(asked);
  const is = (test: (event: LoggiaEvent) => boolean) => (c: Character) =>
    c.readout.eventCount > 0 && c.readout.events.some(test);
  if (told) {
    const [, kind, ability] = told;
    if (!plan.names.ability.includes(ability)) throw new MeasureFault(noName('ability', ability, plan.names.ability));
    return is((event) => event.kind === kind && 'ability' in event && event.ability === ability);
  }
  if (asked === 'landed' || asked === 'airborne' || asked === 'fell') return is((event) => event.kind === asked);
  if (asked === 'hit' || asked === 'struck')
    return (c, arena) =>
      arena.eventCount > 0 &&
      arena.events.some((event) => event.kind === 'blow' && arena.find(asked === 'hit' ? event.by : event.to)?.c === c);
  if (plan.names.event.includes(asked)) return is((event) => event.kind === 'emitted' && event.event === asked);
  const known = ['landed', 'airborne', 'fell', 'hit', 'struck', 'started ABILITY', 'ended ABILITY', 'refused ABILITY'];
  throw new MeasureFault(noName('event', asked, [...known, ...plan.names.event]));
}

function noName(what: string, name: string, known: readonly string[]): string {
  return `There is no ${what} "${name}". ${nearestOrAll(name, known)}`;
}

/** A formula as what reads it; a time is in seconds. */
function amountOf(text: string, plan: Plan): (c: Character) => number {
  const sink = new Sink();
  const parsed = read(formula('number'), text.trim(), [], plan.names, plan.rate, sink);
  const made = parsed && plan.amountOf(parsed, sink);
  if (!made || sink.failed) {
    const known = Object.keys(MEASURES);
    const nearest = nearestName(text.trim(), known);
    const why = nearest ? `Did you mean "${nearest}"?` : sink.list.map(wordDiagnostic).join(' ');
    throw new MeasureFault(
      `"${text.trim()}" is no measure: ${why} A measure is ${known.join(', ')}, or ${MEASURE_FORMS.join('; ')}.`,
    );
  }
  const { at, run }: Operand = made.amount;
  const scale = made.time ? plan.rate : 1;
  return (c) => {
    run?.(c);
    return c.r[at] / scale;
  };
}
