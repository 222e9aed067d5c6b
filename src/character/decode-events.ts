import type { AbilityPlan, Plan, TriggerPlan } from '../compile/plan.js';
import { EVENT } from '../record/event-codes.js';
import { FIRST, type Numbers, Rows, SECOND, THIRD, WHAT } from '../record/rows.js';
import { ENDINGS, type LoggiaEvent, type Values, type Via } from '../report/events.js';
import { mainReason, type Reason } from '../report/reasons.js';
import type { Actor } from '../tick/actor.js';
import { decodeReasons, writeReasons } from '../tick/judge/reasons.js';

/** The events of one tick as data that anyone may keep. */
export function decodeEvents(c: Actor): LoggiaEvent[] {
  const decoded: LoggiaEvent[] = [];
  for (let i = 0; i < c.events.count; i++) decoded.push(decodeRow(c, i * Rows.WIDTH));
  return decoded;
}

function decodeRow(c: Actor, row: number): LoggiaEvent {
  const { plan, values } = c;
  const { data } = c.events;
  const { ability, event, pool, stance, loadout } = plan.names;
  const what = data[row + WHAT];
  const a = data[row + FIRST];
  const b = data[row + SECOND];
  switch (data[row]) {
    case EVENT.started:
      return { kind: 'started', ability: ability[what], input: plan.triggers[a].input };
    case EVENT.phase:
      return { kind: 'phase', ability: ability[what], phase: plan.phases[a].name };
    case EVENT.ended:
      return { kind: 'ended', ability: ability[what], why: ENDINGS[a], by: b < 0 ? null : ability[b] };
    case EVENT.refused: {
      const trigger = plan.triggers[what];
      const decoded = reasonsOf(c, plan.abilities[trigger.ability], a, b);
      return {
        kind: 'refused',
        ability: ability[trigger.ability],
        via: viaOf(trigger),
        input: trigger.input,
        main: mainReason(decoded) as Reason,
        reasons: decoded,
        kept: data[row + THIRD] / plan.rate,
      };
    }
    case EVENT.stance:
      return { kind: 'stance', from: stance[a], to: stance[what] };
    case EVENT.landed:
      return { kind: 'landed' };
    case EVENT.airborne:
      return { kind: 'airborne' };
    case EVENT.stuck:
      return { kind: 'stuck' };
    case EVENT.fell:
      return { kind: 'fell' };
    case EVENT.warped:
      return { kind: 'warped', x: what, y: a, z: b };
    case EVENT.emitted:
      return { kind: 'emitted', event: event[what], ...decodeValues(plan, what, a, values) };
    case EVENT.summoned:
      return { kind: 'summoned', who: plan.names.summon[what] };
    case EVENT.gone:
      return { kind: 'gone' };
    case EVENT.lost:
      return { kind: 'lost', event: event[what] };
    case EVENT.emptied:
      return { kind: 'emptied', pool: pool[what] };
    case EVENT.clip:
      return { kind: 'clip', clip: plan.clips[what] ?? null, layer: plan.layers[a] };
    case EVENT.loadout:
      return { kind: 'loadout', loadout: loadout[what] ?? null };
    case EVENT.latched:
      return { kind: 'latched', ability: ability[what] };
    case EVENT.unlatched:
      return { kind: 'unlatched', ability: ability[what] };
    default:
      return { kind: 'received', event: event[what], ...decodeValues(plan, what, a, values) };
  }
}

/** Reasons as they were written, or as they still are by the bits in `last`. */
function reasonsOf(c: Actor, a: AbilityPlan, first: number, last: number): Reason[] {
  if (first >= 0) return decodeReasons(c.plan, a, c.reasons, first, last);
  const now = new Rows();
  writeReasons(c, a, last, now);
  return decodeReasons(c.plan, a, now, 0, now.count);
}

/** The values of a message that has any. */
function decodeValues(plan: Plan, event: number, from: number, { data }: Numbers): { values?: Values } {
  if (from < 0) return {};
  const values = plan.messages[event].values.map(({ name, type, words, at }) => {
    const first = data[from + at];
    if (type === 'word') return [name, words[first] ?? null];
    if (type === 'time') return [name, first / plan.rate];
    if (type === 'number') return [name, first];
    return [name, { x: first, y: data[from + at + 1], z: data[from + at + 2] }];
  });
  return { values: Object.fromEntries(values) };
}

/** Who made a request: the player by an input, a rule of the moveset, an event, or code. */
function viaOf({ byCode, event, on, button }: TriggerPlan): Via {
  if (byCode) return 'code';
  if (event >= 0) return 'event';
  if (button >= 0 || on === 'edge') return 'input';
  return 'rule';
}
