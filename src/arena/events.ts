import { W_AT, W_DAMAGE, W_PUSH, W_STUN } from '../record/combat.js';
import type { Vector } from '../report/events.js';
import type { Gathering } from '../strikes/gather.js';
import { OUTCOMES, type Outcome } from './apply-blow.js';
import type { Interned } from './interned.js';

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

/** How many numbers each takes. */
export const MEETING = 14;

/** Writes what a tick has gathered as numbers, from a place on: {@link MEETING} of each. Words are kept in a list. */
export function writeMeetings(
  { blows, clashes }: Gathering,
  outcomes: readonly (Outcome | 'touched')[],
  words: Interned<string>,
  out: Float64Array,
): void {
  let at = 0;
  for (let i = 0; i < clashes.count; i++, at += MEETING) {
    const { by, to } = clashes.all[i];
    out.fill(0, at, at + MEETING);
    out[at] = CLASH;
    out[at + 2] = to.id;
    out[at + 3] = by.id;
  }
  for (let i = 0; i < blows.count; i++, at += MEETING) {
    const { by, to, plan, values, stop } = blows.all[i];
    const { rate } = to.c.plan;
    const outcome = outcomes[i];
    const word = outcome === 'touched' ? (plan.tells ?? '') : plan.kind;
    out[at] = outcome === 'touched' ? TOUCH : BLOW;
    out[at + 1] = outcome === 'touched' ? 0 : KINDS.indexOf(outcome);
    out[at + 2] = by.id;
    out[at + 3] = to.id;
    out[at + 4] = word === null ? -1 : words.index(word);
    out[at + 5] = values[W_DAMAGE];
    out[at + 6] = values[W_STUN] / rate;
    out[at + 7] = stop / rate;
    for (let k = 0; k < 3; k++) {
      out[at + 8 + k] = values[W_PUSH + k];
      out[at + 11 + k] = values[W_AT + k];
    }
  }
}

const KINDS = Object.keys(OUTCOMES) as Outcome[];
const BLOW = 0;
const TOUCH = 1;
const CLASH = 2;

/** Such numbers as data that anyone may keep. */
export function readMeetings(
  from: Float64Array,
  first: number,
  count: number,
  words: readonly string[],
  nameOf: (id: number) => string,
): ArenaEvent[] {
  return Array.from({ length: count }, (_, i): ArenaEvent => {
    const at = first + i * MEETING;
    const by = nameOf(from[at + 2]);
    const to = nameOf(from[at + 3]);
    if (from[at] === CLASH) return { kind: 'clash', by, to };
    const word = words[from[at + 4]] ?? null;
    if (from[at] === TOUCH) return { kind: 'touch', event: word ?? '', by, to };
    const vector = (k: number): Vector => ({ x: from[at + k], y: from[at + k + 1], z: from[at + k + 2] });
    return {
      kind: 'blow',
      outcome: KINDS[from[at + 1]],
      by,
      to,
      damage: from[at + 5],
      damageKind: word,
      stun: from[at + 6],
      stop: from[at + 7],
      push: vector(8),
      at: vector(11),
    };
  });
}
