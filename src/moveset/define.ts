import type { ButtonInput, Moveset, StickInput } from './types.js';

type Inputs = Record<string, ButtonInput | StickInput>;
type KeysOf<I extends Inputs, Kind> = { [K in keyof I]: I[K] extends Kind ? K : never }[keyof I] & string;

/**
 * Types a moveset: a misspelt pool, input, lane, stance, ability, probe, event or shape name is a
 * compile error at its place. Returns the same object, unchecked at run time; `compileMoveset` checks it.
 */
export function defineMoveset<
  const Pool extends string = never,
  const I extends Inputs = Record<never, never>,
  const Probe extends string = never,
  const Lane extends string = 'body',
  const Stance extends string = never,
  const Ability extends string = never,
  const Event extends string = never,
  const Shape extends string = never,
  const Tag extends string = never,
  const Loadout extends string = never,
>(
  moveset: Moveset<{
    pool: Pool;
    button: KeysOf<I, ButtonInput>;
    stick: KeysOf<I, StickInput>;
    probe: Probe;
    lane: Lane;
    stance: Stance;
    ability: Ability;
    event: Event;
    shape: Shape;
    tag: Tag;
    loadout: Loadout;
  }> & { inputs?: I },
): typeof moveset {
  return moveset;
}
