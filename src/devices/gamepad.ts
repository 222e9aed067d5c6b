import type { Plan } from '../compile/plan.js';
import { kindOf } from '../moveset/inputs/index.js';
import { PAD_BUTTONS } from '../moveset/sources.js';
import type { Character } from '../runtime/character.js';
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

  constructor(
    private readonly hub: DeviceHub,
    private readonly character: Pick<Character, 'door'>,
    plan: Plan,
    private readonly read: () => readonly (Gamepad | null)[] = () => navigator.getGamepads(),
  ) {
    this.sticks = Object.entries(plan.inputs).flatMap(([name, input]) => {
      const pad = kindOf(input)?.padStick?.(input as never);
      return pad ? [{ name, axis: pad === 'left' ? 0 : 2, aims: 'aim' in input }] : [];
    });
  }

  poll(): void {
    const pads = this.read().filter((pad): pad is Gamepad => pad?.connected === true && pad.mapping === 'standard');
    const before = [...this.present];
    this.present.clear();
    for (const pad of pads) {
      const device = `pad${pad.index}`;
      this.present.add(device);
      for (const [i, button] of pad.buttons.entries()) {
        const source = PAD_BUTTONS[i];
        if (source) this.hub.set(device, source, button.pressed);
      }
    }
    for (const device of before) if (!this.present.has(device)) this.hub.release(device);
    if (pads.length === 0 && before.length === 0) return;
    for (const { name, axis, aims } of this.sticks) {
      const x = pads.reduce((sum, pad) => sum + (pad.axes[axis] ?? 0), 0);
      const y = pads.reduce((sum, pad) => sum + (pad.axes[axis + 1] ?? 0), 0);
      // The standard's y points down, Loggia's up.
      if (!aims) this.character.door.stick(name, x, -y);
      else if (x * x + y * y > AIMS * AIMS) {
        this.aiming.add(name);
        this.character.door.aim(name, x, -y);
      } else if (this.aiming.delete(name)) this.character.door.aim(name, 0, 0);
    }
  }
}
