import { Arena, type Member } from '../arena/index.js';
import type { Opponent } from '../arena/opponent.js';
import { ENTRY, I_EXTRA, I_PLAN } from '../arena/snapshot.js';
import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import type { Join, Watcher } from '../saved/watcher.js';
import type { Renamed } from '../tick/take-in/map-rows.js';
import type { World } from '../world/world.js';
import { dataOfWorld } from '../world/world-data.js';
import { AnswerLog, hashOfStrike, NotedWorld, notedProbes, traitsOf, unnoted } from './answers.js';
import { Frames } from './frames.js';
import { type Change, OF_WORLD, placeKey, type Run, type SwapChange } from './run.js';
import { ArenaSource, CharacterSource, F_COUNT, FRAME, keptOf, type Sheet, type Source, TOLD } from './source.js';
import { freeze } from './surroundings.js';

const HEAD = new Float64Array(2);

/** A frame as a list, to be compared with one that was recorded. */
class Draft implements Sheet {
  readonly numbers: number[] = [];

  clock(): void {}
  put(value: number): void {
    this.numbers.push(value);
  }
  range(from: Float64Array, start: number, end: number): void {
    for (let i = start; i < end; i++) this.numbers.push(from[i]);
  }
}

/** Writes down what happens to a character or an arena. */
export class Recorder implements Watcher {
  readonly run: Run;
  private readonly source: Source;
  private readonly frames: Frames;
  private readonly log: AnswerLog | null;
  private readonly plans: Plan[];
  private readonly places = new Map<string, readonly [number, number, number] | null>();
  private readonly changes: Change[] = [];
  private readonly opponents = new Map<number, Opponent>();
  private readonly wrapped = new WeakSet<Character>();
  /** The world of the host, while its answers are written down. */
  private readonly inner: World | null;
  private readonly noted: NotedWorld | null;
  private ticking = false;
  private rows = new Float64Array(60);
  private rowCount = 0;
  private count = -1;

  constructor(
    private readonly of: Character | Arena,
    seconds: number,
    bytes: number,
  ) {
    const world = worldOf(of);
    const ours = world !== null && dataOfWorld(world) !== undefined;
    this.log = ours ? null : new AnswerLog();
    const traits = () => traitsOf(world as World);
    this.inner = world !== null && !ours ? world : null;
    this.noted = this.inner && new NotedWorld(this.inner, this.log as AnswerLog);
    if (this.noted !== null) of.useWorld(this.noted);
    const words = of instanceof Arena ? of.words.list : [];
    if (of instanceof Arena) {
      const { known } = of;
      this.plans = [...new Set(of.members.map(({ c }) => c.plan))];
      this.source = new ArenaSource(of, (plan) => this.planIndex(plan));
      this.frames = new Frames(seconds * this.source.rate, bytes);
      this.run = {
        ...this.common(world, traits, words, of.summons),
        isArena: true,
        names: known.names.list,
        kinds: known.kinds.list,
        teams: known.teams.list,
        tags: known.tagLists.list,
      };
      // A swap may replace those as well, and the first who joins says the rate.
      Object.defineProperty(this.run, 'summons', { get: () => of.summons, enumerable: true });
      Object.defineProperty(this.run, 'rate', { get: () => this.source.rate, enumerable: true });
    } else {
      this.plans = [of.plan];
      this.source = new CharacterSource(of, worldOf(of), (plan) => this.planIndex(plan));
      this.frames = new Frames(seconds * this.source.rate, bytes);
      this.run = {
        ...this.common(world, traits, words, {}),
        isArena: false,
        names: [of.plan.name],
        kinds: [],
        teams: [],
        tags: [[]],
      };
    }
    this.meetEverybody();
    of.watching = [...of.watching, this];
    this.keep();
  }

  private common(
    world: World | null,
    traits: () => ReturnType<typeof traitsOf>,
    words: readonly string[],
    summons: Readonly<Record<string, Plan>>,
  ) {
    const { plans, frames, places, changes, opponents } = this;
    const { rate } = this.source;
    const frozen = freeze(world, traits, this.log?.tags.list ?? []);
    const engineFinds = this.of instanceof Arena && this.of.finds !== null;
    return { plans, rate, engineFinds, frames, places, changes, opponents, words, summons, world: frozen };
  }

