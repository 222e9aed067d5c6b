import type * as Rapier from '@dimforge/rapier3d-compat';
import { RapierWorld } from '../../src/rapier/index.js';
import type { AnyBlock } from '../../src/world/blocks.js';
import type { SolidWorld } from '../../src/world/solid-world.js';
import { TileWorld } from '../../src/world/tile-world.js';
import type { World } from '../../src/world/world.js';

/** Where a block has no depth of its own, colliders reach so far to both sides. */
const DEEP = 50;
/** A platform is a slab at the top of its tile: this part of it. */
const PLATFORM = 0.25;
/** Walls at the edges of a world are so thick, and reach so far up. */
const THICK = 4;
const HIGH = 200;

export type RapierProgram = typeof Rapier;

/** What a collider is made of. */
interface Part {
  readonly made: Rapier.ColliderDesc;
  readonly tags: readonly string[];
  readonly area: boolean;
}

/**
 * The same world, as a physics engine has it: every tile and block a collider. Why it cannot be is a sentence.
 * @param places What is asked for by name; the world says where it is.
 */
export function roomOf(rapier: RapierProgram, world: SolidWorld, places: readonly string[]): World | string {
  if (!world.still) return 'In Rapier, rooms stand still; in this world something moves.';
  const edges = Object.values(world.edges ?? {});
  if (edges.some((edge) => edge !== 'wall')) return 'In Rapier, the edges of a world can only be walls.';
  const parts = [
    ...(world instanceof TileWorld ? tilesOf(rapier, world) : []),
    ...world.blocks.map((block) => blockOf(rapier, block)),
    ...wallsOf(rapier, world),
  ];
  const physics = new rapier.World({ x: 0, y: -25, z: 0 });
  const tags = new Map<number, readonly string[]>();
  for (const part of parts) tags.set(physics.createCollider(part.made.setSensor(part.area)).handle, part.tags);
  physics.step();
  const found = places.flatMap((place) => {
    const at = world.find(place);
    return at ? [[place, [at.x, at.y, at.z ?? 0] as const] as const] : [];
  });
  const { bounds } = world;
  return new RapierWorld(rapier, physics, {
    still: true,
    tagsOf: ({ handle }) => tags.get(handle) ?? [],
    places: Object.fromEntries(found),
    bounds,
  });
}

/** Tiles of a kind that stand side by side are one collider: a body that slides on them meets no seams. */
function tilesOf(rapier: RapierProgram, world: TileWorld): Part[] {
  const { size } = world;
  const parts: Part[] = [];
  for (let row = 0; row < world.height; row++) {
    for (let column = 0; column < world.width; column++) {
      const tile = world.tileAt(column, row);
      if (!tile) continue;
      const { oneWay, area, tags, slope } = tile;
      const [x, y] = [column * size, row * size];
      const own = { area, tags: oneWay && !tags.includes('oneWay') ? [...tags, 'oneWay'] : tags };
      if (slope) {
        const made = hull(rapier, [
          [x, y],
          [x + size, y],
          [x, y + slope[0] * size],
          [x + size, y + slope[1] * size],
        ]);
        if (made) parts.push({ ...own, made });
        continue;
      }
      let many = 1;
      const isLike = (other: typeof tile | undefined) =>
        other && !other.slope && other.area === area && other.oneWay === oneWay && other.tags.join() === tags.join();
      while (column + many < world.width && isLike(world.tileAt(column + many, row))) many++;
      column += many - 1;
      const bottom = oneWay ? y + size * (1 - PLATFORM) : y;
      parts.push({ ...own, made: box(rapier, [x, bottom, -DEEP], [x + many * size, y + size, DEEP]) });
    }
  }
  return parts;
}

function blockOf(rapier: RapierProgram, block: AnyBlock): Part {
  const { tags = [], area = false } = block;
  const oneWay = 'oneWay' in block && block.oneWay === true && !tags.includes('oneWay');
  return { area, tags: oneWay ? [...tags, 'oneWay'] : tags, made: shapeOf(rapier, block) };
}

