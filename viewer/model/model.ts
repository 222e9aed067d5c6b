import { originOf } from '../../src/compile/origin.js';
import type { Plan } from '../../src/compile/plan.js';
import { joined, type Part, partOf, type Ticks, wordSeconds } from '../../src/draw/timeline/ticks.js';
import { type Timeline, TimelineMaker, tracksOf } from '../../src/draw/timeline/tracks.js';
import { compileTexts } from '../../src/format/compile-texts.js';
import type { PlacedDiagnostic } from '../../src/format/show.js';
import { compare, type Recording, type Why } from '../../src/recording/index.js';
import type { Seen } from '../../src/recording/moment.js';
import { UsageError } from '../../src/report/usage-error.js';
import type { World } from '../../src/world/world.js';
import type { Going, Pointing } from './going.js';
import { keep, kept } from './kept.js';
import { filesOf, mainFile, type TextFile } from './texts.js';

/** How fast it plays. */
export const SPEEDS = [1, 0.5, 0.25, 0.1] as const;

/** So many seconds of what is played are on the timeline. */
const SHOWN = 8;

/** So many seconds of a long run are. */
const SOME = 20;

/** A run that is shown beside the one that was made of it. */
export interface Ghost {
  readonly ticks: Ticks;
  readonly timeline: Timeline;
}

/** Something that failed in a run. */
export interface Flag {
  readonly tick: number;
  readonly text: string;
}

let models = 0;

/** All that the viewer shows, and what is done to it. Whoever draws is told that something has changed. */
export class Model {
  ticks: Ticks;
  maker: TimelineMaker;
  files: TextFile[];
  /** The tick that is looked at. */
  tick: number;
  playing = false;
  speed: number = 1;
  /** A stretch that plays again and again. */
  loop: readonly [from: number, to: number] | null = null;
  /** The ticks at the edges of the timeline. */
  from: number;
  to: number;
  /** Whom *now*, the text and "why not" are about. */
  member: string;
  /** An ability that was chosen. */
  ability: string | null = null;
  why: Why | null = null;
  /** Which file is shown, and which line of it is to be seen. */
  file = '';
  seek: { readonly line: number; readonly asked: number } | null = null;
  /** Which facts are drawn as curves. */
  facts: readonly string[] = keptFacts();
  ghost: Ghost | null = null;
  /** What became of the last edit, in a sentence. */
  told = '';
  diagnostics: readonly PlacedDiagnostic[] = [];
  flags: readonly Flag[] = [];
  /** No two are the same: what is drawn of one is never drawn on for another. */
  readonly serial = ++models;
  private readonly listeners = new Set<() => void>();
  private version = 0;
  private part = 0;
  private edited = new Map<string, Plan>();
  /** After which tick the run is made again: before the one that was looked at when the first edit was made. */
  private editedAt: number | null = null;
  /** Edits are tried from the first tick on, not only from the one that is looked at. */
  fromStart = false;

  /** What goes on, in the lab; else null. */
  live: Going | null = null;
  /** What was played, where a run was continued elsewhere: all of it but what edits have made. */
  private played: readonly Part[];

  constructor(
    /** What was recorded. */
    public recording: Recording,
    public title: string,
    files?: TextFile[],
  ) {
    this.played = [wholeOf(recording)];
    this.ticks = joined(this.played);
    this.maker = new TimelineMaker(this.ticks, { facts: this.facts });
    this.maker.catchUp();
    const first = Math.min(Math.max(0, recording.first), recording.last);
    this.tick = first;
    this.from = first;
    this.to = Math.max(recording.last + 1, first + 30);
    this.member = recording.at(recording.first).of().name;
    this.files = files ?? filesOf(recording.run.plans);
    this.file = (this.now && mainFile(this.now.plan)) ?? this.files[0]?.name ?? '';
  }