  private planIndex(plan: Plan): number {
    const { plans, used, frames, source } = this;
    let index = plans.indexOf(plan);
    if (index < 0) {
      // A moveset that nobody can look back to any more makes room: edits of a day are many.
      const free = used.findIndex((tick) => tick < frames.first);
      index = free >= 0 && !frames.isEmpty ? free : plans.length;
      plans[index] = plan;
    }
    used[index] = source.tick;
    return index;
  }
  /** By moveset: the last tick in which somebody had it. */
  private readonly used: number[] = [];

  /** Stops writing. */
  stop(): void {
    const { of, inner } = this;
    of.watching = of.watching.filter((one) => one !== this);
    if (inner !== null && of.world === this.noted) of.useWorld(inner);
    if (this.log !== null) this.log.open = false;
    for (const c of this.source.characters) c.answer = unnoted(c.answer);
    if (of instanceof Arena && this.finds !== null) of.finds = this.finds;
  }

  before(): void {
    const { log } = this;
    this.rowCount = 0;
    this.meetEverybody();
    if (log === null) return;
    // A tick that threw has not been.
    if (this.ticking) log.count = 0;
    log.open = true;
    this.ticking = true;
  }

  swapped(id: number, next: Plan, renamed: Renamed): void {
    const { changes, plans, log } = this;
    if (log !== null) log.open = false;
    const tick = this.source.tick + 1;
    // Of several in a row, only the last one ever plays.
    const before = changes.findLastIndex(
      (one) => one.tick === tick && typeof one.change === 'object' && 'swaps' in one.change && one.change.swaps === id,
    );
    if (before >= 0) {
      const [{ change }] = changes.splice(before, 1);
      if (!plans.includes(next)) plans[(change as SwapChange).plan] = next;
    }
    changes.push({ tick, change: { swaps: id, plan: this.planIndex(next), renamed } });
    const member = this.of instanceof Arena ? this.of.byId(id) : undefined;
    if (member?.plays) this.opponents.set(id, member.plays);
    else this.opponents.delete(id);
  }

  /** Lets go of what nobody can look back to any more. */
  private forget(): void {
    const { plans, used, changes, frames, source } = this;
    const { first } = frames;
    const now = used.indexOf(source.tick);
    for (let i = 0; i < plans.length; i++) if (used[i] < first && now >= 0) plans[i] = plans[now];
    if (changes.length === 0 || changes[0].tick > first) return;
    const kept = changes.filter(({ tick }) => tick > first);
    changes.length = 0;
    changes.push(...kept);
  }
  private oldest = -2;

  asking(): void {
    if (this.log !== null) this.log.open = true;
  }

  after(): void {
    this.keep();
  }

  write(id: number, data: Float64Array, at: number): void {
    const from = this.rowCount * 6;
    if (from + 6 > this.rows.length) {
      const larger = new Float64Array(this.rows.length * 2);
      larger.set(this.rows);
      this.rows = larger;
    }
    this.rows[from] = id;
    for (let k = 0; k < 5; k++) this.rows[from + 1 + k] = data[at + k];
    this.rowCount++;
  }

  changed(change: Join | number): void {
    const { changes, log } = this;
    if (log !== null) log.open = false;
    const known =
      this.of instanceof Arena && typeof change === 'object' ? this.of.known.plans.list[change.moveset] : null;
    const noted = known && typeof change === 'object' ? { ...change, moveset: this.planIndex(known) } : change;
    changes.push({ tick: this.source.tick + 1, change: noted });
  }

  /** Goes on from where it was restored to, if that is a tick of this run; else begins again with it. */
  rewound(): void {
    const { frames, source, changes } = this;
    const { tick } = source;
    const kept = changes.filter((one) => one.tick <= tick);
    changes.length = 0;
    // Who is back may be made anew.
    this.count = -1;
    this.meetEverybody();
    if (this.isOfThisRun(tick)) {
      frames.cut(tick);
      changes.push(...kept);
      return;
    }
    frames.clear();
    this.rowCount = 0;
    this.keep();
  }

