import { type Bounds, isNear, type Solid } from './solid.js';
import type { Cast } from './world.js';

/** How many solids a leaf holds. */
const LEAF = 4;

interface Node extends Bounds {
  /** Solids of a leaf; null for a node with two below it, which are the next one and the one at `other`. */
  readonly solids: readonly Solid[] | null;
  other: number;
}

/**
 * Solids that never move, by where they are: a question looks only at the branches that its way comes near.
 * Nodes stand in one list, each before those below it.
 */
export class SolidTree {
  private readonly nodes: Node[] = [];
  /** Branches that are still to be looked at. A question asks no other one, so that one list serves all. */
  private readonly waiting = new Int32Array(64);

  constructor(solids: readonly Solid[]) {
    if (solids.length > 0) this.build([...solids]);
  }

  /** Calls `look` with every solid near the way of a cast, until it answers true. */
  some(cast: Cast, look: (cast: Cast, solid: Solid) => boolean): boolean {
    const { nodes, waiting } = this;
    let count = nodes.length > 0 ? 1 : 0;
    waiting[0] = 0;
    while (count > 0) {
      const index = waiting[--count];
      const node = nodes[index];
      if (!isNear(cast, node) || misses(cast, node)) continue;
      const { solids } = node;
      if (solids === null) {
        waiting[count++] = node.other;
        waiting[count++] = index + 1;
        continue;
      }
      for (let i = 0; i < solids.length; i++) if (look(cast, solids[i])) return true;
    }
    return false;
  }

  private build(solids: Solid[]): number {
    const index = this.nodes.length;
    const bounds = boundsOf(solids);
    if (solids.length <= LEAF) {
      this.nodes.push({ ...bounds, solids, other: -1 });
      return index;
    }
    const axis = longestAxis(bounds);
    solids.sort((a, b) => middleOf(a, axis) - middleOf(b, axis));
    const half = solids.length >> 1;
    const node: Node = { ...bounds, solids: null, other: -1 };
    this.nodes.push(node);
    this.build(solids.slice(0, half));
    node.other = this.build(solids.slice(half));
    return index;
  }
}

/** Whether a slanting way passes by a box though it comes near: sure, but not the other way round. */
function misses({ x, y, z, hx, hy, hz, dx, dy, dz }: Cast, n: Bounds): boolean {
  let from = 0;
  let to = 1;
  if (dx !== 0) {
    const a = (n.x0 - hx - x) / dx;
    const b = (n.x1 + hx - x) / dx;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  if (dy !== 0) {
    const a = (n.y0 - hy - y) / dy;
    const b = (n.y1 + hy - y) / dy;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  if (dz !== 0) {
    const a = (n.z0 - hz - z) / dz;
    const b = (n.z1 + hz - z) / dz;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  // Touching counts: a way of a millionth must not be lost to rounding.
  return (from - to) * Math.max(Math.abs(dx), Math.abs(dy), Math.abs(dz)) > 1e-5;
}

type AxisKey = 'x' | 'y' | 'z';

function boundsOf(solids: readonly Solid[]): Bounds {
  const low = (key: keyof Bounds) => solids.reduce((least, s) => Math.min(least, s[key]), Number.POSITIVE_INFINITY);
  const high = (key: keyof Bounds) => solids.reduce((most, s) => Math.max(most, s[key]), Number.NEGATIVE_INFINITY);
  return { x0: low('x0'), y0: low('y0'), z0: low('z0'), x1: high('x1'), y1: high('y1'), z1: high('z1') };
}

/** Solids of a flat world reach as deep as anything goes: their depth parts nothing. */
function longestAxis(b: Bounds): AxisKey {
  const x = b.x1 - b.x0;
  const y = b.y1 - b.y0;
  const z = b.z1 - b.z0 > 1e5 ? 0 : b.z1 - b.z0;
  return x >= y && x >= z ? 'x' : y >= z ? 'y' : 'z';
}

function middleOf(s: Solid, axis: AxisKey): number {
  return s[`${axis}0`] + s[`${axis}1`];
}
