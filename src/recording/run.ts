import type { Opponent } from '../arena/opponent.js';
import type { Plan } from '../compile/plan.js';
import type { Join } from '../saved/watcher.js';
import type { Renamed } from '../tick/take-in/map-rows.js';
import type { World } from '../world/world.js';
import type { WorldData } from '../world/world-data.js';
import type { WorldTraits } from './answers.js';
import type { Frames } from './frames.js';
import type { Meanings } from './moment.js';

/** What everybody moved in: a world of ours, one that answers from what was written down, or an engine. */
export type FrozenWorld =
  | { readonly kind: 'ours'; readonly data: WorldData; readonly live: World | null }
  | {
      readonly kind: 'custom';
      readonly traits: WorldTraits;
      readonly answers: readonly (readonly string[])[];
      /** The world itself, if it is there and never changes: it can be asked again. */
      readonly live: World | null;
    }
  | { readonly kind: 'engine'; readonly answers: readonly (readonly string[])[] };

/** Whose moveset another one replaced: its index among those of the run. */
export interface SwapChange {
  readonly swaps: number;
  readonly plan: number;
  readonly renamed: Renamed;
}

/** Who joined, the id of who left, or whose moveset was replaced, by a call of the host before a tick. */
export interface Change {
  readonly tick: number;
  readonly change: Join | number | SwapChange;
}

/** Everything that was recorded of a run. */
export interface Run extends Meanings {
  /** It is of an arena; else of one character by itself. */
  readonly isArena: boolean;
  readonly rate: number;
  /** An engine finds who is in the volumes of strikes. */
  readonly engineFinds: boolean;
  readonly frames: Frames;
  readonly world: FrozenWorld;
  /** Movesets of those who may be called. */
  readonly summons: Readonly<Record<string, Plan>>;
  /** Where named places are that the host knows: by the id of a member and their names. */
  readonly places: ReadonlyMap<string, readonly [number, number, number] | null>;
  /** What the host changed, in the order of time. */
  readonly changes: Change[];
  /** What plays members, by their ids. */
  readonly opponents: Map<number, Opponent>;
}

/** In the place of an id: places that the world itself knows. */
export const OF_WORLD = -1;

export function placeKey(id: number, place: string): string {
  return `${id} ${place}`;
}