  /** Begins to play: what goes on is shown from now on. */
  begin(live: Going, title: string): void {
    if (this.live !== live) this.live?.stop();
    this.live = live;
    this.recording = live.recording;
    this.title = title;
    this.clearEdits();
    this.flags = [];
    this.played = [wholeOf(live.recording)];
    this.remake();
    this.member = live.player;
    this.tick = this.ticks.last;
    this.to = Math.max(SHOWN * this.ticks.rate, this.tick + 1);
    this.from = this.to - SHOWN * this.ticks.rate;
    this.why = null;
    this.told = '';
    const main = this.now && mainFile(this.now.plan);
    if (main) this.file = main;
    this.setPlaying(true);
  }

  /** Plays on from the tick that is looked at: what came after it is forgotten. */
  continueHere(): void {
    const { live, tick } = this;
    if (!live?.canContinue) return;
    const parts = this.parts;
    const next = live.goOn(partOf(parts, tick).recording, tick);
    if (next) {
      live.stop();
      this.live = next;
      this.recording = next.recording;
      this.played = [...parts.filter(({ from }) => from < tick), { from: tick, recording: next.recording }].slice(
        -MOST_PARTS,
      );
    }
    this.clearEdits();
    this.remake();
    this.why = null;
    this.told = '';
    this.setPlaying(true);
  }

  /** What is shown: what was played, up to what edits have made of it. */
  private get parts(): readonly Part[] {
    const { made, played } = this;
    return made ? [...played.filter(({ from }) => from < made.first), { from: made.first, recording: made }] : played;
  }

  private setPlaying(on: boolean): void {
    this.playing = on;
    this.point(this.pointing);
    if (this.live) {
      this.live.muted = !on || this.writing;
      this.live.pause(!on);
    }
    this.changed();
  }

  /** Where the pointer plays, while the stage is drawn from the side. */
  private pointing: Pointing | null = null;
  point(pointing: Pointing | null): void {
    this.pointing = pointing;
    this.live?.point(pointing);
  }

  /** While somebody writes in the text, keys are not for the game. */
  writing = false;
  setWriting(on: boolean): void {
    this.writing = on;
    if (this.live) this.live.muted = on || !this.playing;
  }

  get timeline(): Timeline {
    return this.maker.timeline;
  }

  /** The tick of the former run that stands beside the one that is looked at: it may have ended sooner. */
  get ghostTick(): number {
    return Math.min(this.tick, this.ghost?.ticks.last ?? this.tick);
  }

  /** What the world looks like, where the recording does not know. */
  get scenery(): World | null {
    return this.live?.scenery ?? null;
  }

