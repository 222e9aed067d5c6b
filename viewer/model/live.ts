import type { Arena } from '../../src/arena/index.js';
import type { Character } from '../../src/character/character.js';
import { swapMoveset } from '../../src/character/swap.js';
import type { Plan } from '../../src/compile/plan.js';
import type { ToWorld } from '../../src/devices/aim.js';
import { type Listening, listen } from '../../src/devices/index.js';
import { Recording } from '../../src/recording/index.js';
import { Replay } from '../../src/recording/play.js';
import { Sink } from '../../src/report/diagnostic.js';
import { beginRun, type Prepared } from '../../src/scenario/run.js';
import { movesOf } from '../../src/world/world-data.js';
import type { Going } from './going.js';

/** How much of a run is kept, in seconds. */
const KEPT = 60;
/** After a pause of the page, so much is caught up at most, in seconds. */
const MOST = 0.1;

/** Where the pointer plays: on what, and where a spot of the window is in the world. */
export interface Pointing {
  readonly pointer: HTMLElement;
  readonly toWorld: ToWorld;
}

/** A run that goes on: somebody plays it. */
export class Live implements Going {
  readonly canContinue = true;
  recording: Recording;
  /** The tick in which it is. */
  tick = 0;
  readonly rate: number;
  private arena: Arena;
  private listening: Listening | null = null;
  private part = 0;
  private quiet = true;
  private pointing: Pointing | null = null;

  private constructor(
    arena: Arena,
    /** Who is played. */
    readonly player: string,
    private readonly window: Window,
    tick: number,
  ) {
    this.arena = arena;
    this.rate = this.character?.plan.rate ?? 60;
    this.tick = tick;
    this.recording = new Recording(arena, { seconds: KEPT });
    this.hear();
  }

  /** From the start of a scenario, with all that can be learnt. A fault is a sentence. */
  static begin(prepared: Prepared, window: Window): Live | string {
    const sink = new Sink();
    const arena = beginRun(prepared, sink);
    if (!arena) return 'Nobody can begin here.';
    const { plan } = prepared.players;
    const { character } = arena.members[0];
    for (const { name, locked } of plan.abilities) if (locked) character.door.learn(name);
    return new Live(arena, plan.name, window, 0);
  }

  /** From a tick of a recording on, with its movesets. */
  static from(recording: Recording, tick: number, player: string, window: Window): Live {
    const { of } = new Replay(recording.run, tick, true);
    return new Live(of as Arena, player, window, tick + 1);
  }

  get character(): Character | undefined {
    return this.arena.find(this.player)?.character ?? this.arena.members[0]?.character;
  }

  /** Nothing that is pressed is for the game, as while somebody writes. */
  set muted(muted: boolean) {
    this.quiet = muted;
    if (this.listening) this.listening.hub.muted = muted;
  }

  /** The pointer plays on something, or on nothing any more. */
  point(pointing: Pointing | null): void {
    if (pointing === this.pointing) return;
    this.pointing = pointing;
    this.hear();
  }

  /** Goes on for so many seconds; gives how many ticks that were. */
  advance(seconds: number): number {
    this.part += Math.min(seconds, MOST) * this.rate;
    let ticks = 0;
    for (; this.part >= 1; this.part--, ticks++) {
      this.listening?.poll();
      // Its blocks move by themselves while they are replayed; else they are where the time says.
      movesOf(this.arena.world)?.advanceTo(this.tick / this.rate);
      this.arena.tick();
      this.tick++;
    }
    return ticks;
  }

  /** Puts changed movesets in the place of the old ones; says what could not go on. */
  swap(plans: readonly Plan[]): string {
    const ended: string[] = [];
    for (const plan of plans) {
      for (const swapped of swapMoveset(this.arena, plan))
        ended.push(...swapped.ended.map(({ kind, name }) => `${kind} ${name}`));
    }
    this.hear();
    return ended.length === 0 ? 'The change holds from this tick on.' : `The change holds; gone: ${ended.join(', ')}.`;
  }

  /** It stands still by itself while nobody lets it go on. */
  pause(): void {}

  stop(): void {
    this.listening?.stop();
    this.listening = null;
    this.recording.stop();
  }

  /** Listens to the devices, by the bindings of the moveset as it is now. */
  private hear(): void {
    this.listening?.stop();
    this.listening = null;
    if (!this.character) return;
    this.listening = listen(this.character, { window: this.window, ...this.pointing });
    this.listening.hub.muted = this.quiet;
  }
}
