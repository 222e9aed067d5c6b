import type { Plan } from '../compile/plan.js';
import { indexOfName, UsageError } from './errors.js';
import { Rows } from './rows.js';

/** Bits of a button in the door's block. */
export const DOWN = 1;
export const PRESSED = 2;
export const RELEASED = 4;

/** Kinds of rows in the door's queue. */
export const Row = {
  event: 0,
  request: 1,
  freeze: 2,
  pool: 3,
  place: 4,
  camera: 5,
  velocity: 6,
  end: 7,
  learn: 8,
  loadout: 9,
  reset: 10,
  // What an engine tells of the body in each tick comes last: by itself it is no reason to work a tick through.
  moved: 11,
  body: 12,
  wall: 13,
} as const;

/** A pushed-over side counts as pressed beyond this. */
const SIDE = 0.5;

/** What the host of an engine tells about a body that Loggia does not move itself. */
export interface Contacts {
  x: number;
  y: number;
  z?: number;
  vx: number;
  vy: number;
  vz?: number;
  grounded: boolean;
  /** Level normal of a wall that is touched; 0 for none. */
  wallX?: number;
  wallZ?: number;
  ceiling?: boolean;
}

/**
 * The one door through which everything from outside reaches a character. Calls take effect at the
 * start of the next tick; every method throws a {@link UsageError} for a name that the moveset does not have.
 */
export class Door {
  /** Per button: the bits above. */
  readonly buttons: Uint8Array;
  /** Per stick: x and y as given, within the unit circle. */
  readonly sticks: Float64Array;
  /** Rows of a kind, what it is about, and three values. */
  readonly queue = new Rows();
  changed = false;
  /** Buttons that changed, the first so many in rising order. */
  readonly edged: Uint16Array;
  edges = 0;
  sticksChanged = false;
  private readonly analog: Float64Array;
  /** Per button, for sides held by keys: the order of the presses, 0 for not held. */
  private readonly order: Int32Array;
  private presses = 0;
  /** Sides of sticks stand behind all other buttons, four by four. */
  private readonly firstSide: number;
  private readonly byName: ReadonlyMap<string, number>;

  constructor(private readonly plan: Plan) {
    this.buttons = new Uint8Array(plan.names.button.length);
    this.edged = new Uint16Array(plan.names.button.length);
    this.firstSide = plan.names.button.length - plan.sticks.length * 4;
    this.byName = new Map(plan.names.button.map((name, i) => [name, i]));
    this.order = new Int32Array(plan.names.button.length);
    this.sticks = new Float64Array(plan.names.stick.length * 2);
    this.analog = new Float64Array(plan.names.stick.length * 2);
  }

  /** Presses a button or a side of a stick (`move.left`); nothing happens if it is down already. */
  press(input: string): void {
    this.set(this.byName.get(input) ?? indexOfName('press', 'button', input, this.plan.names.button), true);
  }

  /** Lets a button or a side of a stick go; nothing happens if it is up already. */
  release(input: string): void {
    this.set(this.byName.get(input) ?? indexOfName('release', 'button', input, this.plan.names.button), false);
  }

  /** Pushes a stick: x right, y up. What is longer than 1 is shortened to 1. Sides held by keys go before it. */
  stick(input: string, x: number, y: number): void {
    const stick = indexOfName('stick', 'stick', input, this.plan.names.stick);
    if (!Number.isFinite(x) || !Number.isFinite(y))
      throw new UsageError(`stick: x and y must be numbers, not ${x} and ${y}.`, 'out-of-range');
    if (this.analog[stick * 2] === x && this.analog[stick * 2 + 1] === y) return;
    this.analog[stick * 2] = x;
    this.analog[stick * 2 + 1] = y;
    this.resolve(stick);
  }

  /** Lets go of everything that is held: the window lost focus, the device went away. */
  releaseAll(): void {
    this.analog.fill(0);
    for (let i = 0; i < this.buttons.length; i++) if (this.buttons[i] & DOWN) this.set(i, false);
    for (let i = 0; i < this.plan.names.stick.length; i++) this.resolve(i);
  }

  /** An event comes in. */
  event(name: string): void {
    this.put(Row.event, indexOfName('event', 'event', name, this.plan.names.event));
  }

  /** Asks for an ability, as a press of its input would. A refusal is told by the readout, never thrown. */
  request(ability: string): void {
    this.put(Row.request, indexOfName('request', 'ability', ability, this.plan.names.ability));
  }

  /** Ends an ability if it runs. */
  end(ability: string): void {
    this.put(Row.end, indexOfName('end', 'ability', ability, this.plan.names.ability));
  }

  /** Makes a locked ability known. */
  learn(ability: string): void {
    this.put(Row.learn, indexOfName('learn', 'ability', ability, this.plan.names.ability), 1);
  }

  /** Takes an ability away; it ends if it runs. */
  forget(ability: string): void {
    this.put(Row.learn, indexOfName('forget', 'ability', ability, this.plan.names.ability), 0);
  }

  /** Changes the loadout; what runs and is not with it ends. */
  loadout(name: string): void {
    this.put(Row.loadout, indexOfName('loadout', 'loadout', name, this.plan.names.loadout));
  }

