import type { Plan } from '../compile/plan.js';
import type { AnyMark, NameTypes, ValueName } from '../moveset/name-types.js';
import type { NameKind } from '../moveset/shape.js';
import { surfacesOf } from '../probes/probe.js';
import { FIRST, type Incoming, Rows, SECOND, THIRD } from '../record/rows.js';
import { B_DOWN, BUTTON } from '../record/slots.js';
import { wantText, wantTruth } from '../report/arguments.js';
import { indexOfName, UsageError } from '../report/usage-error.js';
import type { MessageInput } from '../tick/presses/values.js';
import { GIVEN, KEY, keyAt, pushedAt, readStick } from '../tick/take-in/devices.js';
import { isGood, ROW, type RowShape, SHAPES } from '../tick/take-in/door-rows.js';
import { mapIndex, mapRows, type Renamed } from '../tick/take-in/map-rows.js';
import { indexOf } from './names.js';

/** Values of an event by their names; of one that carries none, there are none. */
type ValuesOf<N extends NameTypes, E extends string> = [ValueName<N, E>] extends [never]
  ? Readonly<Record<string, never>>
  : Readonly<Partial<Record<ValueName<N, E>, MessageInput>>>;
/** One of the events and its values. A union, not a type parameter: TypeScript 5.6 finds no `Character` in a typed one otherwise. */
type Sent<N extends NameTypes> = { [E in N['event']]: [name: E, values?: ValuesOf<N, E>] }[N['event']];

/** A pushed-over side counts as pressed beyond this. */
const SIDE = 0.5;
/** How many rows may wait for a tick. */
const MOST_WAITING = 10_000;

/** What the host of an engine tells about a body that Loggia does not move itself, after each step of the engine. */
export interface Contacts {
  /** Middle of the feet. */
  x: number;
  /** Middle of the feet, upwards. */
  y: number;
  /** Middle of the feet. Default 0. */
  z?: number | undefined;
  /** Velocity per second, as the step left it. */
  vx: number;
  /** Velocity upwards, per second, as the step left it. */
  vy: number;
  /** Velocity per second, as the step left it. Default 0. */
  vz?: number | undefined;
  /** Whether the feet stand on something. */
  grounded: boolean;
  /** x of the level normal of a wall that is touched; 0 (default) for none. */
  wallX?: number | undefined;
  /** z of the level normal of a wall that is touched; 0 (default) for none. */
  wallZ?: number | undefined;
  /** Whether something above is touched. Default false. */
  ceiling?: boolean | undefined;
  /** Whether the first body shape of the moveset has room here. Default true. */
  headroom?: boolean | undefined;
  /** Unit normal of the ground; default [0, 1, 0]. */
  groundNormal?: readonly [x: number, y: number, z: number] | undefined;
  /** Velocity per second of what the body stands on; default 0. */
  groundVelocity?: readonly [x: number, y: number, z: number] | undefined;
  /** Surfaces of the ground, of those that the moveset declares; default none. */
  groundSurfaces?: readonly string[] | undefined;
}

/**
 * The one door through which everything from outside reaches a character. Calls take effect at the
 * start of the next tick; every method throws a {@link UsageError} for a name that the moveset does not have and
 * for a number out of range, and then changes nothing.
 */
export class Door<N extends NameTypes = NameTypes> {
  private buttonOf: (name: string) => number;
  private stickOf: readonly number[];
  /** First of the numbers of the keys. */
  private keys: number;
  /** By stick: 1 after its rows came from a tape, as long as no device has said where it is. */
  private replayed: Uint8Array;

  constructor(
    private plan: Plan,
    private r: Float64Array,
    private readonly incoming: Incoming,
    private readonly hosted: boolean,
  ) {
    this.buttonOf = buttonsOf(plan);
    this.stickOf = plan.stickOf;
    this.keys = plan.devicesAt;
    this.replayed = new Uint8Array(plan.sticks.length);
  }

