import { W_AT, W_DAMAGE, W_PUSH, W_STUN } from '../record/combat.js';
import type { Vector } from '../report/events.js';
import type { Gathering } from '../strikes/gather.js';
import type { Outcome } from './apply-blow.js';
import type { Member } from './member.js';

/** What happened between members in a tick. */
export type ArenaEvent =
  /** A strike met somebody: what became of it, and what was left of it. Times in seconds. */
  | {
      readonly kind: 'blow';
      readonly outcome: Outcome;
      readonly by: string;
      readonly to: string;
      readonly damage: number;
      readonly damageKind: string | null;
      readonly stun: number;
      readonly stop: number;
      readonly push: Vector;
      readonly at: Vector;
    }
  /** A touch told its event. */
  | { readonly kind: 'touch'; readonly event: string; readonly by: string; readonly to: string }
  /** A strike met another one, and was lost. */
  | { readonly kind: 'clash'; readonly by: string; readonly to: string };

/** What a tick has gathered, as data that anyone may keep; what became of each blow besides. */
export function tellEvents({ blows, clashes }: Gathering, outcomes: readonly (Outcome | 'touched')[]): ArenaEvent[] {
  const nameOf = (fighter: unknown) => (fighter as Member).name;
  return [
    ...clashes.all
      .slice(0, clashes.count)
      .map(({ by, to }): ArenaEvent => ({ kind: 'clash', by: nameOf(to), to: nameOf(by) })),
    ...blows.all.slice(0, blows.count).map(({ by, to, plan, values, stop }, i): ArenaEvent => {
      const { rate } = to.c.plan;
      const outcome = outcomes[i];
      if (outcome === 'touched') return { kind: 'touch', event: plan.tells ?? '', by: nameOf(by), to: nameOf(to) };
      const vector = (at: number): Vector => ({ x: values[at], y: values[at + 1], z: values[at + 2] });
      return {
        kind: 'blow',
        outcome,
        by: nameOf(by),
        to: nameOf(to),
        damage: values[W_DAMAGE],
        damageKind: plan.kind,
        stun: values[W_STUN] / rate,
        stop: stop / rate,
        push: vector(W_PUSH),
        at: vector(W_AT),
      };
    }),
  ];
}