  /** Makes an ability ready: its cooldown is over and its charges are full. */
  reset(ability: string): void {
    this.put(Row.reset, indexOfName('reset', 'ability', ability, this.plan.names.ability));
  }

  /** Stops the character's own clock for so many ticks. */
  freeze(ticks: number): void {
    if (!Number.isInteger(ticks) || ticks < 0)
      throw new UsageError(`freeze: ticks must be a whole number from 0 on, not ${ticks}.`, 'out-of-range');
    this.put(Row.freeze, 0, ticks);
  }

  /** Sets a pool, within its limits. */
  pool(name: string, value: number): void {
    this.put(Row.pool, indexOfName('pool', 'pool', name, this.plan.names.pool), value);
  }

  /** Puts the feet at a place. */
  place(x: number, y: number, z = 0): void {
    this.put(Row.place, 0, x, y, z);
  }

  /** Sets the velocity, per second. */
  velocity(x: number, y: number, z = 0): void {
    this.put(Row.velocity, 0, x, y, z);
  }

  /** Which way the camera looks, over the ground; any length. Sticks of the open view are relative to it. */
  camera(x: number, z: number): void {
    const length = Math.sqrt(x * x + z * z);
    if (!(length > 0)) throw new UsageError('camera: x and z must not both be 0.', 'out-of-range');
    this.put(Row.camera, 0, x / length, z / length);
  }

  /** What became of the body that an engine moved. */
  contacts(c: Contacts): void {
    this.put(Row.moved, 0, c.x, c.y, c.z ?? 0);
    this.put(Row.body, (c.grounded ? 1 : 0) + (c.ceiling ? 2 : 0), c.vx, c.vy, c.vz ?? 0);
    this.put(Row.wall, 0, c.wallX ?? 0, c.wallZ ?? 0);
  }

  /** @internal Sets a block as it was recorded. */
  load(buttons: ArrayLike<number>, sticks: ArrayLike<number>, queue: readonly number[]): void {
    this.sticks.set(sticks);
    this.sticksChanged = true;
    for (let i = 0; i < buttons.length; i++) {
      if (buttons[i] & (PRESSED | RELEASED)) this.noteEdge(i);
      this.buttons[i] = buttons[i];
    }
    for (let i = 0; i < queue.length; i += Rows.WIDTH)
      this.put(queue[i], queue[i + 1], queue[i + 2], queue[i + 3], queue[i + 4]);
    this.changed = true;
  }

  private put(row: number, id: number, a = 0, b = 0, c = 0): void {
    this.changed = true;
    this.queue.add(row, id, a, b, c);
  }

  private set(button: number, down: boolean): void {
    const bits = this.buttons[button];
    if (((bits & DOWN) === DOWN) === down && this.order[button] > 0 === down) return;
    this.order[button] = down ? ++this.presses : 0;
    // Without a key, a side is down or up by where its stick is pushed; `resolve` has seen to that.
    if (button < this.firstSide || this.resolve((button - this.firstSide) >> 2)) this.flip(button, down);
  }

  private flip(button: number, down: boolean): void {
    const bits = this.buttons[button];
    if (((bits & DOWN) === DOWN) === down) return;
    this.noteEdge(button);
    this.buttons[button] = down ? bits | DOWN | PRESSED : (bits & ~DOWN) | RELEASED;
    this.changed = true;
  }

  private noteEdge(button: number): void {
    if (this.buttons[button] & (PRESSED | RELEASED)) return;
    const { edged } = this;
    let i = this.edges++;
    for (; i > 0 && edged[i - 1] > button; i--) edged[i] = edged[i - 1];
    edged[i] = button;
  }

  /** What a stick gives: its keys if any is held, else where it is pushed. Says whether a key is held. */
  private resolve(stick: number): boolean {
    const { sides, opposite } = this.plan.sticks[stick];
    const { order } = this;
    const left = order[sides];
    const right = order[sides + 1];
    const up = order[sides + 2];
    const down = order[sides + 3];
    const byKeys = left + right + up + down > 0;
    const at = stick * 2;
    const { sticks } = this;
    sticks[at] = this.analog[at];
    sticks[at + 1] = this.analog[at + 1];
    if (byKeys) {
      sticks[at] = side(left, right, opposite);
      sticks[at + 1] = side(down, up, opposite);
    } else {
      const x = sticks[at];
      const y = sticks[at + 1];
      this.flip(sides, x < -SIDE);
      this.flip(sides + 1, x > SIDE);
      this.flip(sides + 2, y > SIDE);
      this.flip(sides + 3, y < -SIDE);
    }
    const length = Math.sqrt(sticks[at] * sticks[at] + sticks[at + 1] * sticks[at + 1]);
    if (length > 1) {
      sticks[at] /= length;
      sticks[at + 1] /= length;
    }
    this.sticksChanged = true;
    this.changed = true;
    return byKeys;
  }
}

function side(low: number, high: number, opposite: 'last' | 'neutral'): number {
  if (low > 0 && high > 0 && opposite === 'neutral') return 0;
  return high > low ? 1 : low > 0 ? -1 : 0;
}