  /**
   * Presses a button or a side of a stick (`move.left`); nothing happens if it is down already.
   * @param input A button, a side of a stick (`move.left`), or an option of a choice (`berth.slip`).
   * @throws {UsageError} for a name that the moveset does not have.
   */
  press(input: N['input']): void {
    let button = this.buttonOf(input);
    if (button < 0) button = this.index('press', 'button', input);
    const { r } = this;
    const at = this.keys + button * KEY;
    if (r[at] > 0) return;
    if (this.stickOf[button] >= 0) this.setSide(button, true);
    else {
      r[at] = 1;
      this.flip(button, 1);
    }
  }

  /**
   * Releases a button or a side of a stick; nothing happens if it is up already.
   * @param input The same as `press` takes.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  release(input: N['input']): void {
    let button = this.buttonOf(input);
    if (button < 0) button = this.index('release', 'button', input);
    this.lift(button);
  }

  /**
   * Pushes a stick: x right, y up. What is longer than 1 is shortened to 1. Sides held by keys go before it.
   * @param input Name of a stick.
   * @param x From -1, left, to 1.
   * @param y From -1, down, to 1.
   * @throws {UsageError} for a name that the moveset does not have, and for what is no number.
   */
  stick(input: N['stick'], x: number, y: number): void {
    const stick = this.index('stick', 'stick', input);
    const at = pushedAt(this.plan, stick);
    if (!Number.isFinite(x) || !Number.isFinite(y))
      throw new UsageError(`stick: x and y must be numbers, not ${String(x)} and ${String(y)}.`, 'out-of-range');
    if (this.replayed[stick] === 1) {
      // Its sides were down as the tape said, perhaps without a key.
      this.replayed[stick] = 0;
      const { sides } = this.plan.sticks[stick];
      for (let side = 0; side < 4; side++) this.r[keyAt(this.plan, sides + side)] = 0;
    } else if (this.r[at] === x && this.r[at + 1] === y) return;
    this.r[at] = x;
    this.r[at + 1] = y;
    this.resolve(stick);
  }

  /** Releases everything that is held: the window lost focus, the device went away. */
  releaseAll(): void {
    const { plan, r } = this;
    r.fill(0, pushedAt(this.plan, 0), pushedAt(this.plan, plan.sticks.length));
    for (let i = 0; i < plan.names.button.length; i++) this.lift(i);
    for (let i = 0; i < plan.sticks.length; i++) this.resolve(i);
  }

  /**
   * Sends an event in, with its values, as in `event('rung', { loud: 3 })`: numbers; times as `0.2s`, `12f` or in
   * seconds; points and directions as [x, y] or [x, y, z]; words. What is left out is 0, or none of the words.
   * @param sent Its name, and its values by their names.
   * @throws {UsageError} for a name that the moveset does not have, and for values that the event does not
   * have.
   */
  event(...sent: Sent<N>): void;
  /** @internal */
  event(name: N['event'], values?: object): void {
    const event = this.index('event', 'event', name);
    const before = this.incoming.count;
    this.put('event', ROW.event, event, 0, 0, 0);
    const { size } = this.plan.messages[event];
    if (size === 0 && values === undefined) return;
    try {
      const numbers = this.plan.code.messages?.read(this.plan, name, values ?? {}) ?? [];
      for (let i = 0; i < size; i += 3)
        this.put('event', ROW.values, i / 3, numbers[i], numbers[i + 1] ?? 0, numbers[i + 2] ?? 0);
    } catch (error) {
      this.incoming.count = before;
      throw error;
    }
  }

