import { Arena } from '../arena/index.js';
import { Character } from '../character/character.js';
import { want, wantOptions } from '../report/arguments.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import { movesOf } from '../world/world-data.js';
import { checkFrames } from './check-frames.js';
import { type ReadOptions, readRun, writeFile } from './file.js';
import { findTicks, type Sought } from './find.js';
import { Moment } from './moment.js';
import { checkPlay, type PlayOptions, Replay } from './play.js';
import { Recorder } from './recorder.js';
import type { Run } from './run.js';
import { TOLD } from './source.js';
import { type Again, surround } from './surroundings.js';
import { type Why, whyNot } from './why.js';

/** How a recording is made. */
export interface RecordingOptions {
  /** How many seconds are kept at least, the last ones; from 1 to 36,000. Default 60. */
  seconds?: number | undefined;
  /** How many megabytes it may take: then the oldest ticks go sooner. From 1 to 4,000. Default 64. */
  megabytes?: number | undefined;
}

/**
 * What happened to a character or in an arena, tick by tick: the last minute of it, or longer. It writes down all that is
 * read of them, whatever came in, what happened and why not, and what an engine answered.
 */
export class Recording {
  /** @internal */
  readonly run: Run;
  private recorder: Recorder | null;
  private around: Again | null = null;
  private moment: Moment | null = null;

  /**
   * Begins at once, with what is there now.
   * @param of A character that ticks by itself, or an arena with everybody in it.
   * @param options How much of it is kept.
   * @throws {UsageError} for what is neither, and for a character that is in an arena: record that.
   */
  constructor(of: Character | Arena, options?: RecordingOptions);
  /** @internal */
  constructor(of: Character | Arena | Run, options?: RecordingOptions);
  constructor(of: Character | Arena | Run, options: RecordingOptions = {}) {
    wantOptions('Recording', options, ['seconds', 'megabytes']);
    const { seconds = 60, megabytes = 64 } = options;
    checkNumber('Recording', 'seconds', seconds, 1, 36_000);
    checkNumber('Recording', 'megabytes', megabytes, 1, 4000);
    if (of instanceof Arena || of instanceof Character) {
      const inArena = of instanceof Character && of.others !== null;
      want(!inArena, 'Recording', 'what is recorded', 'the arena, for a character that is in one', of);
      this.recorder = new Recorder(of, seconds, megabytes * 2 ** 20);
      this.run = this.recorder.run;
    } else {
      want(
        typeof (of as Run | null)?.frames === 'object',
        'Recording',
        'what is recorded',
        'a Character or an Arena',
        of,
      );
      this.recorder = null;
      this.run = of;
    }
  }

  /** Why a run that was made again ended sooner than it was to: it would have needed an engine or a host's world from that tick on; else null. */
  stopped: { readonly tick: number; readonly why: string } | null = null;

  /** Writes nothing down from now on; what is on it stays. */
  stop(): void {
    this.recorder?.stop();
    this.recorder = null;
  }

  /** Ticks per second. */
  get rate(): number {
    return this.run.rate;
  }
  /** The first tick that can be looked at, as characters and scenarios count: the first of all is 0, and -1 is what was there before it. */
  get first(): number {
    return this.run.frames.first;
  }
  /** The last one. */
  get last(): number {
    return this.run.frames.last;
  }
  /** How many bytes it takes. */
  get bytes(): number {
    return this.run.frames.bytes;
  }

  /**
   * Makes the run again from a tick on: with what came in then, or with other inputs or another moveset. Equal in all,
   * it goes the same, every number. What an engine or a host's world answered is on the recording; where a changed run
   * asks what was not asked, it ends there, and `stopped` says so.
   * @param options From where, up to where, and what is another.
   * @returns Another recording, of that run.
   * @throws {UsageError} for ticks that are not on it.
   */
  play(options: PlayOptions = {}): Recording {
    const { run } = this;
    const { from, until } = checkPlay(run, options);
    const { inputs, plan } = options;
    const again = new Replay(run, from, inputs !== undefined || plan !== undefined);
    if (plan !== undefined) again.useInstead(plan);
    const made = new Recording(again.of, {
      seconds: Math.min(36_000, Math.max(1, (until - from + 1) / run.rate)),
      megabytes: 4000,
    });
    again.go(until, inputs);
    made.stopped = again.stopped;
    made.stop();
    return made;
  }

