import type { Plan } from '../../src/compile/plan.js';
import type { ToWorld } from '../../src/devices/aim.js';
import type { Recording } from '../../src/recording/index.js';
import type { World } from '../../src/world/world.js';
import type { TextFile } from './texts.js';

/** Where the pointer plays: on what, and where a spot of the window is in the world. */
export interface Pointing {
  readonly pointer: HTMLElement;
  readonly toWorld: ToWorld;
}

/** A run that goes on while it is looked at: one that is played here, or a game in another page. */
export interface Going {
  recording: Recording;
  /** Who is looked at first; in a run that is played here, who is played. */
  readonly player: string;
  /** Time goes on only as this page lets it, and keys and the pointer of this page are for it. */
  readonly isPlayedHere: boolean;
  /** Whether it can go on from a tick that is over. */
  readonly canContinue: boolean;
  /** What the world looks like, where the recording does not know: an engine has it. */
  readonly scenery: World | null;
  /** Goes on for so many seconds, or takes in what has come; gives how many ticks that were. */
  advance(seconds: number): number;
  /** Goes on from a tick of a recording: as another run, or, where null, as itself once it has gone back. */
  goOn(from: Recording, tick: number): Going | null;
  /** Nothing that is pressed is for it. */
  set muted(muted: boolean);
  /** The pointer plays on something, or on nothing any more. */
  point(pointing: Pointing | null): void;
  /** Makes an element press an input while it is touched; gives what ends that. */
  touch(element: HTMLElement, input: string): () => void;
  /** Stands still, where it can. */
  pause(on: boolean): void;
  /** Puts changed movesets in the place of the old ones; says what became of it. */
  swap(plans: readonly Plan[], files: readonly TextFile[], mainOf: (plan: Plan) => string | undefined): string;
  stop(): void;
}