  /**
   * Requests an ability, as a press of its input would. A refusal is an event of the readout, never thrown.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  request(ability: N['ability']): void {
    this.put('request', ROW.request, this.index('request', 'ability', ability), 0, 0, 0);
  }

  /**
   * Ends an ability if it runs.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  end(ability: N['ability']): void {
    this.put('end', ROW.end, this.index('end', 'ability', ability), 0, 0, 0);
  }

  /**
   * Learns a locked ability.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  learn(ability: N['ability']): void {
    this.put('learn', ROW.learn, this.index('learn', 'ability', ability), 1, 0, 0);
  }

  /**
   * Forgets an ability; it ends if it is running.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  forget(ability: N['ability']): void {
    this.put('forget', ROW.learn, this.index('forget', 'ability', ability), 0, 0, 0);
  }

  /**
   * Changes the loadout; what runs and is not in it ends.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  loadout(name: N['loadout']): void {
    this.put('loadout', ROW.loadout, this.index('loadout', 'loadout', name), 0, 0, 0);
  }

  /**
   * Makes an ability ready: its cooldown is over and its charges are full.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  reset(ability: N['ability']): void {
    this.put('reset', ROW.reset, this.index('reset', 'ability', ability), 0, 0, 0);
  }

  /**
   * Latches an ability that has a toggle, or unlatches it, as a press of that would.
   * @param ability Its name.
   * @param on Whether it is latched from then on.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  latch(ability: N['ability'], on: boolean): void {
    wantTruth('latch', 'on', on);
    this.put('latch', ROW.latch, this.index('latch', 'ability', ability), on ? 1 : 0, 0, 0);
  }

  /**
   * Stops the character's own clock for so many ticks.
   * @param ticks A whole number, 0 or more; of a freeze that lasts longer already, that counts.
   * @throws {UsageError} for what is none.
   */
  freeze(ticks: number): void {
    this.put('freeze', ROW.freeze, 0, ticks, 0, 0);
  }

  /**
   * Sets a pool, within its limits.
   * @param name Its name.
   * @param value What it has from then on.
   * @throws {UsageError} for a name that the moveset does not have, and for what is no number.
   */
  pool(name: N['pool'], value: number): void {
    this.put('pool', ROW.pool, this.index('pool', 'pool', name), value, 0, 0);
  }

  /**
   * Puts the feet at a place; out of what is solid there, if there is room beside it.
   * @param x In the world's units, from -1,000,000 to 1,000,000.
   * @param y Upwards.
   * @param z Default 0.
   * @throws {UsageError} for what is no number, or too large a one.
   */
  place(x: number, y: number, z = 0): void {
    this.put('place', ROW.place, 0, x, y, z);
  }

  /**
   * Sets the velocity, per second.
   * @param x Per second, in the world's units.
   * @param y Upwards, per second.
   * @param z Per second. Default 0.
   * @throws {UsageError} for what is no number, or too large a one.
   */
  velocity(x: number, y: number, z = 0): void {
    this.put('velocity', ROW.velocity, 0, x, y, z);
  }

  /**
   * Which way the camera looks, over the ground; any length. Sticks of the open view are relative to it.
   * @param x To the right, in the world.
   * @param z Into the depth, in the world.
   * @throws {UsageError} for a way of no length.
   */
  camera(x: number, z: number): void {
    if (!scaleToOne(x, 0, z)) throw new UsageError('camera: x and z must be numbers, and not both 0.', 'out-of-range');
    this.put('camera', ROW.camera, 0, UNIT[0], UNIT[2], 0);
  }

  /**
   * Turns the body to face this way, over the ground; any length. The stick turns it again.
   * @param x To the right, in the world.
   * @param z Into the depth. Default 0.
   * @throws {UsageError} for a way of no length.
   */
  face(x: number, z = 0): void {
    if (!scaleToOne(x, 0, this.plan.view === 'open' ? z : 0))
      throw new UsageError(
        'face: x and z must be numbers, and not both 0; seen from the side, x must not be 0.',
        'out-of-range',
      );
    this.put('face', ROW.face, 0, UNIT[0], UNIT[2], 0);
  }

  /**
   * Sets a mark.
   * @param name Its name.
   * @param x In the world's units, from -1,000,000 to 1,000,000.
   * @param y Upwards.
   * @param z Default 0.
   * @throws {UsageError} for a name that the moveset does not have, and for what is no number.
   */
  mark(name: AnyMark<N>, x: number, y: number, z = 0): void {
    this.put('mark', ROW.mark, this.index('mark', 'mark', name), x, y, z);
  }

  /**
   * Unsets a mark.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  unmark(name: AnyMark<N>): void {
    this.put('unmark', ROW.unmark, this.index('unmark', 'mark', name), 0, 0, 0);
  }

  /**
   * Aims in a direction, of any length; 0, 0, 0 aims nowhere.
   * @param name Name of an aim.
   * @param x To the right.
   * @param y Upwards.
   * @param z Default 0.
   * @throws {UsageError} for a name that the moveset does not have, and for what is no number.
   */
  aim(name: N['aim'], x: number, y: number, z = 0): void {
    const aim = this.index('aim', 'aim', name);
    const some = scaleToOne(x, y, z);
    if (!some && !(x === 0 && y === 0 && z === 0))
      throw new UsageError(
        `aim: x, y and z must be numbers, not ${String(x)}, ${String(y)} and ${String(z)}.`,
        'out-of-range',
      );
    this.put('aim', ROW.aim, aim, some ? UNIT[0] : 0, some ? UNIT[1] : 0, some ? UNIT[2] : 0);
  }

