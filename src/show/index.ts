import type { Arena } from '../arena/index.js';
import type { Character } from '../character/character.js';
import type { World } from '../world/world.js';

/** What the viewer may do with a game that it shows. */
export interface ShowOptions {
  /** Stops the game, or lets it go on: called while somebody looks back. Default: the game goes on meanwhile. */
  pause?: ((paused: boolean) => void) | undefined;
  /** Whether the viewer may take the game back to a tick, to go on from there. Default false. */
  restore?: boolean | undefined;
  /** How many seconds can be looked back at; from 1 to 3,600. Default 60. */
  seconds?: number | undefined;
  /** What the world looks like, where an engine or a host has it: a `TileWorld`, a `BoxWorld` or `flatGround`. It is only drawn. Default: the character's own world, if that is one of these. */
  scenery?: World | undefined;
}

/**
 * Shows a character or an arena in the viewer, at `/__loggia/` of Vite's development server with the plugin of `loggia/vite`. In any other
 * case, and in every build, it does nothing.
 * @param of What is shown: a character that ticks by itself, or an arena.
 * @param name What the viewer calls it.
 * @param options What the viewer may do.
 * @returns Call it to show it no longer.
 */
export function show(_of: Character | Arena, _name: string, _options?: ShowOptions): () => void {
  return () => {};
}
