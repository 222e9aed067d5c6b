import type { Plan } from '../../compile/plan.js';
import type { Act } from './acts.js';
import { allKept, type Kept, type Stage } from './stage.js';

/** A state that was reached, and how. */
export interface State {
  readonly index: number;
  /** The one before it, or -1. */
  readonly parent: number;
  /** Which act led to it. */
  readonly act: number;
  /** Steps from the start. */
  readonly depth: number;
  /** How many of the acts were tried from here. */
  tried: number;
  readonly snapshot: Float64Array;
  /** Nothing runs, in the stance in which it began. */
  readonly rests: boolean;
  /** What is done in it. */
  readonly doing: number;
}

/** What one act led to. */
export interface Way {
  readonly from: number;
  readonly to: number;
  readonly act: number;
  readonly kept: Kept;
  /** Index of an ability that started, or -1. */
  readonly started: number;
}

/** What is looked for while states are searched. */
export interface Seen {
  /** By ability: the state in which it ran first, or -1. */
  readonly started: Int32Array;
  /** By ability: reasons that stood against it in every state in which it was asked, as bits. */
  readonly always: Int32Array;
  /** By stance: the state in which it held first, or -1. */
  readonly stances: Int32Array;
  /** By event that goes out: the state after which it first had, or -1. */
  readonly emitted: Map<string, number>;
  readonly poolRose: Uint8Array;
  readonly poolFell: Uint8Array;
  /** By what it is doing: the state that did it longest. */
  readonly doing: Map<number, number>;
  furthest: { readonly state: number; readonly value: number };
  highest: { readonly state: number; readonly value: number };
}

export interface Limits {
  readonly states: number;
  readonly steps: number;
  /** In milliseconds, as `now` counts them. */
  readonly time: number;
  now(): number;
  /** Is told how far it is, now and then; what it gives back says whether to go on. */
  progress?(states: number, ticks: number): boolean | Promise<boolean>;
}

/** So many states between two looks at the clock. */
const LOOK = 64;

/** Reaches as many states as the limits allow, those first in which something is done that was not done before. */
export class Search {
  readonly states: State[] = [];
  readonly ways: Way[] = [];
  readonly seen: Seen;
  /** Why it ended. */
  ended: 'all' | 'states' | 'time' | 'stopped' = 'all';
  private readonly known = new Map<number, number>();
  private stance = -1;
  private readonly counts = new Map<number, number>();
  /** States to go on from: those that do something new, those that are somewhere new, and the others. */
  private readonly queues = [new Queue(), new Queue(), new Queue()] as const;

  constructor(
    readonly stage: Stage,
    readonly step: number,
    private readonly limits: Limits,
  ) {
    const { plan } = stage;
    this.seen = {
      started: new Int32Array(plan.abilities.length).fill(-1),
      always: new Int32Array(plan.abilities.length).fill(-1),
      stances: new Int32Array(plan.stances.length).fill(-1),
      emitted: new Map(),
      poolRose: new Uint8Array(plan.pools.length),
      poolFell: new Uint8Array(plan.pools.length),
      doing: new Map(),
      furthest: { state: 0, value: 0 },
      highest: { state: 0, value: 0 },
    };
  }

  /** `stance` is that of the start. */
  async run(stance: number): Promise<void> {
    this.stance = stance;
    const { stage, limits, step } = this;
    const from = limits.now();
    this.reach(-1, -1, 0);
    const [startX, startY, startZ] = stage.place;
    const { length } = stage.acts;
    const each = stride(length);
    let rounds = 0;
    for (;;) {
      const next = this.next(++rounds);
      if (next === undefined) break;
      if (this.states.length >= limits.states) {
        this.ended = 'states';
        break;
      }
      if (rounds % LOOK === 0) {
        if (limits.now() - from > limits.time) {
          this.ended = 'time';
          break;
        }
        if ((await limits.progress?.(this.states.length, stage.ticks)) === false) {
          this.ended = 'stopped';
          break;
        }
      }
      const state = this.states[next];
      if (state.depth >= limits.steps) continue;
      for (let i = 0; i < SHARE && state.tried < length; i++) {
        // Each state begins elsewhere among the acts, so that few of them show much.
        const act = (state.index * 31 + state.tried++ * each) % length;
        stage.restore(state.snapshot);
        const pools = this.poolsNow();
        const kept = allKept();
        let started = -1;
        stage.play(stage.acts[act], step, kept, () => {
          const found = this.note(state.index, act);
          if (found >= 0) started = found;
        });
        this.comparePools(pools);
        const to = this.reach(state.index, act, state.depth + stage.acts[act].steps);
        this.ways.push({ from: state.index, to, act, kept, started });
        const [x, y, z] = stage.place;
        const far = Math.hypot(x - startX, z - startZ);
        if (far > this.seen.furthest.value + 1e-9) this.seen.furthest = { state: to, value: far };
        if (y - startY > this.seen.highest.value + 1e-9) this.seen.highest = { state: to, value: y - startY };
      }
      if (state.tried < length) this.queues[2].add(next);
    }
  }

