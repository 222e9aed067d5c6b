import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import { read } from '../moveset/read.js';
import { FORMAT } from '../moveset/schema.js';
import {
  condition,
  either,
  fields,
  formula,
  list,
  listOrOne,
  map,
  name,
  number,
  optional,
  type Read,
  required,
  sound,
  text,
  time,
  word,
} from '../moveset/shape.js';
import { E_AT, E_THERE } from '../record/combat.js';
import { anyHolds, type Test } from '../record/frame.js';
import { CAMERA_X, CAMERA_Z, HOST, X, Z } from '../record/slots.js';
import { wantPlan } from '../report/arguments.js';
import { type Diagnostic, Sink } from '../report/diagnostic.js';
import { wordPlaced } from '../report/wording.js';
import { count } from '../report/words.js';

/** One thing that an opponent does. */
export interface Act {
  /** When it does it: a formula that may read its foe. */
  when: string | boolean;
  /** Presses this input once. */
  press?: string | readonly string[];
  /** Holds this input as long as the condition holds. */
  hold?: string | readonly string[];
  /** Requests this ability by code. */
  request?: string;
  /** Pushes sticks as long as the condition holds: toward the foe, away from it, or [x, y]. */
  push?: Readonly<Record<string, 'toward' | 'away' | readonly [number, number]>>;
  /** How long the condition must have held: its reaction. Default 0f. */
  after?: `${number}${'s' | 'ms' | 'f'}`;
  /** How long it presses. Default 2f. */
  for?: `${number}${'s' | 'ms' | 'f'}`;
  /** How long it waits until it may do this again, whether it did it or the dice were against it. Default 20f. */
  every?: `${number}${'s' | 'ms' | 'f'}`;
  /** How often it does it when it could, 0 to 1 or a percentage. Default 1. */
  chance?: number | `${number}%`;
}

/** What makes a character play by itself: a list of what it does, and when. */
export interface OpponentSource {
  loggia?: 1;
  /** What it is like, in a word or a sentence. */
  opponent?: string;
  /** Where its dice begin, a whole number; each member of an arena adds its own id. Default 1. */
  seed?: number;
  acts: readonly Act[];
}

const act = fields(
  'an act',
  {
    when: required(condition(), 'when it does this.'),
    press: optional(listOrOne(name('button')), 'Presses these inputs once.'),
    hold: optional(listOrOne(name('button')), 'Holds these inputs as long as the condition holds.'),
    request: optional(name('ability'), 'Requests this ability by code.'),
    push: optional(
      map('stick', either({ plain: word('toward', 'away'), list: list(number(-1, 1), { min: 2, max: 2 }) })),
      'Pushes sticks as long as the condition holds: `toward` the foe, `away` from it, or [x, y].',
    ),
    after: optional(time(0), 'How long the condition must have held: its reaction. Default 0f.'),
    for: optional(time(), 'How long it presses. Default 2f.'),
    every: optional(time(), 'How long it waits until it may do this again. Default 20f.'),
    chance: optional(
      formula('number', { fixed: true, percent: true, share: true, min: 0, max: 1 }),
      'How often it does it when it could. Default 1.',
    ),
  },
  ['press', 'hold', 'request', 'push'],
);

/** @internal The whole of an opponent. */
export const OPPONENT = fields('an opponent', {
  $schema: optional(text(), 'Where the JSON Schema of this format is, for editors.'),
  loggia: optional(word(FORMAT), `The format; write "loggia: ${FORMAT}".`),
  opponent: optional(text(), 'What it is like.'),
  seed: optional(number(0, 2 ** 31, true), 'Where its dice begin. Default 1.'),
  acts: required(list(act, { min: 1, max: 64 }), 'what it does, and when.'),
});

/** @internal An opponent as it was read. */
export type ParsedOpponent = Read<typeof OPPONENT>;

interface ActPlan {
  readonly when: readonly Test[];
  readonly press: readonly string[];
  readonly hold: readonly string[];
  readonly request: string | null;
  readonly push: readonly { readonly stick: string; readonly to: 'toward' | 'away' | readonly [number, number] }[];
  readonly after: number;
  readonly for: number;
  readonly every: number;
  readonly chance: number;
}