function shapeOf(rapier: RapierProgram, block: AnyBlock): Rapier.ColliderDesc {
  if ('radius' in block) {
    const { from, to, radius } = block;
    const along = [0, 1, 2].map((k) => (to[k] ?? 0) - (from[k] ?? 0));
    const length = Math.hypot(...along);
    const [x, y, z] = [0, 1, 2].map((k) => ((to[k] ?? 0) + (from[k] ?? 0)) / 2);
    if (length === 0) return rapier.ColliderDesc.ball(radius).setTranslation(x, y, z);
    const [dx, dy, dz] = along.map((part) => part / length);
    // From upright to along it: half way between the two, as a quaternion.
    const turn = dy < -0.9999 ? [1, 0, 0, 0] : unit([dz, 0, -dx, 1 + dy]);
    return rapier.ColliderDesc.capsule(length / 2, radius)
      .setTranslation(x, y, z)
      .setRotation({ x: turn[0], y: turn[1], z: turn[2], w: turn[3] });
  }
  if ('at' in block) {
    const { at, size, turn = [0, 0, 0, 1] } = block;
    return rapier.ColliderDesc.cuboid(size[0] / 2, size[1] / 2, (size[2] ?? 2 * DEEP) / 2)
      .setTranslation(at[0], at[1], at[2] ?? 0)
      .setRotation({ x: turn[0], y: turn[1], z: turn[2], w: turn[3] });
  }
  const { from, to } = block;
  return box(rapier, [from[0], from[1], from[2] ?? -DEEP], [to[0], to[1], to[2] ?? DEEP]);
}

/** The walls that a world has at its edges. */
function wallsOf(rapier: RapierProgram, { bounds, edges = {} }: SolidWorld): Part[] {
  if (!bounds) return [];
  const x = [bounds.x0, bounds.x1].map((one) => (Number.isFinite(one) ? one : 0));
  const [low, high] = [bounds.y0, Number.isFinite(bounds.y1) ? bounds.y1 : bounds.y0 + HIGH];
  const wall = (from: readonly number[], to: readonly number[]): Part => ({
    area: false,
    tags: [],
    made: box(rapier, [from[0], from[1], -DEEP], [to[0], to[1], DEEP]),
  });
  return [
    ...(edges.sides === 'wall'
      ? [wall([x[0] - THICK, low - THICK], [x[0], high + HIGH]), wall([x[1], low - THICK], [x[1] + THICK, high + HIGH])]
      : []),
    ...(edges.top === 'wall' ? [wall([x[0], high], [x[1], high + THICK])] : []),
    ...(edges.bottom === 'wall' ? [wall([x[0], low - THICK], [x[1], low])] : []),
  ];
}

function box(rapier: RapierProgram, from: readonly number[], to: readonly number[]): Rapier.ColliderDesc {
  const half = (k: number) => Math.abs(to[k] - from[k]) / 2;
  const middle = (k: number) => (to[k] + from[k]) / 2;
  return rapier.ColliderDesc.cuboid(half(0), half(1), half(2)).setTranslation(middle(0), middle(1), middle(2));
}

/** What stands on all of these corners, as seen from the side. */
function hull(rapier: RapierProgram, corners: readonly (readonly [number, number])[]): Rapier.ColliderDesc | null {
  const points = corners.flatMap(([x, y]) => [x, y, -DEEP, x, y, DEEP]);
  return rapier.ColliderDesc.convexHull(new Float32Array(points));
}

function unit(parts: readonly number[]): number[] {
  const length = Math.hypot(...parts);
  return parts.map((part) => part / length);
}

/** The program, once somebody wants it: it is a megabyte, and only some have it. */
export async function loadRapier(text: string): Promise<RapierProgram> {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/javascript' }));
  try {
    const program = (await import(/* @vite-ignore */ address)) as RapierProgram;
    await program.init();
    return program;
  } finally {
    URL.revokeObjectURL(address);
  }
}
