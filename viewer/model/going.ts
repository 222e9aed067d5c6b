import type { Plan } from '../../src/compile/plan.js';
import type { Recording } from '../../src/recording/index.js';
import type { TextFile } from './texts.js';

/** A run that goes on while it is looked at: one that is played here, or a game in another page. */
export interface Going {
  recording: Recording;
  /** Who is looked at first. */
  readonly player: string;
  /** Whether it can go on from a tick that is over. */
  readonly canContinue: boolean;
  /** Goes on for so many seconds, or takes in what has come; gives how many ticks that were. */
  advance(seconds: number): number;
  /** Nothing that is pressed is for it. */
  set muted(muted: boolean);
  /** Stands still, where it can. */
  pause(on: boolean): void;
  /** Puts changed movesets in the place of the old ones; says what became of it. */
  swap(plans: readonly Plan[], files: readonly TextFile[], mainOf: (plan: Plan) => string | undefined): string;
  stop(): void;
}