  /** The one that is looked at, as it is now; undefined where it is not there. */
  get now(): Seen | undefined {
    const { members } = this.ticks.at(this.tick);
    return (members.find(({ name }) => name === this.member) ?? members[0]) as Seen | undefined;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly state = (): number => this.version;

  changed(): void {
    this.version++;
    for (const listener of this.listeners) listener();
  }

  // Time

  goTo(tick: number): void {
    const { first, last } = this.ticks;
    this.tick = Math.max(first, Math.min(last, Math.round(tick)));
    this.part = 0;
    this.why = null;
    this.show(this.tick);
    this.changed();
  }

  step(by: number): void {
    this.pause();
    if (this.live?.isPlayedHere && by > 0 && this.tick >= this.ticks.last && !this.made)
      this.goesOn(this.live, by / this.ticks.rate + 1e-9);
    this.goTo(this.tick + by);
  }

  toggle(): void {
    if (this.live && !this.playing && this.made) {
      this.continueHere();
      return;
    }
    if (!this.playing) {
      // What goes on goes on from where it is; what is over begins again.
      if (this.live) this.tick = this.ticks.last;
      else if (this.tick >= this.ticks.last) this.tick = Math.max(0, this.ticks.first);
      this.why = null;
    }
    this.setPlaying(!this.playing);
  }

  pause(): void {
    if (this.playing) this.setPlaying(false);
  }

  setSpeed(speed: number): void {
    this.speed = speed;
    this.changed();
  }

  /** Plays on for so many seconds; whoever draws calls it once a frame. */
  advance(seconds: number): void {
    // A game goes on in its page also while one looks back, unless it is paused.
    if (!this.playing && this.live?.isPlayedHere === false && !this.made) this.goesOn(this.live, seconds);
    if (!this.playing) return;
    if (this.live) {
      if (!this.goesOn(this.live, seconds * this.speed)) return;
      this.tick = this.ticks.last;
      this.show(this.tick);
      this.changed();
      return;
    }
    this.part += seconds * this.ticks.rate * this.speed;
    const whole = Math.floor(this.part);
    if (whole === 0) return;
    this.part -= whole;
    const last = this.loop ? Math.min(this.loop[1], this.ticks.last) : this.ticks.last;
    this.tick += whole;
    if (this.tick > last) {
      if (this.loop) this.tick = this.loop[0];
      else {
        this.tick = last;
        this.playing = false;
      }
    }
    this.show(this.tick);
    this.changed();
  }

  /** Lets a run go on, and takes in what came; says whether anything did. What cannot go on stands still, and a sentence says why. */
  private goesOn(live: Going, seconds: number): boolean {
    let ticks = 0;
    try {
      ticks = live.advance(seconds);
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      this.told = `It cannot go on: ${error.message}`;
      this.setPlaying(false);
    }
    if (ticks > 0) this.maker.catchUp();
    return ticks > 0;
  }

  /** Moves the timeline so far that a tick is on it. */
  private show(tick: number): void {
    const wide = this.to - this.from;
    if (tick < this.from) this.from = tick - wide * 0.1;
    else if (tick + 1 > this.to) this.from = tick + 1 - wide * 0.9;
    else return;
    this.to = this.from + wide;
  }

  /** Zooms about a tick. */
  zoom(factor: number, about: number): void {
    const most = Math.max(60, (this.ticks.last - this.ticks.first + 1) * 1.2);
    const wide = Math.max(12, Math.min(most, (this.to - this.from) * factor));
    const part = (about - this.from) / (this.to - this.from);
    this.from = about - wide * part;
    this.to = this.from + wide;
    this.changed();
  }

  pan(ticks: number): void {
    this.from += ticks;
    this.to += ticks;
    this.changed();
  }

  showAll(): void {
    this.from = Math.max(0, this.ticks.first);
    this.to = Math.max(this.ticks.last + 1, this.from + 30);
    this.changed();
  }

  /** Of a run that is long, a part about the tick that is looked at; else all of it. */
  showSome(): void {
    const { first, last, rate } = this.ticks;
    const most = SOME * rate;
    if (last - first <= most) return;
    this.from = Math.max(0, this.tick - most / 2);
    this.to = this.from + most;
  }

  /** Plays what the timeline shows again and again, or no longer. */
  toggleLoop(): void {
    const { from, to, ticks } = this;
    this.loop = this.loop ? null : [Math.max(0, Math.floor(from)), Math.floor(Math.min(to, ticks.last))];
    this.changed();
  }

  /** Goes to the next tick, or the one before, in which something of a kind happened to whom is looked at. */
  jump(kind: 'refusal' | 'start' | 'blow', by: 1 | -1): void {
    const found = this.ticksOf(kind).filter((tick) => (tick - this.tick) * by > 0);
    const next = by > 0 ? Math.min(...found) : Math.max(...found);
    this.pause();
    if (found.length === 0) {
      this.told = `There is no ${kind} ${by > 0 ? 'after' : 'before'} this tick.`;
      this.changed();
      return;
    }
    this.told = '';
    this.goTo(next);
    const refused = kind === 'refusal' ? this.now?.refusals[0]?.ability : undefined;
    if (refused !== undefined) this.ask(refused);
  }

  private ticksOf(kind: 'refusal' | 'start' | 'blow'): number[] {
    const own = this.timeline.members.find(({ name }) => name === this.member);
    return (own?.tracks ?? []).flatMap((track) => {
      if (kind === 'blow') return track.kind === 'blows' ? track.blows.map(({ tick }) => tick) : [];
      if (kind === 'start') return track.kind === 'lane' ? track.bars.map(({ from }) => from) : [];
      return track.kind === 'input' || track.kind === 'lane' ? track.refused.map(({ tick }) => tick) : [];
    });
  }

  // What is looked at

  select(member: string): void {
    this.member = member;
    this.why = null;
    this.ability = null;
    const main = this.now && mainFile(this.now.plan);
    if (main) this.file = main;
    this.changed();
  }

  selectNext(): void {
    const names = this.timeline.members.map(({ name }) => name);
    this.select(names[(names.indexOf(this.member) + 1) % names.length]);
  }

  closeWhy(): void {
    this.why = null;
    this.changed();
  }

  choose(ability: string | null): void {
    this.ability = ability;
    if (ability !== null) this.seekPath(['abilities', ability]);
    this.changed();
  }

  /** Why an ability did not start, or could not have, in the tick that is looked at. */
  ask(ability: string): void {
    this.ability = ability;
    this.why = partOf(this.parts, this.tick).recording.why(this.tick, ability, this.now?.name);
    const place = this.why.reasons.find((reason) => reason.place)?.place;
    if (place) this.seekTo(place.file, place.line);
    else this.seekPath(['abilities', ability]);
    this.changed();
  }

  private seekPath(path: readonly (string | number)[]): void {
    const place = this.now && originOf(this.now.plan).placeOf?.([...path]);
    if (place) this.seekTo(place.file, place.line);
  }

  private seekTo(file: string, line: number): void {
    this.file = file;
    this.seek = { line, asked: (this.seek?.asked ?? 0) + 1 };
  }

  /** The file that a moveset begins with. */
  fileOf(plan: Plan): string | undefined {
    return mainFile(plan);
  }

  /** The files of those who take part, and those that are changed. */
  get shownFiles(): readonly TextFile[] {
    const own = new Set(this.recording.run.plans.flatMap((plan) => originOf(plan).files ?? []));
    return this.files.filter(({ name, text, saved }) => own.has(name) || text !== saved);
  }

  openFile(file: string): void {
    this.file = file;
    this.changed();
  }

  setFacts(facts: readonly string[]): void {
    this.facts = facts;
    keep(FACTS, facts);
    this.remake();
    if (this.ghost) this.ghost = { ticks: this.ghost.ticks, timeline: tracksOf(this.ghost.ticks, { facts }) };
    this.changed();
  }

  /** Says something in a sentence. */
  tell(text: string): void {
    this.told = text;
    this.changed();
  }

  // Edits

  /** The run that edits have made, if any. */
  made: Recording | null = null;
  /** Writes the texts, where somebody can. */
  save: (() => void) | null = null;

  /** The text of a file is another: the run from the tick that is looked at is made again with it. */
  edit(name: string, text: string): void {
    const file = this.files.find((one) => one.name === name);
    if (!file || file.text === text) return;
    file.text = text;
    this.editedAt ??= this.tick - 1;
    if (!this.live && this.files.every((one) => one.text === one.saved)) {
      this.forgetEdits();
      return;
    }
    const { diagnostics, plans } = this.compileAll(name);
    for (const plan of plans) this.edited.set(plan.name, plan);
    this.diagnostics = diagnostics;
    const wrong = diagnostics.filter(({ severity }) => severity === 'error');
    if (wrong.length > 0) {
      this.told = `The text has ${wrong.length === 1 ? 'an error' : `${wrong.length} errors`}; the run is as it was before it.`;
      this.changed();
      return;
    }
    const twin = plans.find((plan) =>
      this.recording.run.plans.some((one) => one.name === plan.name && mainFile(one) !== mainFile(plan)),
    );
    if (twin) {
      // A moveset takes the place of the one of its name.
      this.tell(`Two movesets here are called ${twin.name}; the change holds once it is played from the start.`);
      return;
    }
    // What is played now takes the change at once; what is looked back at is made again.
    if (this.live && (this.playing || this.tick >= this.ticks.last) && !this.made) {
      try {
        this.told = this.live.swap(plans, this.files, mainFile);
      } catch (error) {
        if (!(error instanceof UsageError)) throw error;
        this.told = error.message;
      }
      this.clearEdits();
      this.changed();
      return;
    }
    this.playAgain();
  }

  /** The movesets that a file is part of, as they are written now. */
  private compileAll(name: string): { diagnostics: PlacedDiagnostic[]; plans: Plan[] } {
    const diagnostics: PlacedDiagnostic[] = [];
    const plans: Plan[] = [];
    const mains = new Set<string>();
    for (const plan of this.recording.run.plans) {
      const main = mainFile(plan);
      if (!main || mains.has(main) || !originOf(plan).files?.includes(name)) continue;
      mains.add(main);
      const loaded = compileTexts(this.files, main);
      diagnostics.push(...loaded.diagnostics);
      if (loaded.plan) plans.push(loaded.plan);
    }
    return { diagnostics, plans };
  }

  /** Makes the run again from the tick of the first edit. */
  private playAgain(): void {
    const { played } = this;
    const base = joined(played);
    const asked = this.fromStart ? base.first : (this.editedAt ?? this.tick - 1);
    const { recording } = partOf(played, Math.max(asked, base.first));
    const from = Math.max(recording.first, Math.min(asked, recording.last));
    let made = recording;
    let start: number | undefined = from;
    try {
      for (const plan of this.edited.values()) {
        made = made.play({ from: start, plan });
        start = undefined;
      }
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      this.told = error.message;
      this.changed();
      return;
    }
    if (this.ghost === null) this.ghost = { ticks: base, timeline: tracksOf(base) };
    this.made = made;
    this.remake();
    this.told = this.difference(recording, made, from);
    this.tick = Math.min(this.tick, this.ticks.last);
    // The ability may be gone with the edit, or whom it was asked of may not be there any more.
    const { ability } = this;
    const at = Math.max(this.tick, from);
    const one = made.at(at).members.find(({ name }) => name === this.member);
    const asks = this.why !== null && ability !== null && one?.plan.names.ability.includes(ability) === true;
    this.why = asks ? made.why(at, ability, this.member) : null;
    this.changed();
  }

  setFromStart(on: boolean): void {
    this.fromStart = on;
    if (this.edited.size > 0) this.playAgain();
    else this.changed();
  }

  private difference(before: Recording, made: Recording, from: number): string {
    const seconds = (tick: number) => wordSeconds(tick, this.ticks.rate);
    const { same, first, furthest } = compare(before, made, { names: ['the former run', 'this one'] });
    const stopped = made.stopped ? ` It ends at ${seconds(made.stopped.tick)}: ${made.stopped.why}` : '';
    if (same || first === null) return `From ${seconds(from)} on, nothing differs.${stopped}`;
    const [difference] = [...first.differences].sort((a, b) => weight(a.kind) - weight(b.kind));
    const far = furthest >= 0.005 ? ` At most ${furthest.toFixed(2)} apart.` : '';
    return `First difference at ${seconds(first.tick)}: ${difference?.text ?? ''}${far}${stopped}`;
  }

  private clearEdits(): void {
    this.made = null;
    this.ghost = null;
    this.edited = new Map();
    this.editedAt = null;
  }

  /** All edits are gone: what was recorded is shown. */
  forgetEdits(): void {
    this.clearEdits();
    this.diagnostics = [];
    this.told = '';
    this.remake();
    this.tick = Math.min(this.tick, this.ticks.last);
    this.changed();
  }

  /** Makes the tracks anew, of what is shown now. */
  private remake(): void {
    this.ticks = joined(this.parts);
    this.maker = new TimelineMaker(this.ticks, { facts: this.facts });
    this.maker.catchUp();
  }
}

/** Which facts are drawn as curves, as it was chosen last. */
const FACTS = 'curves';

function keptFacts(): readonly string[] {
  const found = kept(FACTS);
  return Array.isArray(found) && found.every((fact) => typeof fact === 'string') ? found : ['vx', 'vy'];
}

/** So often a run can be continued elsewhere before what was played first is forgotten. */
const MOST_PARTS = 20;

function wholeOf(recording: Recording): Part {
  return { from: Number.NEGATIVE_INFINITY, recording };
}

/** What happened says more than a number. */
function weight(kind: string): number {
  return kind === 'event' ? 0 : kind === 'reason' ? 1 : 2;
}
