import type { Character } from '../character/character.js';
import type { NameTypes } from '../moveset/name-types.js';
import type { Fighter } from '../strikes/fighter.js';
import { Hurts } from '../strikes/fighter.js';
import type { Opponent } from './opponent.js';

const NONE = new Float64Array(0);

/** Who takes part in an arena: a character, or a thing, which is a character with a small moveset. */
export class Member<N extends NameTypes = NameTypes> implements Fighter {
  /** @internal */
  readonly hurts = new Hurts();
  /** @internal */
  readonly way: Float64Array = new Float64Array(3);
  /** @internal */
  awake = false;
  /** @internal Whoever rides it gives it what they press. */
  steered = false;
  /** @internal It was moved in this tick, or is moved by what it rides. */
  moved = false;
  /** @internal What plays it, and the numbers of that. */
  plays: Opponent | null = null;
  /** @internal */
  state: Float64Array = NONE;
  /** Whether it is in the arena: neither removed nor, after a restore, not there yet. */
  alive = true;

  constructor(
    /** No other member of this arena ever has it. */
    readonly id: number,
    /** No other living member has it. */
    readonly name: string,
    /** Its door, readout and facts. */
    readonly character: Character<N>,
    /** Its side, or null: then all others are its foes. */
    readonly side: string | null,
    /** Words by which strikes find it. */
    public tags: readonly string[],
    /** @internal */
    readonly team: number,
    /** @internal Indexes of its plan, name and tags in the arena's lists; of who was called, its name is below 0: -1 less the index of its kind. */
    public indexes: readonly [plan: number, name: number, tags: number],
    /** @internal Id of who called it, or 0. */
    readonly caller: number,
  ) {}

  /** @internal */
  get c(): Character {
    return this.character as unknown as Character;
  }
}
