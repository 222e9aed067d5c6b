import {
  type FurtherValue,
  IS_OVER,
  S_TARGETS,
  type Striking,
  TARGET_SIZE,
  type VolumePlan,
} from '../../record/combat.js';
import type { Frame } from '../../record/frame.js';
import { FX, FZ } from '../../record/slots.js';
import { compileDirections, type Heading, heading } from '../directions/direction.js';
import { point } from '../directions/point.js';
import type { ParsedFormula } from '../formula.js';
import type { NameTypes, NumberFormula, OneOrMore, Time, TimeFormula, Uses } from '../name-types.js';
import { NAME } from '../read.js';
import {
  either,
  fields,
  formula,
  type Gives,
  kinds,
  list,
  listOrOne,
  map,
  type NameShape,
  name,
  number,
  optional,
  type Read,
  required,
  sound,
  soundEntries,
  text,
  time,
  truth,
  word,
} from '../shape.js';
import { wayOf } from '../trade-words.js';
import { type EffectTools, effect } from './effect.js';

/** The key `strike` of what has effects. */
export interface StrikeField<N extends NameTypes> {
  /** Strikes who is in its volumes while it lasts, in an arena: each once, unless it says `again`. */
  strike?: Strike<Uses<N>>;
}

/** The key `touch` of what has effects. */
export interface TouchField<N extends NameTypes> {
  /** Tells an event to who is in its volumes while it lasts, in an arena, if they have such an event. */
  touch?: Touch<Uses<N>>;
}

type Spot3 = readonly [forward: number, up: number, side?: number];

/** What stands still around the body. */
type StillForm =
  | {
      /** A box of this width and height (and depth, where it is not the width), with its middle at `at`. */
      box: readonly [width: number, height: number, depth?: number];
    }
  | {
      /** A sphere of this radius, with its middle at `at`. */
      sphere: number;
    }
  | {
      /** All that is within this radius of the line from `at` to `to`. */
      capsule: number;
      /** Its other end. */
      to: Spot3;
    };

type VolumeForm<N extends NameTypes> =
  | StillForm
  | {
      /** A ray from `at` along this way: it ends at the first solid, or at the last target that it may meet. */
      ray: Spot3;
      /** How thick the ray is. Default 0. */
      radius?: number;
    }
  | {
      /** A ray from `at` in the first of these directions that there is. */
      along: OneOrMore<NoInfer<Heading<N>>>;
      /** How far it goes. Default 1. */
      reach?: NumberFormula<N>;
      /** Takes only the level part of the direction. Default false. */
      flat?: boolean;
      /** How thick the ray is. Default 0. */
      radius?: number;
    };

interface PlacedVolume {
  /** Where: [forward, up], and to the side in the open view, from the middle of the feet. Default [0, 0]. */
  at?: Spot3;
}

interface DamagingVolume extends PlacedVolume {
  /** What it multiplies the damage by. Default 1. */
  factor?: number;
}

/** A volume around the body, relative to the feet's middle and always turned with facing. */
export type StillVolume = StillForm & DamagingVolume;

/** What a strike covers. */
export type Volume<N extends NameTypes = NameTypes> = VolumeForm<N> & DamagingVolume;

/** What a touch covers. */
type TouchVolume<N extends NameTypes> = VolumeForm<N> & PlacedVolume;

/** The velocity that a blow gives: forward and up as the striker faces; or along a direction, in which `target` is a point. */
export type Push<N extends NameTypes = NameTypes> =
  | Spot3
  | {
      /** The first of these that there is; `toward(target)` and `away(target)` are about the middle of who is struck. */
      along: OneOrMore<NoInfer<Heading<N>> | 'toward(target)' | 'away(target)'>;
      /** Per second. */
      speed: NumberFormula<N>;
      /** Upwards besides, per second. Default 0. */
      up?: NumberFormula<N>;
      /** Takes only the level part of the direction. Default false. */
      flat?: boolean;
    };

/** Strikes who is in its volumes while it lasts: each once, unless it says `again`. */
export type Strike<N extends NameTypes = NameTypes> = (
  | Volume<N>
  | {
      /** Several volumes of one strike. */
      volumes: readonly Volume<N>[];
    }
) & {
  /** How much it hurts. Default 0. */
  damage?: NumberFormula<N>;
  /** The kind of damage, one of `kinds`. */
  kind?: NoInfer<N['kind']>;
  /**
   * The velocity that it gives who is struck: [forward, up] as the striker faces, or along a direction, in which
   * `toward(target)` and `away(target)` are about the middle of who is struck.
   */
  push?: Push<N>;
  /** How long it stuns: a value of the message. Default 0f. */
  stun?: TimeFormula<N>;
  /** How long the clocks of both stand still. Default 0f. */
  stop?: TimeFormula<N>;
  /** Strikes the same target again after this long. Default: once. */
  again?: Time;
  /** How many targets it may meet, 1 to 64. Default 8, of a ray 1. */
  most?: number;
  /** Whom it strikes, by their teams. Default `foes`. */
  hits?: 'foes' | 'friends' | 'all';
  /** Only who has one of these tags. */
  tagged?: OneOrMore<string>;
  /** Further values of the message that both get, by their names there. */
  values?: Readonly<Record<string, NumberFormula<N> | TimeFormula<N>>>;
  /** Adds to the striker's pools for each that it hits. */
  gain?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  /** It meets other strikes that have this, too: the one with less is lost, of equal ones both are. Default: it meets none. */
  clash?: number;
};