  /** The state to go on from: by turns one that does something new, one that is somewhere new, and any. */
  private next(round: number): number | undefined {
    for (let i = 0; i < 3; i++) {
      const found = this.queues[(round + i) % 3].take();
      if (found !== undefined) return found;
    }
    return undefined;
  }

  /** All states from which ways lead to some of these, themselves included. */
  leadingTo(is: (state: State) => boolean): Set<number> {
    const into = new Map<number, number[]>();
    for (const { from, to } of this.ways) {
      const list = into.get(to);
      if (list) list.push(from);
      else into.set(to, [from]);
    }
    const found = new Set(this.states.filter(is).map(({ index }) => index));
    for (const state of found) for (const from of into.get(state) ?? []) found.add(from);
    return found;
  }

  /** The acts that lead to a state. */
  pathTo(index: number): Act[] {
    return pathTo(this.states, this.stage.acts, index);
  }

  /** Notes what has happened in a tick; says which ability has started. */
  private note(from: number, act: number): number {
    const { c } = this.stage;
    const { readout } = c;
    let started = -1;
    if (readout.eventCount === 0) return started;
    for (const event of readout.events) {
      if (event.kind === 'started') {
        started = c.plan.indexes.ability.get(event.ability) ?? -1;
        if (started >= 0 && this.seen.started[started] < 0) this.seen.started[started] = this.pending(from, act);
      } else if (event.kind === 'emitted' && !this.seen.emitted.has(event.event))
        this.seen.emitted.set(event.event, this.pending(from, act));
    }
    return started;
  }

  /** A state that is the end of an act: it may be known already under its number, so the way is kept by itself. */
  private readonly firsts: { readonly from: number; readonly act: number }[] = [];
  private pending(from: number, act: number): number {
    return this.firsts.push({ from, act }) - 1;
  }

  /** The acts up to what `note` has noted first. */
  pathToFirst(first: number): Act[] {
    const { from, act } = this.firsts[first];
    return [...this.pathTo(from), this.stage.acts[act]];
  }

  private poolsNow(): number[] {
    return this.stage.plan.pools.map((_, i) => this.stage.pool(i));
  }

  private comparePools(before: readonly number[]): void {
    for (const [i, value] of before.entries()) {
      const now = this.stage.pool(i);
      if (now > value + 1e-9) this.seen.poolRose[i] = 1;
      if (now < value - 1e-9) this.seen.poolFell[i] = 1;
    }
  }

  /** The number of the state that the stage is in: a new one, if it was not reached before. */
  private reach(parent: number, act: number, depth: number): number {
    const { stage, seen } = this;
    const key = stage.state();
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const index = this.states.length;
    const doing = stage.doing();
    this.known.set(key, index);
    this.states.push({
      index,
      parent,
      act,
      depth,
      tried: 0,
      snapshot: stage.snapshot(),
      rests: stage.rests(this.stance),
      doing,
    });
    const isNew = (key: number) => {
      const times = this.counts.get(key) ?? 0;
      this.counts.set(key, times + 1);
      return times < FEW;
    };
    const [does, is] = [isNew(doing), isNew(-1 - stage.region())];
    this.queues[does ? 0 : is ? 1 : 2].add(index);
    // The last one that is reached has mostly done it longest.
    seen.doing.set(doing, index);
    if (seen.stances[stage.stance] < 0) seen.stances[stage.stance] = index;
    this.judgeAll(stage.plan);
    return index;
  }

  private judgeAll(plan: Plan): void {
    const { c } = this.stage;
    const { always } = this.seen;
    for (let i = 0; i < plan.abilities.length; i++) if (always[i] !== 0) always[i] &= plan.code.judge(c, i);
  }
}

/** The acts that lead from a first state to one of them. */
export function pathTo(
  states: readonly { readonly parent: number; readonly act: number }[],
  acts: readonly Act[],
  index: number,
): Act[] {
  const path: Act[] = [];
  for (let at = states[index]; at.parent >= 0; at = states[at.parent]) path.push(acts[at.act]);
  return path.reverse();
}

/** So many states that do the same, or are in the same place, are gone on from before others. */
const FEW = 8;
/** So many acts are tried from a state before it is the turn of another. */
const SHARE = 12;

/** A stride that comes round to each of so many. */
function stride(length: number): number {
  const divides = (a: number, b: number): number => (b === 0 ? a : divides(b, a % b));
  let found = Math.max(1, Math.floor(length * 0.38));
  while (divides(found, length) !== 1) found++;
  return found;
}

/** First in, first out. */
class Queue {
  private readonly list: number[] = [];
  private head = 0;

  add(index: number): void {
    this.list.push(index);
  }

  take(): number | undefined {
    return this.head < this.list.length ? this.list[this.head++] : undefined;
  }
}
