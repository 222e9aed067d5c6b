import type { Input } from './inputs/index.js';
import type { BLOWS } from './messages.js';
import type { Side } from './name-types.js';
import type { MessageDeclaration, Moveset } from './types.js';

/** Told apart by their key only, so that a fault inside an input does not make its name unknown. */
type Button = { readonly button: unknown };
type Stick = { readonly stick: unknown };
type Aim = { readonly aim: unknown };
type Choice = { readonly choice: unknown };
type Option<I, K extends string> = I extends { readonly choice: infer C } ? `${K}.${keyof C & string}` : never;

/** Events that carry what an arena tells of a blow. */
type Blow<Event extends string> = Extract<Event, (typeof BLOWS)[number]>;
/** Values of one of these types, of all events: `rung.loud`. Of a list of events none is known. */
type ValueOf<E, T> = string extends keyof E
  ? never
  : {
      [K in keyof E]: E[K] extends { readonly values: infer V }
        ? { [W in keyof V]: V[W] extends T ? `${K & string}.${W & string}` : never }[keyof V]
        : never;
    }[keyof E];

/** A moveset as it is written, from what inference finds in it: its names, its inputs, its events with their values. */
export type Definition<
  Pool extends string,
  I extends Record<string, object>,
  Probe extends string,
  Lane extends string,
  Stance extends string,
  Ability extends string,
  Event extends string,
  Shape extends string,
  Tag extends string,
  Loadout extends string,
  Phase extends string,
  Named extends string,
  Place extends string,
  Mark extends string,
  OwnMark extends string,
  Surface extends string,
  Kind extends string,
  Summon extends string,
  Target extends string,
  E extends Record<string, MessageDeclaration>,
> = Moveset<{
  pool: Pool;
  button: { [K in keyof I]: I[K] extends Button ? K & string : never }[keyof I];
  stick: { [K in keyof I]: I[K] extends Stick ? K & string : never }[keyof I];
  aim: { [K in keyof I]: I[K] extends Aim ? K & string : never }[keyof I];
  choice: { [K in keyof I]: I[K] extends Choice ? K & string : never }[keyof I];
  option: { [K in keyof I]: K extends string ? Option<I[K], K> : never }[keyof I];
  input: {
    [K in keyof I]: K extends string
      ? I[K] extends Button
        ? K
        : I[K] extends Aim
          ? never
          : I[K] extends Choice
            ? Option<I[K], K>
            : `${K}.${Side}`
      : never;
  }[keyof I];
  place: Place;
  mark: Mark;
  ownMark: OwnMark;
  surface: Surface;
  probe: Probe;
  lane: Lane;
  stance: Stance;
  ability: Ability;
  event: Event;
  shape: Shape;
  tag: Tag;
  loadout: Loadout;
  phase: Phase;
  condition: Named;
  kind: Kind;
  summon: Summon;
  target: Target;
  value:
    | ValueOf<E, 'number' | 'time' | readonly string[]>
    | `${Blow<Event>}.${'damage' | 'kind' | 'stun' | 'by' | 'volume'}`;
  'point value': ValueOf<E, 'point'> | `${Blow<Event>}.${'from' | 'at'}` | 'blow.from' | 'blow.at';
  'direction value': ValueOf<E, 'direction'> | `${Blow<Event>}.push` | 'blow.push';
  untyped: never;
}> & { events?: readonly Event[] | (E & Record<Event, MessageDeclaration>) } & {
  inputs?: I & { [K in keyof I]: Input };
};

/**
 * Types a moveset: a misspelt pool, input, lane, stance, ability, probe, event, shape or phase name is a compile
 * error at its place. Returns the same object, unchecked at run time; `compileMoveset` checks it.
 * @param moveset The whole definition.
 */
export function defineMoveset<
  const Pool extends string = never,
  I extends Record<string, object> = Record<never, never>,
  const Probe extends string = never,
  const Lane extends string = 'body',
  const Stance extends string = never,
  const Ability extends string = never,
  const Event extends string = never,
  const Shape extends string = never,
  const Tag extends string = never,
  const Loadout extends string = never,
  const Phase extends string = never,
  const Named extends string = never,
  const Place extends string = never,
  const Mark extends string = never,
  const OwnMark extends string = never,
  const Surface extends string = never,
  const Kind extends string = never,
  const Summon extends string = never,
  const Target extends string = never,
  const E extends Record<string, MessageDeclaration> = Record<never, never>,
>(
  moveset: Definition<
    Pool,
    I,
    Probe,
    Lane,
    Stance,
    Ability,
    Event,
    Shape,
    Tag,
    Loadout,
    Phase,
    Named,
    Place,
    Mark,
    OwnMark,
    Surface,
    Kind,
    Summon,
    Target,
    E
  >,
): typeof moveset {
  return moveset;
}
