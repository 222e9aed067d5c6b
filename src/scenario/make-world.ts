import type { Plan } from '../compile/plan.js';
import type { AnyBlock } from '../world/blocks.js';
import { BoxWorld, type BoxWorldOptions } from '../world/box-world.js';
import { type TileOptions, TileWorld } from '../world/tile-world.js';
import type { Block, Scenario } from './shape.js';

/** The world of a scenario. */
export function makeWorld(plan: Plan, { world }: Scenario): TileWorld | BoxWorld {
  const tiles = Object.values(world.legend ?? {});
  const blocks = (world.blocks ?? []).map((block) => makeBlock(block, plan.rate));
  const { edges, rows, size } = world;
  // How many numbers a point has was checked.
  const places = world.places as TileOptions['places'];
  const legend = Object.fromEntries(tiles.map((tile) => [tile.letter, tile])) as TileOptions['legend'];
  if (rows)
    return new TileWorld(rows, {
      size,
      blocks,
      places,
      edges,
      legend,
    });
  return new BoxWorld(blocks, { places: places as BoxWorldOptions['places'] });
}

/** Whether a path may turn a block: a box by its middle that is not turned already. */
export function canTurn({ size, turn }: Block): boolean {
  return size !== undefined && turn === undefined;
}

function makeBlock(block: Block, rate: number): AnyBlock {
  const { path, ...rest } = block;
  // What cannot turn is a fault that is told elsewhere.
  const points = path?.points.map(({ at, turn, ...point }) => ({
    ...point,
    at: at / rate,
    ...(canTurn(block) && { turn }),
  }));
  const shape = rest.from ? { to: rest.from } : { size: [1, 1] };
  return { ...shape, ...rest, ...(path && { path: { ...path, points } }) } as unknown as AnyBlock;
}
