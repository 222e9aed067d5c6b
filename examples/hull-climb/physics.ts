import * as rapier from '@dimforge/rapier3d-compat';
import { RapierWorld } from 'loggia/rapier';
import { type Piece, YARD } from './yard.js';

export type Turn = readonly [x: number, y: number, z: number, w: number];

/** A turn about the upright axis and then a lean, in degrees, as a quaternion. */
export function turnOf({ turn = [0, 0] }: Piece): Turn {
  const [about, lean] = turn.map((degrees) => (degrees * Math.PI) / 360);
  const [sa, ca, sl, cl] = [Math.sin(about), Math.cos(about), Math.sin(lean), Math.cos(lean)];
  return [ca * sl, sa * cl, -sa * sl, ca * cl];
}

/** The yard as a world of a physics engine. */
export class Yard {
  readonly world: RapierWorld;
  private readonly physics: rapier.World;
  private readonly adrift: { body: rapier.RigidBody; piece: Piece }[] = [];

  private constructor() {
    this.physics = new rapier.World({ x: 0, y: -25, z: 0 });
    this.physics.timestep = 1 / 60;
    for (const piece of YARD) {
      const [x, y, z] = piece.at;
      const [a, b, c] = piece.size;
      const shape =
        piece.kind === 'box' ? rapier.ColliderDesc.cuboid(a / 2, b / 2, c / 2) : rapier.ColliderDesc.capsule(b / 2, a);
      const [tx, ty, tz, tw] = turnOf(piece);
      const kind = piece.drifts ? rapier.RigidBodyDesc.kinematicPositionBased() : rapier.RigidBodyDesc.fixed();
      const body = this.physics.createRigidBody(
        kind.setTranslation(x, y, z).setRotation({ x: tx, y: ty, z: tz, w: tw }),
      );
      this.physics.createCollider(shape, body);
      if (piece.drifts) this.adrift.push({ body, piece });
    }
    this.world = new RapierWorld(rapier, this.physics, {
      bounds: { x0: -30, y0: 0, z0: -30, x1: 30, y1: 40, z1: 30 },
    });
    this.step(0);
  }

  static async create(): Promise<Yard> {
    await rapier.init();
    return new Yard();
  }

  /** One step of the physics, up to a time in seconds: what drifts goes to where it is then. */
  step(seconds: number): void {
    for (const { body, piece } of this.adrift) {
      const [x, y, z] = placeOf(piece, seconds);
      body.setNextKinematicTranslation({ x, y, z });
    }
    this.physics.step();
  }
}

/** Where a piece is at a time. */
export function placeOf({ at, drifts }: Piece, seconds: number): readonly [number, number, number] {
  if (!drifts) return at;
  const part = Math.abs(((seconds / drifts.over) % 2) - 1);
  const eased = 1 - part;
  return [at[0] + drifts.by[0] * eased, at[1] + drifts.by[1] * eased, at[2] + drifts.by[2] * eased];
}