  /**
   * Aims at a point.
   * @param name Name of an aim.
   * @param x In the world's units, from -1,000,000 to 1,000,000.
   * @param y Upwards.
   * @param z Default 0.
   * @throws {UsageError} for a name that the moveset does not have, and for what is no number.
   */
  aimAt(name: N['aim'], x: number, y: number, z = 0): void {
    this.put('aimAt', ROW.aimAt, this.index('aimAt', 'aim', name), x, y, z);
  }

  /**
   * Chooses an option of a choice, as a press of its button would: `choose('berth', 'slip')`.
   * @param name Name of a choice.
   * @param option Name of one of its options.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  choose(name: N['choice'], option: string): void {
    const { plan } = this;
    this.index('choose', 'choice', name);
    wantText('choose', 'the option', option);
    const options = plan.names.button.filter((button) => button.startsWith(`${name}.`));
    const index = indexOfName('choose', 'option', `${name}.${option}`, options, plan.code);
    this.put('choose', ROW.choose, plan.names.button.indexOf(options[index]), 0, 0, 0);
  }

  /**
   * What became of the body that an engine moved. Only for a character without a world.
   * @param c Where the body is after the step, how fast, and what it touches.
   * @throws {UsageError} for a character with a world, and for what are no contacts.
   */
  contacts(c: Contacts): void {
    if (!this.hosted)
      throw new UsageError(
        'contacts: this character has a world and moves its body itself; leave "world" out for an engine that does.',
        'out-of-range',
      );
    if (typeof c !== 'object' || c === null)
      throw new UsageError('contacts: it takes one object with x, y, vx, vy and grounded.', 'out-of-range');
    wantTruth('contacts', 'grounded', c.grounded);
    const before = this.incoming.count;
    const { groundNormal: normal, groundVelocity: moves } = c;
    const call = 'contacts';
    try {
      this.put(call, ROW.moved, 0, c.x, c.y, c.z ?? 0);
      this.put(call, ROW.body, (c.grounded ? 1 : 0) + (c.ceiling ? 2 : 0), c.vx, c.vy, c.vz ?? 0);
      this.put(call, ROW.wall, 0, c.wallX ?? 0, c.wallZ ?? 0, (c.headroom ?? true) ? 1 : 0);
      if (normal) this.put(call, ROW.ground, 0, normal[0], normal[1], normal[2]);
      else this.put(call, ROW.ground, 0, 0, 1, 0);
      if (moves) this.put(call, ROW.groundMoves, 0, moves[0], moves[1], moves[2]);
      else this.put(call, ROW.groundMoves, 0, 0, 0, 0);
      const bits = c.groundSurfaces ? surfacesOf(this.plan, c.groundSurfaces) : 0;
      if (this.plan.names.surface.length > 0) this.put(call, ROW.groundSurfaces, 0, bits, 0, 0);
    } catch (error) {
      this.incoming.count = before;
      throw error;
    }
  }

  /** @internal Is that of another moveset from now on: what waits and is known to it comes in by its name. */
  takeOver(old: Plan, next: Plan, r: Float64Array, renamed: Renamed): void {
    const { incoming } = this;
    const rows = Array.from({ length: incoming.count }, (_, i) =>
      Array.from(incoming.data.subarray(i * Rows.WIDTH, (i + 1) * Rows.WIDTH)),
    );
    const codes = Array.from(incoming.codes.subarray(0, incoming.keys), (code) => {
      const now =
        code < 0 ? mapIndex(old, next, 'stick', -1 - code, renamed) : mapIndex(old, next, 'button', code >> 1, renamed);
      return now < 0 ? null : code < 0 ? -1 - now : 2 * now + (code & 1);
    });
    this.plan = next;
    this.r = r;
    this.buttonOf = buttonsOf(next);
    this.stickOf = next.stickOf;
    this.keys = next.devicesAt;
    this.replayed = new Uint8Array(next.sticks.length);
    incoming.clear();
    for (const code of codes) if (code !== null) incoming.key(code);
    for (const row of mapRows(old, next, rows, renamed)) {
      const at = incoming.add(row[0], row[1]);
      for (let k = 2; k < Rows.WIDTH; k++) incoming.data[at + k] = row[k];
    }
  }

