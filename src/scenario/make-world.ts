import type { Plan } from '../compile/plan.js';
import type { Parsed } from '../moveset/read.js';
import type { Sink } from '../report/diagnostic.js';
import type { AnyBlock } from '../world/blocks.js';
import { BoxWorld } from '../world/box-world.js';
import { TileWorld } from '../world/tile-world.js';

/** The world of a scenario; what is missing in it goes to `sink`. */
export function makeWorld(plan: Plan, { world }: Parsed, sink: Sink): TileWorld | BoxWorld {
  const tiles: Parsed[] = Object.values(world.legend ?? {});
  const blocks = ((world.blocks ?? []) as Parsed[]).map((block, i) => makeBlock(block, plan.rate, i, sink));
  const { places, edges, rows, size } = world;
  if (rows)
    return new TileWorld(rows, {
      size,
      blocks,
      places,
      edges,
      legend: Object.fromEntries(tiles.map((tile) => [tile.letter, tile])),
    });
  if (!world.blocks)
    sink.add(
      'missing-key',
      ['world'],
      { key: 'rows', title: 'a world', doc: 'rows of text, or "blocks".' },
      { on: 'key' },
    );
  for (const key of ['legend', 'size', 'edges'])
    if (world[key] !== undefined)
      sink.add('pointless-key', ['world', key], { key, why: 'it belongs to "rows"' }, { on: 'key' });
  return new BoxWorld(blocks, { places });
}

function makeBlock(block: Parsed, rate: number, i: number, sink: Sink): AnyBlock {
  const key = block.from ? 'to' : 'size';
  if (block[key] === undefined)
    sink.add('missing-key', ['world', 'blocks', i], {
      key,
      title: 'a block',
      doc: `it goes with "${block.from ? 'from' : 'at'}".`,
    });
  const { path, ...rest } = block;
  const points = path?.points?.map((point: Parsed) => ({ ...point, at: point.at / rate }));
  const shape = rest.from ? { to: rest.from } : { size: [1, 1] };
  return { ...shape, ...rest, ...(path && { path: { ...path, points } }) } as unknown as AnyBlock;
}