/** Touches who is in its volumes while it lasts: each once, unless it says `again`. */
export type Touch<N extends NameTypes = NameTypes> = (
  | TouchVolume<N>
  | {
      /** Several volumes of one touch. */
      volumes: readonly TouchVolume<N>[];
    }
) & {
  /** The event that is told to who is touched; who has no such event is not touched. */
  tells: string;
  /** Touches the same target again after this long. Default: once. */
  again?: Time;
  /** How many targets it may meet, 1 to 64. Default 8, of a ray 1. */
  most?: number;
  /** Whom it touches, by their teams. Default `all`. */
  hits?: 'foes' | 'friends' | 'all';
  /** Only who has one of these tags. */
  tagged?: OneOrMore<string>;
  /** Values of the event, by their names there; `from`, `at`, `by` and `volume` are known where it declares them. */
  values?: Readonly<Record<string, NumberFormula<N> | TimeFormula<N>>>;
};

const spot = list(number(-1000, 1000), { min: 2, max: 3 });
const radius = optional(number(0.001, 1000));
const place = { at: optional(spot), factor: optional(number(0, 100)) };
const headings = (of: NameShape & Gives<string>) => list(of, { orOne: true, min: 1, max: 8 });

/** @internal Kinds of volumes that stand still around the body. */
export const STILL_VOLUMES = [
  { key: 'box', fields: { box: optional(list(number(0.001, 1000), { min: 2, max: 3 })) } },
  { key: 'sphere', fields: { sphere: optional(number(0.001, 1000)) } },
  { key: 'capsule', fields: { capsule: optional(number(0.001, 1000)), to: optional(spot) } },
] as const;
const VOLUMES = [
  ...STILL_VOLUMES,
  { key: 'ray', fields: { ray: optional(spot), radius } },
  {
    key: 'along',
    fields: {
      along: optional(headings(heading)),
      reach: optional(formula('number', { min: 0, max: 10_000 })),
      flat: optional(truth()),
      radius,
    },
  },
] as const;
/** @internal */
export const PLACED = place;

const targeted = { ...point, words: [...point.words, 'target'] };
/** Directions in which `target` is a point: who is struck. */
const pushHeading = { ...heading, calls: { ...heading.calls, toward: targeted, away: targeted } };
const speed = formula('number', { min: -10_000, max: 10_000 });
/** @internal A velocity by its parts, or along a direction. */
export const velocityShape = (title: string, along: NameShape & Gives<string> = heading) =>
  either({
    list: list(number(-10_000, 10_000), { min: 2, max: 3 }),
    fields: fields(title, {
      along: required(headings(along), 'where to: the first of these directions that there is.'),
      speed: required(speed, 'along that, per second.'),
      up: optional(speed),
      flat: optional(truth()),
    }),
  });
const pushShape = velocityShape('a push', pushHeading);

/** What was called otherwise once. */
export const byTags = { on: 'Whom it looks for by tags is "tagged", as in tagged: wooden.' };

const aims = kinds('a volume', VOLUMES, place);
/** @internal */
export const strikeShape = kinds(
  'a strike',
  [...VOLUMES, { key: 'volumes', fields: { volumes: optional(list(aims, { min: 1, max: 16 })) } }],
  {
    ...place,
    damage: optional(formula('number', { min: 0, max: 1e6 })),
    kind: optional(name('kind')),
    push: optional(pushShape),
    stun: optional(formula('time')),
    stop: optional(formula('time')),
    again: optional(time()),
    most: optional(number(1, 64, true)),
    hits: optional(word('foes', 'friends', 'all')),
    tagged: optional(listOrOne(text())),
    values: optional(map('new', formula('value'))),
    gain: optional(map('pool', formula('number'))),
    clash: optional(number(0, 100)),
  },
  { wayOf, elsewhere: byTags },
);

type Triple = [number, number, number];
const vector = ([x = 0, y = 0, z = 0]: readonly (number | undefined)[] = []): Triple => [x, y, z];

/** A volume as it was read. */
type ReadVolume = Read<typeof aims>;

/** @internal */
export function compileVolume(value: ReadVolume, tools: EffectTools): VolumePlan {
  const { box, sphere, capsule, ray, along, factor = 1 } = value;
  const at = vector(value.at);
  const [width = 0, height = 0, depth = width] = box ?? [];
  const kind = box ? 'box' : ray || along ? 'ray' : 'round';
  const [dx, dy, dz] = vector(ray);
  const to = ray ? vector([at[0] + dx, at[1] + dy, at[2] + dz]) : value.to ? vector(value.to) : at;
  return {
    kind,
    at,
    half: [width / 2, height / 2, depth / 2],
    to,
    radius: sphere ?? capsule ?? value.radius ?? 0,
    factor,
    aim: along ? compileDirections(along, { flat: value.flat }, tools) : null,
    reach: along ? tools.amount(value.reach, 1) : null,
  };
}

