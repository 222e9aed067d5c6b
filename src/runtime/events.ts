import type { Character } from './character.js';
import type { ReasonRows } from './judge.js';
import type { Reason } from './reasons.js';
import { Rows } from './rows.js';

/** Kinds of rows, as they are kept during a tick. */
export const EVENT = {
  started: 0,
  phase: 1,
  ended: 2,
  refused: 3,
  stance: 4,
  landed: 5,
  left: 6,
  emitted: 7,
  emptied: 8,
  latched: 9,
  unlatched: 10,
  cameIn: 11,
  clip: 12,
  loadout: 13,
} as const;

/** Why an ability ended. */
export const ENDINGS = [
  'time',
  'condition',
  'letGo',
  'dry',
  'followed',
  'broken',
  'code',
  'interrupted',
  'unpaid',
  'gone',
] as const;
export type Ending = (typeof ENDINGS)[number];
export const ENDED = Object.fromEntries(ENDINGS.map((why, i) => [why, i])) as Record<Ending, number>;

/** What happened in a tick, as the host reads it. Plain data; whoever reads it may keep it. */
export type LoggiaEvent =
  | { readonly kind: 'started'; readonly ability: string }
  | { readonly kind: 'phase'; readonly ability: string; readonly phase: string }
  /** `by` is the ability that followed or broke it. */
  | { readonly kind: 'ended'; readonly ability: string; readonly why: Ending; readonly by: string | null }
  /** `kept` is how many seconds more the request goes on asking. */
  | { readonly kind: 'refused'; readonly ability: string; readonly reasons: readonly Reason[]; readonly kept: number }
  | { readonly kind: 'stance'; readonly from: string; readonly to: string }
  | { readonly kind: 'landed' }
  | { readonly kind: 'left' }
  /** An effect told of an event. */
  | { readonly kind: 'emitted'; readonly event: string }
  /** An event came in through the door. */
  | { readonly kind: 'cameIn'; readonly event: string }
  /** Another clip is to be shown; null for none. */
  | { readonly kind: 'clip'; readonly clip: string | null }
  | { readonly kind: 'loadout'; readonly loadout: string | null }
  | { readonly kind: 'emptied'; readonly pool: string }
  | { readonly kind: 'latched'; readonly ability: string }
  | { readonly kind: 'unlatched'; readonly ability: string };

/** The events of one tick as rows of numbers; decoded only when someone reads them. */
export class EventRows extends Rows {
  decode(character: Character, rows: ReasonRows): LoggiaEvent[] {
    const events: LoggiaEvent[] = [];
    for (let i = 0; i < this.count; i++) events.push(this.decodeRow(character, rows, i));
    return events;
  }

  private decodeRow(character: Character, rows: ReasonRows, index: number): LoggiaEvent {
    const [kind, what, a, b, c] = this.row(index);
    const { plan } = character;
    const { ability, event, pool, stance } = plan.names;
    switch (kind) {
      case EVENT.started:
        return { kind: 'started', ability: ability[what] };
      case EVENT.phase:
        return { kind: 'phase', ability: ability[what], phase: plan.phases[a].name };
      case EVENT.ended:
        return { kind: 'ended', ability: ability[what], why: ENDINGS[a], by: b < 0 ? null : ability[b] };
      case EVENT.refused: {
        const reasons = rows.decode(character, plan.abilities[what], a, b);
        return { kind: 'refused', ability: ability[what], reasons, kept: c / plan.rate };
      }
      case EVENT.stance:
        return { kind: 'stance', from: stance[a], to: stance[what] };
      case EVENT.landed:
        return { kind: 'landed' };
      case EVENT.left:
        return { kind: 'left' };
      case EVENT.emitted:
        return { kind: 'emitted', event: event[what] };
      case EVENT.emptied:
        return { kind: 'emptied', pool: pool[what] };
      case EVENT.clip:
        return { kind: 'clip', clip: plan.clips[what] ?? null };
      case EVENT.loadout:
        return { kind: 'loadout', loadout: plan.names.loadout[what] ?? null };
      case EVENT.latched:
        return { kind: 'latched', ability: ability[what] };
      case EVENT.unlatched:
        return { kind: 'unlatched', ability: ability[what] };
      default:
        return { kind: 'cameIn', event: event[what] };
    }
  }
}
