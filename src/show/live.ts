import { Arena } from '../arena/index.js';
import type { Character } from '../character/character.js';
import { swapLive } from '../character/live.js';
import { swapMoveset } from '../character/swap.js';
import type { Plan } from '../compile/plan.js';
import { Recording } from '../recording/index.js';
import { Sender } from '../recording/stream.js';
import { want, wantFunction, wantOptions, wantText } from '../report/arguments.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import type { Watcher } from '../saved/watcher.js';
import { dataOfWorld, type WorldData } from '../world/world-data.js';
import type { ShowOptions } from './index.js';
import { CHANNEL, type FromGame, type FromViewer } from './messages.js';

export type { ShowOptions } from './index.js';

/** The viewer is told of new ticks so often, in milliseconds. */
const EVERY = 16;

/** The same as in a build, for the development server: there it is shown. */
export function show(of: Character | Arena, name: string, options: ShowOptions = {}): () => void {
  wantText('show', 'the name', name);
  wantOptions('show', options, ['pause', 'restore', 'seconds', 'scenery']);
  const { pause, restore = false, seconds = 60, scenery } = options;
  wantFunction('show', 'pause', pause);
  checkNumber('show', 'seconds', seconds, 1, 3600);
  const looks = scenery === undefined ? null : (dataOfWorld(scenery) ?? null);
  want(scenery === undefined || looks !== null, 'show', 'scenery', "a world of Loggia's own", scenery);
  // The plugin of loggia/vite says so; without it nobody could look.
  if ((globalThis as { __loggia?: unknown }).__loggia === undefined || typeof BroadcastChannel !== 'function')
    return () => {};
  const shown = new Shown(of, name, { pause, restore, seconds, scenery: looks });
  return () => shown.stop();
}

interface Leave {
  readonly pause: ShowOptions['pause'];
  readonly restore: boolean;
  readonly seconds: number;
  readonly scenery: WorldData | null;
}

/** One game that is shown to whoever looks. */
class Shown {
  private readonly id = `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}`;
  private readonly channel = new BroadcastChannel(CHANNEL);
  private readonly recording: Recording;
  /** Looked at by so many pages. */
  private readonly viewers = new Set<string>();
  private sender: Sender | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;
  private readonly snapshots = new Map<number, Float64Array>();
  private oldest = 0;
  private isOver = false;
  private changes: Promise<void> = Promise.resolve();
  private readonly watcher: Watcher = {
    after: () => this.keep(),
    before() {},
    write() {},
    changed() {},
    swapped() {},
    asking() {},
    rewound() {},
  };

  constructor(
    private readonly of: Character | Arena,
    private readonly name: string,
    private readonly leave: Leave,
  ) {
    this.recording = new Recording(of, { seconds: leave.seconds });
    if (leave.restore) of.watching = [...of.watching, this.watcher];
    // In a program without pages, it does not keep that alive.
    (this.channel as { unref?(): void }).unref?.();
    this.channel.onmessage = ({ data }: MessageEvent<FromViewer>) => this.hear(data);
    this.greet();
    globalThis.addEventListener?.('pagehide', () => this.stop());
  }

  stop(): void {
    if (this.isOver) return;
    this.say({ kind: 'gone', id: this.id });
    this.isOver = true;
    clearInterval(this.timer);
    this.recording.stop();
    this.of.watching = this.of.watching.filter((one) => one !== this.watcher);
    this.channel.close();
  }

  private say(message: FromGame): void {
    // What was still being written is for nobody any more.
    if (!this.isOver) this.channel.postMessage(message);
  }

  private greet(): void {
    const { id, name, leave } = this;
    const { restore: canRestore, scenery } = leave;
    this.say({ kind: 'here', id, name, canPause: leave.pause !== undefined, canRestore, scenery });
  }

  private hear(message: FromViewer): void {
    const { id, leave } = this;
    if (message.kind === 'who') {
      this.greet();
      return;
    }
    if (message.id !== id) return;
    switch (message.kind) {
      case 'watch':
        this.viewers.add(message.viewer);
        this.sendWhole();
        this.timer ??= setInterval(() => this.tell(), EVERY);
        (this.timer as { unref?(): void }).unref?.();
        return;
      case 'leave':
        this.viewers.delete(message.viewer);
        if (this.viewers.size > 0) return;
        clearInterval(this.timer);
        this.timer = undefined;
        this.sender = null;
        leave.pause?.(false);
        return;
      case 'pause':
        leave.pause?.(message.on);
        return;
      case 'texts':
        // One after the other: what was written last is what holds.
        this.changes = this.changes.then(() => this.change(message));
        return;
      case 'restore':
        this.restore(message.tick);
    }
  }

  /** The whole recording; what comes after it is told bit by bit. */
  private sendWhole(): void {
    this.sender = new Sender(this.recording);
    this.recording.toFile().then(
      (bytes) => this.say({ kind: 'whole', id: this.id, bytes }),
      (error) => this.say({ kind: 'told', id: this.id, text: sentenceOf(error) }),
    );
  }

  private tell(): void {
    const news = this.sender?.news() ?? null;
    if (news === null) return;
    if (news === 'lost') this.sendWhole();
    else this.say({ kind: 'news', id: this.id, news });
  }

  /** Puts what stands in the viewer's editor in the place of a moveset; nothing of it is written to a file. */
  private async change({ main, files }: Extract<FromViewer, { kind: 'texts' }>): Promise<void> {
    try {
      const { compileTexts } = await import('../format/compile-texts.js');
      const { plan } = compileTexts(files, main);
      if (!plan) return;
      const before = this.plans().find((one) => one.name === plan.name);
      if (before?.live) swapLive(before, plan);
      else if (this.of instanceof Arena) swapMoveset(this.of, plan);
      else swapMoveset(this.of, plan);
    } catch (error) {
      this.say({ kind: 'told', id: this.id, text: sentenceOf(error) });
    }
  }

  private plans(): readonly Plan[] {
    return this.of instanceof Arena ? this.of.members.map(({ character }) => character.plan) : [this.of.plan];
  }

  /** Keeps what it takes to go back to a tick. */
  private keep(): void {
    const { snapshots, recording } = this;
    snapshots.set(recording.last, this.of.snapshot());
    for (; this.oldest < recording.first; this.oldest++) snapshots.delete(this.oldest);
  }

  private restore(tick: number): void {
    const snapshot = this.snapshots.get(tick);
    if (!snapshot) {
      this.say({ kind: 'told', id: this.id, text: 'The game cannot go back to this tick.' });
      return;
    }
    try {
      this.of.restore(snapshot as never);
      for (const at of this.snapshots.keys()) if (at > tick) this.snapshots.delete(at);
    } catch (error) {
      this.say({ kind: 'told', id: this.id, text: sentenceOf(error) });
    }
  }
}

function sentenceOf(error: unknown): string {
  if (!(error instanceof UsageError)) return `It failed: ${String(error)}`;
  return error.message;
}
