import type { WrittenFormula } from '../read.js';
import { fields, formula, list, type NameShape, name, number, optional, truth, word } from '../shape.js';
import { CAMERA_X, CAMERA_Z, FX, FZ, VX, VY, VZ } from '../slots.js';
import type { Amount, Names } from '../types.js';
import { type EffectTools, effect, type Frame } from './effect.js';

/** Velocity that an ability or phase gives the body. Directions are taken once, as it begins. */
export interface Move<N extends Names = Names> {
  /**
   * Where to: the first of these that has a direction. A stick counts when pushed beyond `reach`.
   * Needs `speed`.
   */
  along?: Heading<N> | readonly Heading<N>[];
  /** Per second, along `along`. */
  speed?: Amount<N>;
  /** Upwards, per second. A percentage multiplies the upward velocity once, as it begins. */
  up?: Amount<N>;
  /** Along facing, per second. A percentage multiplies the level velocity once, as it begins. */
  forward?: Amount<N>;
  /**
   * `set` (default) holds the parts it names, level or upright, and leaves the other alone; `replace` holds
   * the whole velocity; `add` adds once, as it begins.
   */
  mode?: 'set' | 'add' | 'replace';
  /** Takes only the level part of the direction. Default false. */
  flat?: boolean;
  /** How far a stick must be pushed to count, 0 to 1. Default 0.3. */
  reach?: number;
  /** How much of the velocity is kept when it ends, by whatever way: `0` stops, `1` (default) keeps all. */
  keep?: number;
}

export type Heading<N extends Names = Names> = 'facing' | 'up' | 'down' | 'velocity' | N['stick'];

const speed = formula('number', { percent: true, min: -10_000, max: 10_000 });
const heading: NameShape = { ...name('stick'), words: ['facing', 'up', 'down', 'velocity'] };

const shape = fields('move', {
  along: optional(list(heading, { orOne: true, min: 1, max: 8 })),
  speed: optional(formula('number', { min: -10_000, max: 10_000 })),
  up: optional(speed),
  forward: optional(speed),
  mode: optional(word('set', 'add', 'replace')),
  flat: optional(truth()),
  reach: optional(number(0, 1)),
  keep: optional(number(0, 1)),
});

interface Written {
  along?: string[];
  speed?: WrittenFormula;
  up?: WrittenFormula;
  forward?: WrittenFormula;
  mode?: 'set' | 'add' | 'replace';
  flat?: boolean;
  reach?: number;
  keep?: number;
}

const LEVEL = 1;
const UPRIGHT = 2;

/** Writes a unit direction to `out`, or returns false when there is none. */
type Aim = (c: Frame, out: Float64Array) => boolean;

export const move = effect<Written>(
  'move',
  shape,
  (value, tools) => {
    const aims = (value.along ?? []).map((source) => compileAim(source, value, tools));
    const along = value.speed && tools.number(value.speed);
    const up = value.up && tools.number(value.up);
    const forward = value.forward && tools.number(value.forward);
    const { mode = 'set', keep = 1 } = value;
    const out = new Float64Array(3);

    const begin = (c: Frame, slot: number) => {
      const { r } = c;
      let parts = 0;
      let x = 0;
      let y = 0;
      let z = 0;
      let aimed = false;
      for (let i = 0; i < aims.length && !aimed; i++) aimed = aims[i](c, out);
      if (along && aimed) {
        along.run?.(c);
        x = out[0] * r[along.at];
        y = out[1] * r[along.at];
        z = out[2] * r[along.at];
        if (x !== 0 || z !== 0) parts |= LEVEL;
        if (y !== 0) parts |= UPRIGHT;
      }
      if (forward) {
        forward.run?.(c);
        if (value.forward?.percent) {
          r[VX] *= r[forward.at];
          r[VZ] *= r[forward.at];
        } else {
          x += r[FX] * r[forward.at];
          z += r[FZ] * r[forward.at];
          parts |= LEVEL;
        }
      }
      if (up) {
        up.run?.(c);
        if (value.up?.percent) r[VY] *= r[up.at];
        else {
          y += r[up.at];
          parts |= UPRIGHT;
        }
      }
      if (mode === 'add') {
        r[VX] += x;
        r[VY] += y;
        r[VZ] += z;
        return;
      }
      r[slot] = mode === 'replace' ? LEVEL | UPRIGHT : parts;
      r[slot + 1] = x;
      r[slot + 2] = y;
      r[slot + 3] = z;
    };
    if (keep === 1) return { begin };
    return {
      begin,
      end: ({ r }) => {
        r[VX] *= keep;
        r[VY] *= keep;
        r[VZ] *= keep;
      },
    };
  },
  false,
);

function compileAim(source: string, { flat = false, reach = 0.3 }: Written, tools: EffectTools): Aim {
  switch (source) {
    case 'facing':
      return ({ r }, out) => unit(r[FX], 0, r[FZ], out, 0);
    case 'up':
      return (_, out) => unit(0, 1, 0, out, 0);
    case 'down':
      return (_, out) => unit(0, -1, 0, out, 0);
    case 'velocity':
      return ({ r }, out) => unit(r[VX], flat ? 0 : r[VY], r[VZ], out, 1e-6);
    default: {
      const at = tools.stickAt(source);
      if (tools.view === 'side') return ({ r }, out) => unit(r[at], flat ? 0 : r[at + 1], 0, out, reach);
      return ({ r }, out) => {
        const x = r[at] * -r[CAMERA_Z] + r[at + 1] * r[CAMERA_X];
        const z = r[at] * r[CAMERA_X] + r[at + 1] * r[CAMERA_Z];
        return unit(x, 0, z, out, reach);
      };
    }
  }
}

function unit(x: number, y: number, z: number, out: Float64Array, least: number): boolean {
  const length = Math.sqrt(x * x + y * y + z * z);
  if (length <= least) return false;
  out[0] = x / length;
  out[1] = y / length;
  out[2] = z / length;
  return true;
}
