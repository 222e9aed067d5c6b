import type { Plan } from '../../src/compile/plan.js';
import { Recording } from '../../src/recording/index.js';
import { addNews, type News } from '../../src/recording/stream.js';
import type { FromGame, FromViewer } from '../../src/show/messages.js';
import type { World } from '../../src/world/world.js';
import { faultOfWorld, type WorldData, worldOfData } from '../../src/world/world-data.js';
import type { Going } from './going.js';
import type { TextFile } from './texts.js';

/** How much of a game can be looked back at here, in seconds. */
const KEPT = 60;

/** A game that can be looked at. */
export interface Game {
  readonly id: string;
  readonly name: string;
  readonly canPause: boolean;
  readonly canRestore: boolean;
  readonly scenery: WorldData | null;
}

/** By which games and the viewer hear of each other: pages of an origin, or a program and a page that it serves. */
export interface Channel {
  onmessage: ((event: MessageEvent<FromGame>) => unknown) | null;
  postMessage(message: FromViewer): void;
}

/** All games that pages of this origin show, as they come and go. */
export class Games {
  readonly viewer = Math.random().toString(36).slice(2);
  list: readonly Game[] = [];
  private readonly heard = new Set<(message: FromGame) => void>();

  constructor(
    private readonly channel: Channel,
    private readonly changed: () => void,
  ) {
    channel.onmessage = ({ data }: MessageEvent<FromGame>) => {
      if (data.kind === 'here') {
        this.list = [...this.list.filter(({ id }) => id !== data.id), data];
        this.changed();
      } else if (data.kind === 'gone') {
        this.list = this.list.filter(({ id }) => id !== data.id);
        this.changed();
      }
      for (const listener of this.heard) listener(data);
    };
    this.say({ kind: 'who' });
  }

  say(message: FromViewer): void {
    this.channel.postMessage(message);
  }

  /** Calls back with what games tell; gives what ends it. */
  hear(listener: (message: FromGame) => void): () => void {
    this.heard.add(listener);
    return () => this.heard.delete(listener);
  }

  /** Looks at a game; gives it once its recording is there. A fault is a sentence. */
  watch(game: Game): Promise<Remote | string> {
    return new Promise((done) => {
      const stop = this.hear((message) => {
        if (message.kind === 'told' && message.id === game.id) {
          stop();
          done(message.text);
        }
        if (message.kind !== 'whole' || message.id !== game.id) return;
        stop();
        Recording.fromFile(message.bytes, { megabytes: 1000 }).then(
          (recording) => done(new Remote(this, game, recording)),
          (error: Error) => done(error.message),
        );
      });
      this.say({ kind: 'watch', id: game.id, viewer: this.viewer });
    });
  }
}

/** A game in another page, as it goes on there. */
export class Remote implements Going {
  readonly isPlayedHere = false;
  readonly player: string;
  readonly scenery: World | null;
  /** What it tells in words, such as that a change could not be taken. */
  told = '';
  isGone = false;
  private news: News[] = [];
  private readonly stops: () => void;
  /** Is called when a recording took the place of this one: the game went back, or has been away. */
  replaced: ((recording: Recording) => void) | null = null;

  constructor(
    private readonly games: Games,
    readonly game: Game,
    public recording: Recording,
  ) {
    this.player = recording.at(recording.last).of().name;
    const { scenery } = game;
    this.scenery = scenery === null || faultOfWorld(scenery) !== undefined ? null : worldOfData(scenery);
    this.stops = games.hear((message) => this.hear(message));
  }

  get canContinue(): boolean {
    return this.game.canRestore;
  }

  // Its keys, and what is touched or pointed at, are its own page's.
  set muted(_: boolean) {}
  point(): void {}
  touch(): () => void {
    return () => {};
  }

  private hear(message: FromGame): void {
    if (message.kind === ('who' as never) || !('id' in message) || message.id !== this.game.id) return;
    if (message.kind === 'news') this.news.push(message.news);
    else if (message.kind === 'told') this.told = message.text;
    else if (message.kind === 'gone') this.isGone = true;
    else if (message.kind === 'whole')
      Recording.fromFile(message.bytes, { megabytes: 1000 }).then((recording) => {
        this.recording = recording;
        this.news = this.news.filter(({ from }) => from > recording.last);
        this.replaced?.(recording);
      });
  }

  /** Takes in what has come; time goes on there, not here. */
  advance(): number {
    let ticks = 0;
    for (const one of this.news) {
      if (one.from !== this.recording.last + 1) continue;
      addNews(this.recording, one, KEPT);
      ticks += one.frames.length;
    }
    this.news = [];
    return ticks;
  }

  swap(plans: readonly Plan[], files: readonly TextFile[], mainOf: (plan: Plan) => string | undefined): string {
    for (const plan of plans) {
      const main = mainOf(plan);
      if (main)
        this.games.say({
          kind: 'texts',
          id: this.game.id,
          main,
          files: files.map(({ name, text }) => ({ name, text })),
        });
    }
    return 'The running game has the change; saving writes it to the file.';
  }

  pause(on: boolean): void {
    if (this.game.canPause) this.games.say({ kind: 'pause', id: this.game.id, on });
  }

  /** The game itself goes back to a tick, and tells its recording anew. */
  goOn(_: Recording, tick: number): null {
    this.games.say({ kind: 'restore', id: this.game.id, tick });
    return null;
  }

  stop(): void {
    this.stops();
    this.games.say({ kind: 'leave', id: this.game.id, viewer: this.games.viewer });
  }
}
