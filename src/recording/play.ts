import type { Revived } from '../arena/company.js';
import { Arena, type Member } from '../arena/index.js';
import type { Opponent } from '../arena/opponent.js';
import { ENTRY, I_CALLER, I_EXTRA, I_ID, I_NAME, I_PLAN, I_TAGS, I_TEAM } from '../arena/snapshot.js';
import { Character } from '../character/character.js';
import type { Door } from '../character/door.js';
import type { Readout } from '../character/readout.js';
import { swapMoveset } from '../character/swap.js';
import type { Plan } from '../compile/plan.js';
import type { Facts } from '../moveset/name-types.js';
import { FALL, FORCED, GRAVITY, HOST, SHAPE, STOP, VX, VY, VZ, WARPED, X, Y, Z } from '../record/slots.js';
import { want, wantFunction, wantOptions, wantPlan } from '../report/arguments.js';
import { checkNumber, indexOfName, UsageError } from '../report/usage-error.js';
import { faultOfRow, isContact } from '../tick/take-in/door-rows.js';
import { initializeRecord } from '../tick/take-in/initialize.js';
import { mapRows } from '../tick/take-in/map-rows.js';
import { movesOf } from '../world/world-data.js';
import { Unasked } from './answers.js';
import { setTo } from './moment.js';
import { rowsOf } from './rows-of.js';
import type { Run, SwapChange } from './run.js';
import { F_COUNT, F_LEFT, F_NEXT, FRAME, keptOf, TOLD } from './source.js';
import { type Again, surround } from './surroundings.js';

/** Somebody in a run that is made again, before one of its ticks. */
export interface Player {
  readonly name: string;
  /** What comes in through it comes in in this tick. */
  readonly door: Door;
  /** How they are after the tick before. */
  readonly readout: Readout;
  readonly facts: Facts;
}

/** A tick that is about to be made again. */
export interface PlayTick {
  /** Which one. */
  readonly tick: number;
  /**
   * Somebody who takes part.
   * @param name Default: the first.
   */
  of(name?: string): Player;
  /** What came in when it was recorded comes in again. Call it before anything else is done to doors. */
  recorded(): void;
}

/** How a run is made again. */
export interface PlayOptions {
  /** After which tick it begins. Default: the first one that was recorded. */
  from?: number | undefined;
  /** Up to which tick. Default: the last one that was recorded. */
  until?: number | undefined;
  /** What comes in, in place of what was recorded: called before each tick. */
  inputs?: ((tick: PlayTick) => void) | undefined;
  /** Another moveset, which takes the place of that of the same name at the beginning; where none has that name, of the first one's. */
  plan?: Plan | undefined;
}

/** A run that is being made again: a character or an arena, as it was after a tick, and what is fed to it. */
export class Replay {
  readonly of: Character | Arena;
  /** Why it ended sooner than it was to, or null. */
  stopped: { readonly tick: number; readonly why: string } | null = null;
  private readonly around: Again;
  private readonly arena: Arena | null = null;
  private readonly alone: Character | null = null;
  /** Names of those who were recorded, by their ids. */
  private readonly names = new Map<number, string>();
  /** By name: the moveset with which what comes in was recorded. */
  private readonly plans = new Map<string, Plan>();
  private tick: number;

  constructor(
    private readonly run: Run,
    from: number,
    /** Something is another than it was: opponents play by themselves. */
    private readonly changed: boolean,
  ) {
    this.around = surround(run);
    const frame = run.frames.read(from);
    this.tick = from;
    const members: Revived[] = [];
    let at = FRAME;
    for (let i = 0; i < frame[F_COUNT] + frame[F_LEFT]; i++) {
      const plan = run.plans[frame[at + I_PLAN]];
      const { size } = keptOf(plan, this.around.keepsProbes);
      if (i < frame[F_COUNT]) members.push(this.revive(frame, at, plan, size));
      at += ENTRY + size + frame[at + I_EXTRA];
    }
    movesOf(this.around.world)?.readState(frame, at);
    if (run.isArena) {
      const arena = new Arena({ world: this.around.world ?? undefined, summons: run.summons });
      const { known } = arena;
      known.plans.adopt(run.plans);
      known.names.adopt(run.names);
      known.teams.adopt(run.teams);
      known.tagLists.adopt(run.tags);
      known.kinds.adopt(run.kinds);
      arena.words.adopt(run.words);
      const { answers } = this.around;
      if (run.engineFinds && answers) arena.finds = finder(arena, answers);
      arena.revive(from + 1, frame[F_NEXT], members);
      this.of = this.arena = arena;
    } else this.of = this.alone = members[0].character;
  }

