import type { Arena } from '../../src/arena/index.js';
import type { Character } from '../../src/character/character.js';
import { swapMoveset } from '../../src/character/swap.js';
import type { Plan } from '../../src/compile/plan.js';
import { type Listening, listen, makeButton } from '../../src/devices/index.js';
import { Recording } from '../../src/recording/index.js';
import { Replay } from '../../src/recording/play.js';
import { Sink } from '../../src/report/diagnostic.js';
import { beginRun, type Prepared } from '../../src/scenario/run.js';
import type { World } from '../../src/world/world.js';
import { movesOf } from '../../src/world/world-data.js';
import { bindingsFor } from './bindings.js';
import type { Going, Pointing } from './going.js';

/** How much of a run is kept, in seconds. */
const KEPT = 60;
/** After a pause of the page, so much is caught up at most, in seconds. */
const MOST = 0.1;

/** Who is played in a run, and what the world looks like. */
interface Playing {
  readonly player: string;
  readonly scenery: World | null;
  readonly window: Window;
}

/** A run that goes on: somebody plays it. */
export class Live implements Going {
  readonly canContinue = true;
  readonly isPlayedHere = true;
  readonly player: string;
  readonly scenery: World | null;
  recording: Recording;
  /** The tick in which it is. */
  tick = 0;
  readonly rate: number;
  private listening: Listening | null = null;
  private part = 0;
  private quiet = true;
  private pointing: Pointing | null = null;
  private readonly touched = new Map<HTMLElement, { readonly input: string; stop(): void }>();

  private constructor(
    private readonly arena: Arena,
    private readonly playing: Playing,
    tick: number,
  ) {
    this.player = playing.player;
    this.scenery = playing.scenery;
    this.rate = this.character?.plan.rate ?? 60;
    this.tick = tick;
    this.recording = new Recording(arena, { seconds: KEPT });
    this.hear();
  }

  /**
   * From the start of a scenario, with all that can be learnt. A fault is a sentence.
   * @param as Who is played. Default: the first.
   * @param engine What bodies move in, in place of the scenario's own world, which it looks like.
   */
  static begin(
    prepared: Prepared,
    window: Window,
    as: string | null = null,
    engine: World | null = null,
  ): Live | string {
    const sink = new Sink();
    const arena = beginRun(prepared, sink);
    if (!arena) return 'Nobody can begin here.';
    // biome-ignore lint/correctness/useHookAtTopLevel: it is no hook of React
    if (engine) arena.useWorld(engine);
    const player = as !== null && arena.find(as) ? as : prepared.players.plan.name;
    const character = arena.find(player)?.character;
    for (const { name, locked } of character?.plan.abilities ?? []) if (locked) character?.door.learn(name);
    return new Live(arena, { player, window, scenery: engine && prepared.world }, 0);
  }

  /** From a tick of a recording on, with its movesets. */
  goOn(from: Recording, tick: number): Live {
    const { of } = new Replay(from.run, tick, true);
    return new Live(of as Arena, this.playing, tick + 1);
  }

  get character(): Character | undefined {
    return this.arena.find(this.player)?.character ?? this.arena.members[0]?.character;
  }

  set muted(muted: boolean) {
    this.quiet = muted;
    if (this.listening) this.listening.hub.muted = muted;
  }

  point(pointing: Pointing | null): void {
    if (pointing === this.pointing) return;
    this.pointing = pointing;
    this.hear();
  }

  touch(element: HTMLElement, input: string): () => void {
    const stop = this.listening ? makeButton(this.listening.hub, element, input) : () => {};
    this.touched.set(element, { input, stop });
    return () => {
      this.touched.get(element)?.stop();
      this.touched.delete(element);
    };
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
    this.deafen();
    this.recording.stop();
  }

  private deafen(): void {
    for (const { stop } of this.touched.values()) stop();
    this.listening?.stop();
    this.listening = null;
  }

  /** Listens to the devices, by the bindings of the moveset as it is now. */
  private hear(): void {
    this.deafen();
    const { character, pointing } = this;
    if (!character) return;
    const bindings = bindingsFor(character.plan);
    this.listening = listen(character, { window: this.playing.window, bindings, ...pointing });
    const { hub } = this.listening;
    hub.muted = this.quiet;
    for (const [element, { input }] of this.touched) {
      const stop = character.plan.indexes.button.has(input) ? makeButton(hub, element, input) : () => {};
      this.touched.set(element, { input, stop });
    }
  }
}
