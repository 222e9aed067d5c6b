import type { Frame } from '../../record/frame.js';
import { Q_HIT, Q_NORMAL } from '../../record/layout.js';
import { CAMERA_X, CAMERA_Z, FX, FZ, VX, VY, VZ } from '../../record/slots.js';
import type { NameTypes } from '../name-types.js';
import { list, type NameShape, name } from '../shape.js';

/** A direction: the same words wherever one is expected. */
export type Heading<N extends NameTypes = NameTypes> =
  | 'facing'
  | 'up'
  | 'down'
  | 'velocity'
  | 'camera'
  | N['stick']
  | `${'into' | 'out'}(${N['probe']})`;

/** A stick or a word; `into(probe)` is against the normal of what the probe finds, `out(probe)` is along it. */
export const heading: NameShape = {
  ...name('stick'),
  words: ['facing', 'up', 'down', 'velocity', 'camera'],
  calls: { into: 'probe', out: 'probe' },
};
/** The first of several that has a direction. */
export const headings = list(heading, { orOne: true, min: 1, max: 8 });

/** Writes a unit direction to `out`, or returns false when there is none now. */
export type Aim = (c: Frame, out: Float64Array) => boolean;

export interface DirectionTools {
  /** Slot of a stick's x; y follows. */
  stickAt(name: string): number;
  /** Index of a probe, and the first slot of its answers. */
  probe(name: string): { readonly index: number; readonly at: number };
  readonly view: 'side' | 'open';
}

export interface DirectionOptions {
  /** Takes only the level part. Default false. */
  readonly flat?: boolean;
  /** How far a stick must be pushed to count. Default 0.3. */
  readonly reach?: number;
}

/** The first of some directions that there is. */
export function compileDirections(sources: readonly string[], options: DirectionOptions, tools: DirectionTools): Aim {
  const aims = sources.map((source) => compileDirection(source, options, tools));
  return (c, out) => {
    for (let i = 0; i < aims.length; i++) if (aims[i](c, out)) return true;
    return false;
  };
}

function compileDirection(source: string, { flat = false, reach = 0.3 }: DirectionOptions, tools: DirectionTools): Aim {
  const open = tools.view === 'open';
  switch (source) {
    case 'facing':
      return ({ r }, out) => unit(r[FX], 0, r[FZ], out, 0);
    case 'up':
      return (_, out) => unit(0, flat ? 0 : 1, 0, out, 0);
    case 'down':
      return (_, out) => unit(0, flat ? 0 : -1, 0, out, 0);
    case 'velocity':
      return ({ r }, out) => unit(r[VX], flat ? 0 : r[VY], r[VZ], out, 1e-6);
    case 'camera':
      // Seen from the side, the camera looks along no way that a body could go.
      return ({ r }, out) => open && unit(r[CAMERA_X], 0, r[CAMERA_Z], out, 0);
  }
  const call = /^(into|out)\((\w+)\)$/.exec(source);
  if (call) {
    const { index, at } = tools.probe(call[2]);
    const sign = call[1] === 'into' ? -1 : 1;
    return (c, out) => {
      c.probe(index);
      const { r } = c;
      if (r[at + Q_HIT] === 0) return false;
      const x = sign * r[at + Q_NORMAL];
      const z = sign * r[at + Q_NORMAL + 2];
      return unit(x, flat ? 0 : sign * r[at + Q_NORMAL + 1], z, out, 1e-6);
    };
  }
  const at = tools.stickAt(source);
  if (!open) return ({ r }, out) => unit(r[at], flat ? 0 : r[at + 1], 0, out, reach);
  return ({ r }, out) => {
    const x = r[at] * -r[CAMERA_Z] + r[at + 1] * r[CAMERA_X];
    const z = r[at] * r[CAMERA_X] + r[at + 1] * r[CAMERA_Z];
    return unit(x, 0, z, out, reach);
  };
}

function unit(x: number, y: number, z: number, out: Float64Array, least: number): boolean {
  const length = Math.sqrt(x * x + y * y + z * z);
  if (length <= least) return false;
  out[0] = x / length;
  out[1] = y / length;
  out[2] = z / length;
  return true;
}
