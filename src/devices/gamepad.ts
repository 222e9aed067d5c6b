import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import { kindOf } from '../moveset/inputs/index.js';
import { PAD_BUTTONS } from '../moveset/sources.js';
import { want, wantPlan } from '../report/arguments.js';
import type { DeviceHub } from './hub.js';

/** How far a stick must be pushed to aim. */
const AIMS = 0.3;

/**
 * Gamepads of the W3C standard mapping. Browsers tell their state only when asked: call `poll` before each
 * tick. Sticks of several pads are added up; a pad that goes away releases what it held.
 */
export class Gamepads {
  private readonly present = new Set<string>();
  private readonly sticks: { name: string; axis: number; aims: boolean }[];
  /** Aims that a stick gives now: at rest it gives none, and takes none away that something else gave. */
  private readonly aiming = new Set<string>();
  /** Sticks that a pad has pushed. */
  private readonly pushed = new Set<string>();
  /** What was held as everything was released: it counts again once it was let go. */
  private readonly waits = new Set<string>();
  private releases: number;

  constructor(
    private readonly hub: DeviceHub,
    private readonly character: Pick<Character, 'door'>,
    plan: Plan,
    private readonly read: () => readonly (Gamepad | null)[] = () => navigator.getGamepads(),
  ) {
    want(typeof hub?.set === 'function', 'Gamepads', 'the first argument', 'a DeviceHub', hub);
    wantPlan('Gamepads: of its moveset', plan);
    this.releases = hub.releases;
    this.sticks = Object.entries(plan.inputs).flatMap(([name, input]) => {
      const pad = kindOf(input)?.padStick?.(input as never);
      return pad ? [{ name, axis: pad === 'left' ? 0 : 2, aims: 'aim' in input }] : [];
    });
  }

  poll(): void {
    const pads = this.read().filter((pad): pad is Gamepad => pad?.connected === true && pad.mapping === 'standard');
    const before = [...this.present];
    const released = this.releases !== this.hub.releases;
    this.releases = this.hub.releases;
    this.present.clear();
    for (const pad of pads) {
      const device = `pad${pad.index}`;
      this.present.add(device);
      for (const [i, button] of pad.buttons.entries()) {
        const source = PAD_BUTTONS[i];
        if (!source) continue;
        const down = this.counts(`${device} ${source}`, button.pressed, released);
        this.hub.set(device, source, down);
      }
    }
    for (const device of before) if (!this.present.has(device)) this.hub.release(device);
    if (pads.length === 0 && before.length === 0) return;
    for (const { name, axis, aims } of this.sticks) {
      let x = pads.reduce((sum, pad) => sum + axisOf(pad, axis), 0);
      let y = pads.reduce((sum, pad) => sum + axisOf(pad, axis + 1), 0);
      if (!this.counts(name, x * x + y * y > AIMS * AIMS, released) && this.waits.has(name)) x = y = 0;
      if (this.hub.muted) x = y = 0;
      // The standard's y points down, Loggia's up.
      if (!aims) this.push(name, x, -y);
      else if (x * x + y * y > AIMS * AIMS) {
        this.aiming.add(name);
        this.character.door.aim(name, x, -y);
      } else if (this.aiming.delete(name)) this.character.door.aim(name, 0, 0);
    }
  }

  /** Rests all sticks that it has pushed, and takes back its aims. */
  stop(): void {
    const { door } = this.character;
    for (const name of this.pushed) door.stick(name, 0, 0);
    for (const name of this.aiming) door.aim(name, 0, 0);
    this.pushed.clear();
    this.aiming.clear();
  }

  private push(name: string, x: number, y: number): void {
    if (x !== 0 || y !== 0) this.pushed.add(name);
    else this.pushed.delete(name);
    this.character.door.stick(name, x, y);
  }

  /** Whether something that is down counts as that. */
  private counts(what: string, down: boolean, released: boolean): boolean {
    if (!down) this.waits.delete(what);
    else if (released) this.waits.add(what);
    return down && !this.waits.has(what);
  }
}

/** Some drivers give numbers that are none. */
function axisOf({ axes }: Gamepad, axis: number): number {
  const value = axes[axis] ?? 0;
  return Number.isFinite(value) ? value : 0;
}