  private isOfThisRun(tick: number): boolean {
    const { frames, plans, source } = this;
    if (frames.isEmpty || !(tick >= frames.first && tick <= frames.last)) return false;
    const draft = new Draft();
    source.write(draft, this.log !== null);
    const { numbers } = draft;
    const frame = frames.read(tick);
    let at = FRAME;
    // Who left in that tick is not there any more.
    for (let i = 0; i < FRAME - 1; i++) if (numbers[i] !== frame[i]) return false;
    for (let i = 0; i < numbers[F_COUNT]; i++) {
      const plan = plans[numbers[at + I_PLAN]];
      const end = at + ENTRY + plan.recordSize;
      for (let k = at; k < end; k++) if (numbers[k] !== frame[k]) return false;
      at += ENTRY + keptOf(plan, this.log !== null).size + numbers[at + I_EXTRA];
    }
    return true;
  }

  /** Writes down the tick that is over. */
  private keep(): void {
    const { source, frames, log } = this;
    const keepsProbes = log !== null;
    // Also before the first tick, and after a restore, when no tick has opened it.
    if (log) log.open = true;
    if (keepsProbes) for (const c of source.characters) askAll(c);
    if (log) log.open = false;
    this.ticking = false;
    // Numbers of a crowd may be put back without a word.
    if (!frames.isEmpty && source.tick !== frames.last + 1) frames.clear();
    frames.begin(source.tick, source.size(keepsProbes));
    source.write(frames, keepsProbes);
    if (this.rowCount > 0) {
      HEAD[0] = TOLD.rows;
      HEAD[1] = this.rowCount * 6;
      frames.tell(HEAD, 0, 2);
      frames.tell(this.rows, 0, this.rowCount * 6);
    }
    if (log !== null && log.count > 0) {
      HEAD[0] = TOLD.answers;
      HEAD[1] = log.count;
      frames.tell(HEAD, 0, 2);
      frames.tell(log.data, 0, log.count);
      log.count = 0;
    }
    source.tell(frames);
    frames.end();
    if (frames.first === this.oldest) return;
    this.oldest = frames.first;
    this.forget();
  }

  /** Notes what is to be known of those who are new. */
  private meetEverybody(): void {
    const { of } = this;
    if (!(of instanceof Arena)) {
      if (this.count < 0) this.meet(0, of);
      this.count = 0;
      return;
    }
    // Ids only rise, and the list is in their order.
    const { members } = of;
    const newest = members.length > 0 ? members[members.length - 1].id : 0;
    if (newest === this.count) return;
    for (const { id, c, plays } of members as readonly Member[]) {
      if (!this.wrapped.has(c)) this.meet(id, c);
      if (plays !== null) this.opponents.set(id, plays);
    }
    this.count = newest;
    const { log } = this;
    if (log !== null && of.finds !== null && this.finds === null) {
      const { finds } = of;
      this.finds = finds;
      of.finds = (strike, volume, found) => {
        const ids: number[] = [];
        finds(strike, volume, (target) => {
          ids.push(target.id);
          found(target);
        });
        log.note(hashOfStrike(strike.by.id, strike.own, strike.meets, volume.x, volume.y, volume.z), ids);
      };
    }
  }
  private finds: Arena['finds'] = null;

  private meet(id: number, c: Character): void {
    this.wrapped.add(c);
    const { log } = this;
    for (const place of c.plan.names.place) {
      const at = c.places?.(place) ?? c.world?.find?.(place);
      // What the world knows is the same for all.
      this.places.set(placeKey(c.places ? id : OF_WORLD, place), at ? [at.x, at.y, at.z ?? 0] : null);
    }
    if (log !== null && c.mover === null && c.answer !== null) c.answer = notedProbes(c.answer, log);
  }
}

function worldOf(of: Character | Arena): World | null {
  return of.world ?? null;
}

/** Asks all that looking back may ask: all probes, and whether there is room for warps and for those who are called. */
function askAll(c: Character): void {
  const { probes, abilities, summonings, code } = c.plan;
  for (let i = 0; i < probes.length; i++) attempt(() => c.probe(i));
  c.asked = true;
  for (const { warp, index } of abilities) if (warp !== null) attempt(() => code.judge(c, index));
  for (let i = 0; i < summonings.length; i++) attempt(() => c.fits(i));
  c.asked = false;
}

/** A recording must not stop a game: what is wrong is told where the game itself asks. */
function attempt(ask: () => unknown): void {
  try {
    ask();
  } catch {}
}