  /** @internal */
  lend(r: Float64Array): void {
    this.r = r;
  }

  /**
   * Makes what comes in next bring a restored record to what the devices hold now.
   * @internal
   */
  resync(): void {
    this.incoming.clear();
    this.replayed.fill(0);
    this.addDifferences();
  }

  private addDifferences(): void {
    const { plan, r } = this;
    for (let i = 0; i < plan.sticks.length; i++) this.addStick(i);
    for (let i = 0; i < plan.names.button.length; i++) {
      const down = r[keyAt(plan, i) + 1];
      if (down !== r[plan.layout.buttons + i * BUTTON + B_DOWN]) this.addKey(i, down);
    }
  }

  /** Devices may go on for hours while nothing ticks: of what they did, only what they hold now is kept. */
  private thinOut(): void {
    const { incoming } = this;
    const { data } = incoming;
    let kept = 0;
    for (let at = 0; at < incoming.count * Rows.WIDTH; at += Rows.WIDTH) {
      if (data[at] <= ROW.stick) continue;
      data.copyWithin(kept * Rows.WIDTH, at, at + Rows.WIDTH);
      kept++;
    }
    incoming.clear();
    incoming.count = kept;
    this.addDifferences();
  }

  /**
   * Puts rows as they were recorded in place of what waits; the devices count as holding what they say.
   * @internal
   */
  load(rows: readonly (readonly number[])[]): void {
    this.incoming.clear();
    for (const [kind, what, a, b, c] of rows) {
      this.put('tape', kind, what, a, b, c);
      if (kind === ROW.stick) {
        this.r.fill(0, pushedAt(this.plan, what), pushedAt(this.plan, what + 1));
        this.replayed[what] = 1;
      }
      if (kind !== ROW.press && kind !== ROW.release) continue;
      const down = kind === ROW.press;
      if (down) this.holdLast(what);
      else this.r[keyAt(this.plan, what)] = 0;
      this.r[keyAt(this.plan, what) + 1] = down ? 1 : 0;
    }
  }

  private index(call: string, kind: NameKind, name: string): number {
    return indexOf(this.plan, call, kind, name);
  }

  /** Adds a row, or throws and adds none. -0 becomes 0, so that equal runs have equal records. */
  private put(call: string, row: number, what: number, a: number, b: number, c: number): void {
    const shape = SHAPES[row];
    if (!isGood(a, shape)) throw wordNumber(call, a, shape);
    if (!isGood(b, shape)) throw wordNumber(call, b, shape);
    if (!isGood(c, shape)) throw wordNumber(call, c, shape);
    const { incoming } = this;
    if (incoming.count >= MOST_WAITING)
      throw new UsageError(
        `${call}: ${MOST_WAITING} calls wait in this door; tick its character, or call less.`,
        'out-of-range',
      );
    const at = incoming.add(row, what);
    const { data } = incoming;
    data[at + FIRST] = a + 0;
    data[at + SECOND] = b + 0;
    data[at + THIRD] = c + 0;
  }

  private lift(button: number): void {
    const { r } = this;
    const at = this.keys + button * KEY;
    if (!(r[at] > 0)) return;
    if (this.stickOf[button] >= 0) this.setSide(button, false);
    else {
      r[at] = 0;
      this.flip(button, 0);
    }
  }

  private setSide(button: number, down: boolean): void {
    const { r, plan } = this;
    if (down) this.holdLast(button);
    else r[keyAt(plan, button)] = 0;
    const stick = this.stickOf[button];
    const pushed = pushedAt(plan, stick);
    if (r[pushed] !== 0 || r[pushed + 1] !== 0) this.resolve(stick);
    else {
      // As long as a stick rests, a key changes its own side only.
      this.putStick(stick);
      this.flip(button, down ? 1 : 0);
    }
  }