/** Numbers of its own: the dice; then, per act, since when its condition holds, when it may act again, up to when it presses. */
const DICE = 0;
const FIRST = 1;
const ACT = 3;
const SINCE = 0;
const READY = 1;
const UNTIL = 2;

/** An opponent for one moveset, compiled. Make it before the characters that it plays. */
export class Opponent {
  /** @internal */
  readonly size: number;
  private readonly buttons: readonly string[];
  private readonly sticks: readonly string[];

  /** @internal */
  constructor(
    readonly plan: Plan,
    private readonly seed: number,
    private readonly acts: readonly ActPlan[],
    /** @internal As it was read. */
    readonly parsed: ParsedOpponent,
  ) {
    this.size = FIRST + acts.length * ACT;
    this.buttons = [...new Set(acts.flatMap(({ press, hold }) => [...press, ...hold]))];
    this.sticks = [...new Set(acts.flatMap(({ push }) => push.map(({ stick }) => stick)))];
  }

  /** @internal The same for another moveset; null where that has not what it presses and reads. */
  for(plan: Plan): Opponent | null {
    const sink = new Sink();
    const same = prepareOpponent(plan, this.parsed, sink);
    const { button, stick, ability } = plan.names;
    const knows =
      same.buttons.every((name) => button.includes(name)) &&
      same.sticks.every((name) => stick.includes(name)) &&
      same.acts.every(({ request }) => request === null || ability.includes(request));
    return sink.failed || !knows ? null : same;
  }

  /** @internal Its numbers at the start. */
  begin(id: number): Float64Array {
    const state = new Float64Array(this.size);
    state[DICE] = (this.seed + id * 0x9e3779b9) >>> 0;
    for (let i = 0; i < this.acts.length; i++) state[FIRST + i * ACT + SINCE] = state[FIRST + i * ACT + UNTIL] = -1;
    return state;
  }

  /** @internal Presses and pushes for the next tick. */
  play(c: Character, state: Float64Array): void {
    const tick = c.r[HOST] + 1;
    for (let i = 0; i < this.acts.length; i++) this.decide(c, state, i, tick);
    // What several acts want of one input, any of them gets; a stick goes where the first one pushes it.
    for (let i = 0; i < this.buttons.length; i++) {
      if (this.wants(state, this.buttons[i], tick)) c.door.press(this.buttons[i]);
      else c.door.release(this.buttons[i]);
    }
    for (let i = 0; i < this.sticks.length; i++) this.pushStick(c, state, this.sticks[i], tick);
  }

  private decide(c: Character, state: Float64Array, i: number, tick: number): void {
    const { when, after, every, chance, press, request } = this.acts[i];
    const at = FIRST + i * ACT;
    if (!anyHolds(c, when)) {
      state[at + SINCE] = -1;
      return;
    }
    if (state[at + SINCE] < 0) state[at + SINCE] = tick;
    if (tick - state[at + SINCE] < after || tick < state[at + READY]) return;
    const held = state[at + UNTIL] >= tick;
    // A hold and a push go on; the dice are thrown when they begin.
    if (!(held && press.length === 0 && request === null)) {
      state[at + READY] = tick + every;
      if (chance < 1 && throwDice(state) >= chance) return;
      if (request !== null) c.door.request(request);
    }
    state[at + UNTIL] = tick + (press.length > 0 ? this.acts[i].for - 1 : every);
  }

  private wants(state: Float64Array, button: string, tick: number): boolean {
    for (let i = 0; i < this.acts.length; i++) {
      const { press, hold } = this.acts[i];
      const at = FIRST + i * ACT;
      if (state[at + UNTIL] < tick) continue;
      if (press.includes(button) || (hold.includes(button) && state[at + SINCE] >= 0)) return true;
    }
    return false;
  }

  private pushStick(c: Character, state: Float64Array, stick: string, tick: number): void {
    for (let i = 0; i < this.acts.length; i++) {
      const at = FIRST + i * ACT;
      if (state[at + SINCE] < 0 || state[at + UNTIL] < tick) continue;
      const { push } = this.acts[i];
      let which = 0;
      while (which < push.length && push[which].stick !== stick) which++;
      if (which === push.length) continue;
      const { to } = push[which];
      if (typeof to === 'object') c.door.stick(stick, to[0], to[1]);
      else pushAlong(c, stick, to === 'toward' ? 1 : -1);
      return;
    }
    c.door.stick(stick, 0, 0);
  }
}

