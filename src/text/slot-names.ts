import type { Plan } from '../compile/plan.js';
import { ROOM_FLOOR, ROOM_X0, ROOM_X1, ROOM_Y0, ROOM_Y1, ROOM_Z0, ROOM_Z1 } from '../record/layout.js';
import {
  A_BROKEN,
  A_ENDED,
  A_KNOWN,
  ACCEL,
  B_DOWN,
  B_PRESSED,
  B_RELEASED,
  B_USED,
  BRAKE,
  C_LENGTH,
  C_READY,
  C_WAITING,
  CAMERA_X,
  CAMERA_Z,
  CLIP,
  CLIP_LASTS,
  CLIP_SINCE,
  FACE_LOCK,
  FALL,
  FELL,
  FORCED,
  FORCED_VELOCITY,
  FX,
  FZ,
  GRAVITY,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_SURFACES,
  GROUND_VELOCITY,
  GROUNDED,
  HEADROOM,
  HOST,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  L_TRIGGER,
  LACKING,
  LANDED,
  LOADOUT,
  LOADOUT_SINCE,
  N_LEFT,
  N_MAX,
  N_REFILL,
  P_BASE,
  P_DRAIN,
  P_EMPTY,
  P_MAX,
  P_MIN,
  P_REGEN,
  P_REST,
  P_SINCE,
  P_WATCHED,
  PASSES,
  PENDING,
  R_COUNT,
  R_TOLD,
  R_UNTIL,
  RUNNING,
  SHAPE,
  SPEED,
  STANCE,
  STANCE_SINCE,
  STEER,
  STOP,
  STUCK,
  T,
  TOUCHES,
  VX,
  VY,
  VZ,
  WALL_X,
  WALL_Z,
  WANT_SHAPE,
  X,
  Y,
  Z,
} from '../record/slots.js';
import { TakenNames } from './taken-names.js';

/** The fixed head of the record, in words. */
const HEAD = {
  T,
  HOST,
  STOP,
  X,
  Y,
  Z,
  VX,
  VY,
  VZ,
  FX,
  FZ,
  SHAPE,
  GROUNDED,
  GROUND_CHANGED,
  LANDED,
  WALL_X,
  WALL_Z,
  TOUCHES,
  HEADROOM,
  STUCK,
  STANCE,
  STANCE_SINCE,
  CAMERA_X,
  CAMERA_Z,
  LOADOUT,
  LOADOUT_SINCE,
  GROUND_SURFACES,
  FELL,
  GRAVITY,
  FALL,
  STEER,
  SPEED,
  ACCEL,
  BRAKE,
  WANT_SHAPE,
  FACE_LOCK,
  FORCED,
  PASSES,
  RUNNING,
  PENDING,
  LACKING,
};

/** What is known of the room that the body is in. */
const ROOM = { ROOM_X0, ROOM_Y0, ROOM_Y1, ROOM_Z0, ROOM_X1, ROOM_Z1, ROOM_FLOOR };

/** What the numbers of a stretch of the record are, by the first word of its label: as their places are called. */
const PARTS: Readonly<Record<string, readonly string[]>> = {
  button: partsOf({ B_DOWN, B_PRESSED, B_RELEASED, B_USED }),
  stick: ['X', 'Y'],
  aim: ['KIND', 'X', 'Y', 'Z'],
  mark: ['SET', 'X', 'Y', 'Z', 'KIND', 'ON', 'POINT_X', 'POINT_Y', 'POINT_Z'],
  clips: partsOf({ CLIP, CLIP_SINCE, CLIP_LASTS }),
  pool: partsOf({ P_BASE, P_SINCE, P_REST, P_DRAIN, P_EMPTY, P_MIN, P_MAX, P_REGEN, P_WATCHED }),
  lane: partsOf({ L_ABILITY, L_PHASE, L_SINCE, L_PHASE_SINCE, L_DUE, L_TRIGGER }),
  ability: partsOf({ A_KNOWN, A_ENDED, A_BROKEN }),
  charges: partsOf({ N_LEFT, N_REFILL, N_MAX }),
  cooldown: partsOf({ C_READY, C_WAITING, C_LENGTH }),
  trigger: partsOf({ R_UNTIL, R_COUNT, R_TOLD }),
};

/** Names of places in their order, without what they begin with. */
function partsOf(places: Readonly<Record<string, number>>): string[] {
  const names: string[] = [];
  for (const [name, at] of Object.entries(places)) names[at] = name.replace(/^[A-Z]+_/, '');
  return names;
}

/** `galeDash` or `move.left` as the name of a constant. */
export function constantName(name: string): string {
  return name
    .replace(/([a-z0-9])([A-Z])/g, '$1_$2')
    .replace(/\W+/g, '_')
    .toUpperCase();
}

/** Names for the places that a module reads, each once. */
export class SlotNames {
  private readonly names = new Map<number, string>();
  private readonly taken = new TakenNames([], '_');

  constructor(plan: Plan) {
    for (const [name, at] of Object.entries(HEAD)) this.add(at, name);
    ['X', 'Y', 'Z'].forEach((axis, i) => {
      this.add(FORCED_VELOCITY + i, `FORCED_V${axis}`);
      this.add(GROUND_VELOCITY + i, `GROUND_V${axis}`);
      this.add(GROUND_NORMAL + i, `GROUND_NORMAL_${axis}`);
    });
    for (const { label, at, count } of plan.layout.ranges) {
      if (label === 'head') continue;
      const parts = PARTS[label.slice(0, label.indexOf(' '))] ?? [];
      for (let i = 0; i < count; i++)
        this.add(at + i, `${constantName(label)}${count === 1 ? '' : `_${parts[i] ?? i}`}`);
    }
    for (const [name, at] of Object.entries(ROOM)) this.add(plan.roomAt + at, name);
    this.add(plan.foldedAt, 'FOLDED');
    this.add(plan.freeAt, 'FREE');
    for (let at = plan.awakeAt; at < plan.devicesAt; at++) this.add(at, 'AWAKE');
    for (const { name, value } of plan.pools) this.add(value, `POOL_${constantName(name)}`);
    for (const { costs } of plan.abilities)
      for (const { pool, price } of costs)
        if (!this.names.has(price)) this.add(price, `PRICE_IN_${constantName(plan.pools[pool].name)}`);
  }

  private add(at: number, wanted: string): void {
    this.names.set(at, this.claim(wanted));
  }

  /** The wanted name, or one like it that nothing has. */
  claim(wanted: string): string {
    return this.taken.claim(wanted);
  }

  /** The name of a place; those behind the record that have none are spare numbers. */
  of(at: number): string {
    if (!this.names.has(at)) this.add(at, `SPARE_${at}`);
    return this.names.get(at) as string;
  }
}
