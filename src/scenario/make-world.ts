import type { Plan } from '../compile/plan.js';
import type { Parsed } from '../moveset/read.js';
import type { AnyBlock } from '../world/blocks.js';
import { BoxWorld } from '../world/box-world.js';
import { TileWorld } from '../world/tile-world.js';

/** The world of a scenario. */
export function makeWorld(plan: Plan, { world }: Parsed): TileWorld | BoxWorld {
  const tiles: Parsed[] = Object.values(world.legend ?? {});
  const blocks = ((world.blocks ?? []) as Parsed[]).map((block) => makeBlock(block, plan.rate));
  const { places, edges, rows, size } = world;
  if (rows)
    return new TileWorld(rows, {
      size,
      blocks,
      places,
      edges,
      legend: Object.fromEntries(tiles.map((tile) => [tile.letter, tile])),
    });
  return new BoxWorld(blocks, { places });
}

/** Whether a path may turn a block: a box by its middle that is not turned already. */
export function canTurn({ size, turn }: Parsed): boolean {
  return size !== undefined && turn === undefined;
}

function makeBlock(block: Parsed, rate: number): AnyBlock {
  const { path, ...rest } = block;
  // What cannot turn is a fault that is told elsewhere.
  const points = path?.points?.map(({ at, turn, ...point }: Parsed) => ({
    ...point,
    at: at / rate,
    ...(canTurn(block) && { turn }),
  }));
  const shape = rest.from ? { to: rest.from } : { size: [1, 1] };
  return { ...shape, ...rest, ...(path && { path: { ...path, points } }) } as unknown as AnyBlock;
}
