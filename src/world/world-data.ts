import { LARGEST, UsageError } from '../report/usage-error.js';
import { describe } from '../report/words.js';
import type { AnyBlock } from './blocks.js';
import { BoxWorld, type BoxWorldOptions } from './box-world.js';
import { FlatGround, flatGround } from './flat-ground.js';
import { SolidWorld } from './solid-world.js';
import { type TileOptions, TileWorld } from './tile-world.js';
import type { World } from './world.js';

/** A world of Loggia's own as data: what its constructor was given. */
export type WorldData =
  | { readonly flat: number }
  | { readonly rows: readonly string[]; readonly options: TileOptions }
  | { readonly blocks: readonly AnyBlock[]; readonly options: BoxWorldOptions };

/** A world as data, if it is one of Loggia's own: classes made from these may answer otherwise. */
export function dataOfWorld(world: World): WorldData | undefined {
  if (world instanceof FlatGround) return { flat: world.y };
  if (world.constructor === TileWorld) {
    const { rows, given } = world as TileWorld;
    return { rows, options: given };
  }
  if (world.constructor === BoxWorld) {
    const { blocks, given } = world as BoxWorld;
    return { blocks, options: given };
  }
  return undefined;
}

/**
 * The world of such data, as it begins.
 * @throws {UsageError} for data from outside that describes none.
 */
export function worldOfData(data: WorldData): World {
  if ('flat' in data) return flatGround(data.flat);
  if ('rows' in data) return new TileWorld(data.rows, data.options);
  return new BoxWorld(data.blocks, data.options);
}

/** A world that answers as this one does, and moves by itself; one that never moves is its own. */
export function copyOfWorld(world: World): World {
  const data = dataOfWorld(world);
  return world.still === true || data === undefined ? world : worldOfData(data);
}

/** What of a world moves, if it is one of ours and anything does. */
export function movesOf(world: World | null | undefined): SolidWorld | null {
  return world instanceof SolidWorld && !world.still ? world : null;
}

/** How many letters and blocks a world from outside has at most: one of a scenario has no more. */
const MOST_CELLS = 1e6;
const MOST_BLOCKS = 1000;

/** What keeps data from outside from being a world, or undefined. */
export function faultOfWorld(data: unknown): string | undefined {
  if (typeof data !== 'object' || data === null) return `a world must be a map, not ${describe(data)}`;
  const { flat, rows, blocks, options = {} } = data as Record<string, unknown>;
  if (flat !== undefined)
    return typeof flat === 'number' && Math.abs(flat) <= LARGEST ? undefined : 'its ground has no height';
  const more = (options as TileOptions)?.blocks ?? [];
  if (Array.isArray(rows) && rows.reduce((sum, row) => sum + String(row).length, 0) > MOST_CELLS)
    return `its rows have more than ${MOST_CELLS} letters`;
  for (const list of [blocks, more])
    if (Array.isArray(list) && list.length > MOST_BLOCKS) return `it has more than ${MOST_BLOCKS} blocks`;
  try {
    const moves = movesOf(worldOfData(data as WorldData));
    // Ways are followed only then.
    for (const seconds of [0, 0.1, 1000]) moves?.advanceTo(seconds);
    return undefined;
  } catch (error) {
    return error instanceof UsageError ? error.message.replace(/\.$/, '') : 'it describes no world';
  }
}