  private revive(frame: Float64Array, at: number, plan: Plan, size: number): Revived {
    const { run, around } = this;
    const id = frame[at + I_ID];
    const name = frame[at + I_NAME];
    const called = name >= 0 ? run.names[name] : `${run.kinds[-1 - name]} ${id}`;
    this.names.set(id, called);
    this.plans.set(called, plan);
    const { world, probes, keepsProbes } = around;
    const places = (place: string) => around.places?.(id, place);
    const character = new Character(plan, { world: world ?? undefined, probes, places }, true);
    initializeRecord(plan, character.r, { x: 0, y: 0, z: 0, facing: 1 });
    setTo(character, frame, at + ENTRY, size, keepsProbes);
    character.senseAgain();
    const state = frame.slice(at + ENTRY + size, at + ENTRY + size + frame[at + I_EXTRA]);
    return {
      id,
      indexes: [frame[at + I_PLAN], name, frame[at + I_TAGS]],
      team: frame[at + I_TEAM],
      caller: frame[at + I_CALLER],
      character,
      plays: opponentFor(run, id, plan),
      state,
    };
  }

  /** Makes ticks again up to one, calling back after each; says whether it got there. */
  go(until: number, inputs: PlayOptions['inputs']): boolean {
    while (this.tick < until) {
      try {
        this.step(inputs);
      } catch (error) {
        if (!(error instanceof Unasked)) throw error;
        const what = this.run.world.kind === 'engine' ? 'the engine' : 'the world';
        this.stopped = {
          tick: this.tick + 1,
          why: `From tick ${this.tick + 1} on it would need ${what}: ${error.message}.`,
        };
        return false;
      }
    }
    return true;
  }

  private step(inputs: PlayOptions['inputs']): void {
    const { run, around, arena } = this;
    const tick = this.tick + 1;
    const { frames } = run;
    const known = tick <= frames.last;
    const moves = movesOf(around.world);
    if (known) {
      const page = frames.pageOf(tick);
      const index = tick - page.first;
      this.told = page.told;
      this.from = index === 0 ? 0 : page.toldEnds[index - 1];
      this.to = page.toldEnds[index];
      if (moves !== null) moves.readState(frames.read(tick), page.size - moves.stateSize);
    } else {
      this.from = this.to = 0;
      moves?.advanceBy(1 / run.rate);
      if (run.world.kind === 'engine') throw new Unasked('what it does with the body was not recorded');
    }
    if (around.answers !== null) this.takeAnswers();
    if (this.changed && run.world.kind === 'engine') this.compareDrives();
    for (; this.nextChange < run.changes.length && run.changes[this.nextChange].tick <= tick; this.nextChange++)
      if (run.changes[this.nextChange].tick === tick) this.change(run.changes[this.nextChange].change);
    if (inputs === undefined) this.feed(false);
    else {
      this.feed(true);
      inputs({ tick, of: (name) => this.player(name), recorded: () => this.feed(false) });
    }
    if (arena !== null) {
      arena.replaysTick = !this.changed;
      arena.tick();
    } else this.alone?.tick();
    this.tick = tick;
  }
  private nextChange = 0;
  private told: Float64Array = new Float64Array(0);
  private from = 0;
  private to = 0;