  /** Of the sides of a stick, the one that goes down has the highest number: the last counts. */
  private holdLast(button: number): void {
    const { r, plan } = this;
    const key = keyAt(this.plan, button);
    const stick = plan.stickOf[button];
    r[key] = 1;
    if (stick < 0) return;
    const at = keyAt(this.plan, plan.sticks[stick].sides);
    for (let side = 0; side < 4; side++) if (at + side * KEY !== key) r[key] = Math.max(r[key], r[at + side * KEY] + 1);
  }

  private flip(button: number, down: 0 | 1): void {
    const { r } = this;
    const at = this.keys + button * KEY + 1;
    if (r[at] === down) return;
    r[at] = down;
    if (this.isFull()) this.thinOut();
    else this.addKey(button, down);
  }

  private putStick(stick: number): void {
    if (this.isFull()) this.thinOut();
    else this.addStick(stick);
  }

  private isFull(): boolean {
    const { incoming } = this;
    return incoming.count + incoming.keys >= MOST_WAITING;
  }

  /** That a button goes down or up: in a row only if it comes after other rows. */
  private addKey(button: number, down: number): void {
    const { incoming } = this;
    if (incoming.count > 0) incoming.add(down === 1 ? ROW.press : ROW.release, button);
    else incoming.key(2 * button + down);
  }

  /** The same of what a stick gives. Without a row, that is read as it is taken in. */
  private addStick(stick: number): void {
    const { incoming } = this;
    if (incoming.count === 0) incoming.key(-1 - stick);
    else {
      readStick(this.r, this.plan, stick);
      const row = incoming.add(ROW.stick, stick);
      incoming.data.set(GIVEN, row + 2);
    }
  }

  /** Passes on what a stick gives, and which of its sides are down: those of its keys if any is held, else where it is pushed. */
  private resolve(stick: number): void {
    const { r, plan } = this;
    this.putStick(stick);
    const { sides } = plan.sticks[stick];
    const byKeys = readStick(r, plan, stick);
    const keys = keyAt(plan, sides);
    const at = pushedAt(plan, stick);
    this.flip(sides, (byKeys ? r[keys] > 0 : r[at] < -SIDE) ? 1 : 0);
    this.flip(sides + 1, (byKeys ? r[keys + KEY] > 0 : r[at] > SIDE) ? 1 : 0);
    this.flip(sides + 2, (byKeys ? r[keys + 2 * KEY] > 0 : r[at + 1] > SIDE) ? 1 : 0);
    this.flip(sides + 3, (byKeys ? r[keys + 3 * KEY] > 0 : r[at + 1] < -SIDE) ? 1 : 0);
  }
}

function buttonsOf(plan: Plan): (name: string) => number {
  return plan.code.buttonOf ?? ((name) => plan.indexes.button.get(name) ?? -1);
}

const UNIT = new Float64Array(3);

/** Writes a vector of length 1 to {@link UNIT}; false where there is none. */
function scaleToOne(x: number, y: number, z: number): boolean {
  if (typeof x !== 'number' || typeof y !== 'number' || typeof z !== 'number') return false;
  let length = Math.sqrt(x * x + y * y + z * z);
  let scale = 1;
  if (length === 0 || length === Number.POSITIVE_INFINITY) {
    // Squares of what is very small or very large are 0 or infinite.
    scale = Math.max(Math.abs(x), Math.abs(y), Math.abs(z));
    length = Math.sqrt((x / scale) ** 2 + (y / scale) ** 2 + (z / scale) ** 2);
  }
  if (!(length > 0 && length < Number.POSITIVE_INFINITY && scale < Number.POSITIVE_INFINITY)) return false;
  UNIT[0] = x / scale / length;
  UNIT[1] = y / scale / length;
  UNIT[2] = z / scale / length;
  return true;
}

function wordNumber(call: string, n: unknown, { min, max, whole }: RowShape): UsageError {
  const kind = whole ? 'whole number' : 'number';
  return new UsageError(`${call}: ${String(n)} is not a ${kind} from ${min} to ${max}.`, 'out-of-range');
}
