import type { Reason } from './reasons.js';

/** Why an ability ended. */
export const ENDINGS = [
  'time',
  'condition',
  'released',
  'ranOut',
  'followed',
  'broken',
  'code',
  'interrupted',
  'couldNotPay',
  'unavailable',
] as const;
/** Why an ability ended. */
export type Ending = (typeof ENDINGS)[number];

/** What made a request: an input of the player, a rule of the moveset, an event, or code. */
export type Via = 'input' | 'rule' | 'event' | 'code';

/** A point or a direction. */
export interface Vector {
  /** In the world's units, or per second. */
  readonly x: number;
  /** Upwards. */
  readonly y: number;
  /** 0 seen from the side. */
  readonly z: number;
}

/** Values of a message by name: numbers, times in seconds, points and directions, and words (null for none of them). */
export type Values = Readonly<Record<string, number | string | null | Vector>>;

/** Names that events carry; those of a moveset narrow them. */
interface EventNames {
  ability: string;
  input: string;
  stance: string;
  event: string;
  loadout: string;
  pool: string;
  summon: string;
}

/** What happened in a tick, as the host reads it. Plain data; whoever reads it may keep it. */
export type LoggiaEvent<N extends EventNames = EventNames> =
  /** An ability started. `input` is the one whose press or release started it, or null. */
  | { readonly kind: 'started'; readonly ability: N['ability']; readonly input: N['input'] | null }
  /** A phase began: its name, or its place from 1 on. */
  | { readonly kind: 'phase'; readonly ability: N['ability']; readonly phase: string }
  /** An ability ended. `by` is the ability that followed or broke it. */
  | {
      readonly kind: 'ended';
      readonly ability: N['ability'];
      readonly why: Ending;
      readonly by: N['ability'] | null;
    }
  /**
   * A request was refused, or its reasons changed. `main` is the one to show a player; `reasons` are all.
   * `input` is the one whose press or release requests it, or null; `kept` is how many seconds the request stays alive: its buffer time.
   */
  | {
      readonly kind: 'refused';
      readonly ability: N['ability'];
      readonly via: Via;
      readonly input: N['input'] | null;
      readonly main: Reason;
      readonly reasons: readonly Reason[];
      readonly kept: number;
    }
  /** Another stance holds. */
  | { readonly kind: 'stance'; readonly from: N['stance']; readonly to: N['stance'] }
  /** The feet touched the ground. */
  | { readonly kind: 'landed' }
  /** The feet left the ground. */
  | { readonly kind: 'airborne' }
  /** The body is inside something solid and there is no room to push it out to. */
  | { readonly kind: 'stuck' }
  /** The body fell out of the world at its lower edge. */
  | { readonly kind: 'fell' }
  /** A warp put the feet at x, y, z. */
  | { readonly kind: 'warped'; readonly x: number; readonly y: number; readonly z: number }
  /** An effect emitted an event; with the values that it declares, if any. */
  | { readonly kind: 'emitted'; readonly event: N['event']; readonly values?: Values }
  /** An event that came in, or that it hears of its own, was handled; with the values that it declares, if any. */
  | { readonly kind: 'received'; readonly event: N['event']; readonly values?: Values }
  /** It calls somebody into the arena. */
  | { readonly kind: 'summoned'; readonly who: N['summon'] }
  /** It leaves the arena. */
  | { readonly kind: 'gone' }
  /** Too many messages came in one tick: this one found no room. */
  | { readonly kind: 'lost'; readonly event: N['event'] }
  /** Another clip is to be shown on a layer; null for none. */
  | { readonly kind: 'clip'; readonly clip: string | null; readonly layer: string }
  /** Another loadout is active. */
  | { readonly kind: 'loadout'; readonly loadout: N['loadout'] | null }
  /** A pool is empty. */
  | { readonly kind: 'emptied'; readonly pool: N['pool'] }
  /** A toggle was latched. */
  | { readonly kind: 'latched'; readonly ability: N['ability'] }
  /** A toggle was unlatched. */
  | { readonly kind: 'unlatched'; readonly ability: N['ability'] };