/** Whether all volumes are rays. */
function isBeam(value: Several): boolean {
  return volumesOf(value).every(({ ray, along }) => ray || along);
}

/** What a strike or a touch says of its volumes: one, or a list. */
type Several = ReadVolume & { readonly volumes?: (ReadVolume | undefined)[]; readonly most?: number };

function volumesOf(value: Several): ReadVolume[] {
  return value.volumes ? sound(value.volumes) : [value];
}

function mostOf(value: Several): number {
  return value.most ?? (isBeam(value) ? 1 : 8);
}

/** What a strike says beside what an arena knows. */
function furtherValues(
  given: Record<string, ParsedFormula | undefined> | undefined,
  tools: EffectTools,
): FurtherValue[] {
  return soundEntries(given).map(([name, parsed]) => ({ name, ...tools.either(parsed) }));
}

/** @internal */
export const strikeEffect = effect(
  'strike',
  strikeShape,
  (value, tools) => {
    const result = tools.resultAt();
    const plan: Striking = {
      volumes: volumesOf(value).map((volume) => compileVolume(volume, tools)),
      damage: tools.amount(value.damage, 0),
      kind: value.kind ?? null,
      push: value.push ? compilePush(value.push, tools) : null,
      stun: tools.time(value.stun),
      stop: tools.time(value.stop),
      again: value.again ?? 0,
      most: mostOf(value),
      beam: isBeam(value),
      hits: value.hits ?? 'foes',
      tagged: value.tagged ? sound(value.tagged) : null,
      values: furtherValues(value.values, tools),
      gains: Object.entries(value.gain ?? {}).map(([pool, parsed]) => ({
        pool: tools.index('pool', pool),
        amount: tools.number(parsed),
      })),
      clash: value.clash ?? -1,
      tells: null,
      result,
    };
    return {
      strike: plan,
      end: ({ r }) => {
        r[result] |= IS_OVER;
      },
    };
  },
  { inStances: false, owns: (value) => S_TARGETS + mostOf(value) * TARGET_SIZE },
);

const touchVolume = kinds('a volume of a touch', VOLUMES, { at: place.at });
/** @internal */
export const touchShape = kinds(
  'a touch',
  [...VOLUMES, { key: 'volumes', fields: { volumes: optional(list(touchVolume, { min: 1, max: 16 })) } }],
  {
    at: place.at,
    tells: required(text(NAME, 'the name of an event'), 'the event that is told to who is touched.'),
    again: optional(time()),
    most: optional(number(1, 64, true)),
    hits: optional(word('foes', 'friends', 'all')),
    tagged: optional(listOrOne(text())),
    values: optional(map('new', formula('value'))),
  },
  { elsewhere: byTags },
);

/** @internal Tells an event to who is in its volumes while it lasts, and has such an event: a strike without a blow. */
export const touchEffect = effect(
  'touch',
  touchShape,
  (value, tools) => {
    const zero = tools.amount(undefined, 0);
    const plan: Striking = {
      volumes: volumesOf(value).map((volume) => compileVolume(volume, tools)),
      damage: zero,
      kind: null,
      push: null,
      stun: zero,
      stop: zero,
      again: value.again ?? 0,
      most: mostOf(value),
      beam: isBeam(value),
      hits: value.hits ?? 'all',
      tagged: value.tagged ? sound(value.tagged) : null,
      values: furtherValues(value.values, tools),
      gains: [],
      clash: -1,
      tells: value.tells ?? '',
      result: -1,
    };
    return { touch: plan };
  },
  { inStances: false, owns: (value) => S_TARGETS + mostOf(value) * TARGET_SIZE },
);

/** @internal What gives a velocity, relative to facing or along a direction. */
export function compilePush(
  value: Read<ReturnType<typeof velocityShape>>,
  tools: EffectTools,
): (c: Frame, out: Float64Array) => void {
  if (Array.isArray(value)) {
    const [forward, up, side] = vector(value);
    return ({ r }, out) => {
      out[0] = forward * r[FX] - side * r[FZ];
      out[1] = up;
      out[2] = forward * r[FZ] + side * r[FX];
    };
  }
  const aim = compileDirections(value.along, value, tools);
  const speed = tools.amount(value.speed, 0);
  const up = tools.amount(value.up, 0);
  return (c, out) => {
    speed.run?.(c);
    up.run?.(c);
    const { r } = c;
    const pace = Number.isNaN(r[speed.at]) || !aim(c, out) ? 0 : r[speed.at];
    const rise = Number.isNaN(r[up.at]) ? 0 : r[up.at];
    for (let i = 0; i < 3; i++) out[i] = pace === 0 ? 0 : out[i] * pace;
    out[1] += rise;
  };
}