  /**
   * Everybody as they were after a tick, to be read as they are read live.
   * @param tick From `first` to `last`.
   * @returns A view: the next call moves it to another tick.
   * @throws {UsageError} for a tick that is not on it.
   */
  at(tick: number): Moment {
    want(Number.isInteger(tick), 'Recording.at', 'the tick', 'a whole number', tick);
    this.around ??= surround(this.run);
    this.moment ??= new Moment(this.run, this.around.world, this.around);
    this.show(this.moment, this.around, tick);
    return this.moment;
  }

  /**
   * The ticks after which something is so, or in which something happens.
   * @param sought A formula, as in a moveset, or words for what happens.
   * @throws {UsageError} for a formula that no moveset on it understands, and for an ability that none has.
   */
  find(sought: string | Sought): number[] {
    return findTicks(this, sought);
  }

  /**
   * Why an ability was refused in a tick; where it was not requested, why it could not have started after it: every
   * reason with its line of the moveset, and what it rests on as it was then.
   * @param tick From `first` to `last`.
   * @param ability Its name.
   * @param of Whose. Default: the first member's.
   * @throws {UsageError} for a tick that is not on it, and for an unknown name.
   */
  why(tick: number, ability: string, of?: string): Why {
    return whyNot(() => this.at(tick), ability, of);
  }

  /**
   * All of it as one file: JSON Lines, deflated by gzip. It holds the movesets as they are written, the world if that is
   * one of Loggia's, and what an engine answered.
   * @returns The caller owns it.
   * @throws {UsageError} as long as nothing was recorded.
   */
  toFile(): Promise<Uint8Array> {
    return writeFile(this.run);
  }

  /**
   * A recording from a file, wherever that comes from: it is checked whole before any of it is used.
   * @param bytes What `toFile` gave, or the same inflated.
   * @param options Movesets that it does not hold, and how large it may be.
   * @throws {UsageError} with a sentence for what is no such file, or damaged.
   */
  static async fromFile(bytes: Uint8Array, options: ReadOptions = {}): Promise<Recording> {
    const made = new Recording(await readRun(bytes, options));
    checkFrames(made.run);
    let tick = made.first;
    try {
      made.forEach((then) => {
        tick = then.tick + 1;
        for (const { readout } of [...then.members, ...then.departed]) void readout.events;
        void then.events;
      });
    } catch {
      throw new UsageError(`fromFile: what happened in tick ${tick} cannot be read.`, 'wrong-record');
    }
    return made;
  }

  /** @internal Calls back for each tick, in their order, with everybody as they were then. */
  forEach(look: (then: Moment) => void): void {
    const around = surround(this.run);
    const moment = new Moment(this.run, around.world, around);
    for (let tick = this.first; tick <= this.last; tick++) {
      this.show(moment, around, tick);
      look(moment);
    }
  }

  private show(moment: Moment, around: Again, tick: number): void {
    const { frames } = this.run;
    const page = frames.pageOf(tick);
    const frame = frames.read(tick);
    const index = tick - page.first;
    const from = index === 0 ? 0 : page.toldEnds[index - 1];
    const to = page.toldEnds[index];
    around.answers?.take(page.told, ...stretch(page.told, from, to, TOLD.answers));
    const end = moment.show(frame, page.told, from, to);
    movesOf(around.world)?.readState(frame, end);
  }
}

/** Where the numbers of a kind stand that were told of a tick; nowhere is a stretch without numbers. */
export function stretch(told: Float64Array, from: number, to: number, kind: number): [from: number, to: number] {
  for (let at = from; at < to; at += 2 + told[at + 1]) if (told[at] === kind) return [at + 2, at + 2 + told[at + 1]];
  return [to, to];
}