/** Pushes a stick so that the body goes toward its foe, or away from it. */
function pushAlong(c: Character, stick: string, sign: number): void {
  const { r, plan } = c;
  const at = plan.foeAt;
  if (at < 0 || r[at + E_THERE] === 0) {
    c.door.stick(stick, 0, 0);
    return;
  }
  const x = (r[at + E_AT] - r[X]) * sign;
  const z = (r[at + E_AT + 2] - r[Z]) * sign;
  if (plan.view === 'side') {
    c.door.stick(stick, Math.sign(x), 0);
    return;
  }
  const length = Math.sqrt(x * x + z * z) || 1;
  // What turns a stick by the camera, turned back.
  const right = (x * -r[CAMERA_Z] + z * r[CAMERA_X]) / length;
  const ahead = (x * r[CAMERA_X] + z * r[CAMERA_Z]) / length;
  c.door.stick(stick, right, ahead);
}

/** From 0 up to 1: a counter whose bits are mixed, so that dice of neighbouring seeds differ from the first throw on. */
function throwDice(state: Float64Array): number {
  const count = (state[DICE] + 0x9e3779b9) >>> 0;
  state[DICE] = count;
  let bits = count ^ (count >>> 16);
  bits = Math.imul(bits, 0x21f0aaad);
  bits ^= bits >>> 15;
  bits = Math.imul(bits, 0x735a2d97);
  bits ^= bits >>> 15;
  return (bits >>> 0) / 4294967296;
}

/**
 * The opponent, unless there are errors; and everything that was found. Never throws for what is wrong in it.
 * @param plan The moveset that it plays.
 * @param source Anything; an opponent, or what JSON.parse gave.
 */
export function checkOpponent(
  plan: Plan,
  source: unknown,
): { opponent?: Opponent; diagnostics: readonly Diagnostic[] } {
  wantPlan('checkOpponent', plan);
  const sink = new Sink();
  const parsed = read(OPPONENT, source, [], plan.names, plan.rate, sink);
  const opponent = parsed && prepareOpponent(plan, parsed, sink);
  return sink.failed || !opponent ? { diagnostics: sink.list } : { opponent, diagnostics: sink.list };
}

/** @internal The opponent of what was read by its shape; its faults go to `sink`. */
export function prepareOpponent(plan: Plan, given: ParsedOpponent, sink: Sink): Opponent {
  const { acts = [], seed = 1 } = given;
  const made = acts.flatMap((row): ActPlan[] => {
    if (!row?.when) return [];
    const { press, hold, request = null, push = {}, after = 0, every = 20, chance } = row;
    const tests = plan.conditions(row.when, sink).map(({ test }) => test);
    return [
      {
        when: [(c) => tests.every((test) => test(c))],
        press: sound(press),
        hold: sound(hold),
        request,
        push: Object.entries(push).flatMap(([stick, to]) => {
          const [x = 0, y = 0] = Array.isArray(to) ? to : [];
          return to === undefined ? [] : { stick, to: Array.isArray(to) ? ([x, y] as const) : to };
        }),
        after,
        for: row.for ?? 2,
        every,
        chance: typeof chance?.source === 'number' ? chance.source : 1,
      },
    ];
  });
  return new Opponent(plan, seed, made, given);
}

/** An opponent that has faults; `diagnostics` has all of them as data. */
export class OpponentError extends Error {
  override readonly name = 'OpponentError';

  constructor(readonly diagnostics: readonly Diagnostic[]) {
    const lines = diagnostics.map((d) => `  ${wordPlaced(d)}`);
    super(`The opponent has ${count(lines.length, 'fault')}:\n${lines.join('\n')}`);
  }
}

/**
 * Compiles an opponent for a moveset, or throws an {@link OpponentError} with every fault at once.
 * @param plan The moveset that it plays.
 * @param source What it does, and when.
 */
export function compileOpponent(plan: Plan, source: OpponentSource): Opponent {
  const { opponent, diagnostics } = checkOpponent(plan, source);
  if (opponent) return opponent;
  throw new OpponentError(diagnostics);
}
