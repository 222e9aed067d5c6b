/** A solid of the yard: a box that may be turned about the upright axis and leaned, or an upright or lying capsule. */
export interface Piece {
  readonly kind: 'box' | 'capsule';
  readonly at: readonly [x: number, y: number, z: number];
  /** Whole lengths; of a capsule: radius, length of its straight part, 0. */
  readonly size: readonly [number, number, number];
  /** Degrees about the upright axis, and about the axis that leads to the right. */
  readonly turn?: readonly [about: number, lean: number];
  readonly color: number;
  /** How far it goes to and fro, and how long that takes, in seconds. */
  readonly drifts?: { readonly by: readonly [number, number, number]; readonly over: number };
}

const WOOD = 0x8a6a4a;
const HULL = 0x56708c;
const RUST = 0x9c5b4e;
const DECK = 0xb08a5e;

/** The hulls: a dock, curved and leaning hulls to climb round, masts to hook, and a raft adrift. */
export const YARD: readonly Piece[] = [
  { kind: 'box', at: [0, -0.5, 0], size: [60, 1, 60], color: 0x2c3f55 },
  // A square hull with a deck, and a cabin on it.
  { kind: 'box', at: [0, 2.5, -10], size: [9, 5, 6], color: HULL },
  { kind: 'box', at: [1.5, 6, -10.5], size: [3, 2, 2.6], color: WOOD },
  // Two hulls that meet in an inner corner, one of them turned.
  { kind: 'box', at: [-11, 3, -8], size: [5, 6, 9], turn: [24, 0], color: RUST },
  { kind: 'box', at: [-15, 4, -2], size: [8, 8, 4], turn: [-15, 0], color: HULL },
  // A round hull on its side, and one that stands.
  { kind: 'capsule', at: [12, 2.4, -6], size: [2.4, 9, 0], turn: [0, 90], color: RUST },
  { kind: 'capsule', at: [10, 4.5, 7], size: [2.2, 6, 0], color: HULL },
  // A plate that leans, masts, steps, and a ramp.
  { kind: 'box', at: [-6, 2.5, 8], size: [6, 6, 1], turn: [0, 18], color: WOOD },
  { kind: 'capsule', at: [7, 6, 3], size: [0.3, 11, 0], color: WOOD },
  { kind: 'capsule', at: [-3, 9, -11], size: [0.3, 9, 0], color: WOOD },
  { kind: 'box', at: [6, 0.15, -1], size: [2, 0.3, 2], color: DECK },
  { kind: 'box', at: [7.4, 0.3, -1], size: [1.4, 0.6, 2], color: DECK },
  { kind: 'box', at: [3, 1, 10], size: [4, 0.5, 7], turn: [0, 20], color: DECK },
  { kind: 'box', at: [-2, 0.9, 2], size: [3, 0.4, 3], color: DECK, drifts: { by: [-6, 2, 0], over: 5 } },
  // A bulkhead for the blink.
  { kind: 'box', at: [0, 1.5, 13], size: [8, 3, 0.6], color: WOOD },
];
