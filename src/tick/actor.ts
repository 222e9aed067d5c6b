import type { Plan } from '../compile/plan.js';
import type { FactFrame } from '../compile/readings.js';
import type { Mover } from '../motion/mover.js';
import type { Incoming, Numbers, Rows } from '../record/rows.js';
import type { AnswerProbe } from '../world/world.js';
import type { Roster } from './roster.js';

/** Those in an arena, by their numbers. */
export interface Others {
  byId(id: number): { readonly c: Actor } | undefined;
}

/** What the steps of a tick see of a character. */
export interface Actor extends FactFrame {
  readonly plan: Plan;
  /** What moves its body; null when an engine does. */
  readonly mover: Mover | null;
  /** What came through the door and is not taken in yet. */
  readonly incoming: Incoming;
  /** What happened in this tick, and the reasons of its refusals. */
  readonly events: Rows;
  readonly reasons: Rows;
  /** Values of the messages of this tick: their events say where. */
  readonly values: Numbers;
  /** What it can do now: derived from what it has learnt and its loadout, whenever these change. */
  readonly roster: Roster;
  changeRoster(): void;
  /** Derives the roster again, if it was changed. */
  updateRoster(): void;
  /** Writes down what comes in, if set. */
  readonly writer: { write(tick: number, rows: Float64Array, at: number): void } | null;
  /** What probes answered holds no more: the body, its facing or the world may have changed. */
  senseAgain(): void;
  /** Answers probes and warps: the world, or the function that the host of an engine gives; null for none. */
  readonly answer: AnswerProbe | null;
  /** The others of its arena; null outside of one. */
  readonly others: Others | null;
  /** Whether refused requests are told as events. */
  tellsRefusals: boolean;
  /** Whether a warp that began led nowhere: what it belongs to ends. */
  warpFailed: boolean;
  /** Whether it is asked between two ticks what may start: then nothing has started just now. */
  asked: boolean;
}