  private takeAnswers(): void {
    const { told, from, to, around } = this;
    let at = from;
    while (at < to && told[at] !== TOLD.answers) at += 2 + told[at + 1];
    if (at < to) around.answers?.take(told, at + 2, at + 2 + told[at + 1]);
    else around.answers?.take(told, to, to);
  }

  /** What was recorded for this tick comes in; or, of it, what an engine tells of bodies. */
  private feed(contactsOnly: boolean): void {
    const { arena, alone } = this;
    const rows = new Map<string, number[][]>();
    if (this.hasRows())
      for (const { id, rows: all } of rowsOf(this.run, this.tick + 1)) {
        const name = this.names.get(id) ?? this.calledName(id);
        rows.set(name, contactsOnly ? all.filter(([kind]) => isContact(kind)) : all);
      }
    else if (alone !== null) {
      // Most ticks.
      alone.incoming.clear();
      return;
    }
    const own = this.names.get(0) ?? '';
    if (alone !== null) this.load(own, alone, rows.get(own) ?? []);
    else
      for (const member of arena?.members ?? []) {
        // Who plays by themselves, and what somebody rides, is not played from what was recorded.
        if (this.changed && (member.plays !== null || member.steered)) continue;
        this.load(member.name, member.c, rows.get(member.name) ?? []);
      }
  }

  private hasRows(): boolean {
    const { told, from, to } = this;
    for (let at = from; at < to; at += 2 + told[at + 1]) if (told[at] === TOLD.rows) return true;
    return false;
  }

  /** Rows come in as the moveset of now has them. */
  private load(name: string, c: Character, rows: number[][]): void {
    const then = this.plans.get(name) ?? c.plan;
    const mapped = then === c.plan ? rows : mapRows(then, c.plan, rows, c.plan.renamed);
    for (const row of mapped) {
      const fault = faultOfRow(c.plan, row);
      if (fault) throw new UsageError(`play: before tick ${this.tick + 1}, ${fault}.`, 'wrong-record');
    }
    c.door.load(mapped);
  }

  /** Of somebody who was called while it was recorded. */
  private calledName(id: number): string {
    const found = this.arena?.byId(id)?.name;
    return found ?? `${id}`;
  }

  private change(change: Run['changes'][number]['change']): void {
    const { around, run, arena } = this;
    if (typeof change === 'object' && 'swaps' in change) {
      this.swap(change);
      return;
    }
    if (arena === null) return;
    if (typeof change === 'number') {
      const name = this.names.get(change);
      const member = name === undefined ? arena.byId(change) : arena.find(name);
      if (member) arena.remove(member);
      return;
    }
    const { name, moveset, at, facing, team, tags } = change;
    const id = arena.comingId;
    this.names.set(id, name);
    this.plans.set(name, run.plans[moveset]);
    const [x, y, z = 0] = at;
    arena.add(name, run.plans[moveset], {
      at: [x, y, z],
      facing,
      team: team ?? undefined,
      tags,
      probes: around.probes,
      places: (place) => around.places?.(id, place),
      plays: opponentFor(run, id, run.plans[moveset]) ?? undefined,
    });
    if (this.next !== null && this.isReplaced(run.plans[moveset])) this.replace(name, this.next);
  }

  /** The moveset that takes the place of another one in all of this run. */
  useInstead(next: Plan): void {
    const { run, arena, alone } = this;
    const all = alone === null ? (arena?.members ?? []).map(({ c }) => c.plan) : [alone.plan];
    this.next = next;
    this.instead = alone?.plan ?? all.find(({ name }) => name === next.name) ?? all[0] ?? run.plans[0];
    if (alone !== null) swapMoveset(alone, next);
    else if (arena !== null)
      for (const { name, c } of arena.members) if (this.isReplaced(c.plan)) this.replace(name, next);
  }
  private next: Plan | null = null;
  private instead: Plan | null = null;

  private isReplaced(plan: Plan): boolean {
    return plan === this.instead || plan.name === this.instead?.name;
  }

  private replace(name: string, next: Plan): void {
    const member = this.arena?.find(name);
    if (member && member.c.plan !== next) this.arena?.swapOne(member, next, next.renamed);
  }

  /** What the host replaced when it was recorded. */
  private swap({ swaps, plan, renamed }: SwapChange): void {
    const { run, alone, arena } = this;
    const name = this.names.get(swaps) ?? this.calledName(swaps);
    const next = run.plans[plan];
    this.plans.set(name, next);
    if (this.next !== null) return;
    if (alone !== null) swapMoveset(alone, next, { renamed });
    const member = arena?.find(name);
    if (member) arena?.swapOne(member, next, renamed);
  }

  private player(name: string | undefined): Player {
    const { alone, arena } = this;
    const members = (arena?.members ?? []) as readonly Member[];
    if (alone !== null) {
      if (name !== undefined && name !== this.names.get(0))
        indexOfName('of', 'member', name, [this.names.get(0) ?? ''], alone.plan.code);
      return { name: this.names.get(0) ?? '', door: alone.door, readout: alone.readout, facts: alone.facts };
    }
    const names = members.map((member) => member.name);
    const { c } = members[name === undefined ? 0 : indexOfName('of', 'member', name, names, members[0]?.c.plan.code)];
    return { name: name ?? names[0], door: c.door, readout: c.readout, facts: c.facts };
  }

  /** What an engine did with a body holds only as long as it is asked the same. */
  private compareDrives(): void {
    const { run, around, arena, alone, tick } = this;
    const frame = run.frames.read(tick);
    let at = FRAME;
    for (let i = 0; i < frame[F_COUNT]; i++) {
      const plan = run.plans[frame[at + I_PLAN]];
      const name = this.names.get(frame[at + I_ID]);
      const c = alone ?? arena?.members.find((member) => member.name === name)?.c;
      for (const slot of c ? DRIVE : []) {
        const now =
          slot === SHAPE ? (c as Character).plan.shapes[(c as Character).r[SHAPE]].name : (c as Character).r[slot];
        const then = slot === SHAPE ? plan.shapes[frame[at + ENTRY + SHAPE]].name : frame[at + ENTRY + slot];
        if (now !== then) throw new Unasked(`what it asks of ${name}'s body is another than what was recorded`);
      }
      at += ENTRY + keptOf(plan, around.keepsProbes).size + frame[at + I_EXTRA];
    }
  }
}

/** What an engine is asked to do with a body. */
const DRIVE = [X, Y, Z, VX, VY, VZ, FORCED, GRAVITY, FALL, SHAPE, STOP, WARPED, HOST];

/** What plays somebody, for the moveset that they have then. */
function opponentFor({ opponents }: Run, id: number, plan: Plan): Opponent | null {
  const plays = opponents.get(id) ?? null;
  return plays === null || plays.plan === plan ? plays : plays.for(plan);
}

function finder(arena: Arena, answers: NonNullable<Again['answers']>): NonNullable<Arena['finds']> {
  return (strike, volume, found) => {
    for (const id of answers.strike(strike.by.id, strike.own, strike.meets, volume)) {
      const member = arena.byId(id);
      if (member) found(member);
    }
  };
}

/** Checks how a run is to be made again. */
export function checkPlay(run: Run, options: PlayOptions): { from: number; until: number } {
  wantOptions('play', options, ['from', 'until', 'plan', 'inputs']);
  const { first, last, isEmpty } = run.frames;
  if (isEmpty) throw new UsageError('play: nothing was recorded yet; tick first.', 'missing');
  const { from = first, until = last, plan, inputs } = options;
  want(Number.isInteger(from), 'play', 'from', 'a whole number', from);
  want(Number.isInteger(until), 'play', 'until', 'a whole number', until);
  checkNumber('play', 'from', from, first, last);
  checkNumber('play', 'until', until, from, from + MOST);
  wantFunction('play', 'inputs', inputs);
  if (plan !== undefined) wantPlan('play: of its moveset', plan);
  return { from, until };
}

/** So many ticks are made again at most: ten hours at 60 in a second. */
const MOST = 36_000 * 60;
