import { headings } from './directions/direction.js';
import { emitShape } from './effects/actions.js';
import { EFFECTS, type EffectFields } from './effects/index.js';
import { markShape } from './effects/mark.js';
import { moveShape } from './effects/move.js';
import { byTags, PLACED, STILL_VOLUMES } from './effects/strike.js';
import { walkShape } from './effects/walk.js';
import { INPUTS } from './inputs/index.js';
import { MOST_VALUES, VALUE_TYPES } from './messages.js';
import { PROBES } from './probes/index.js';
import { NAME } from './read.js';
import {
  condition,
  data,
  either,
  type Field,
  type FieldsShape,
  fields,
  formula,
  kinds,
  list,
  listOrOne,
  map,
  type NameKind,
  name,
  number,
  optional,
  type Read,
  type ReadFields,
  required,
  type Shape,
  text,
  time,
  timeOrFormula,
  truth,
  word,
} from './shape.js';
import { STARTS } from './starts/index.js';
import { wayOf } from './trade-words.js';

/** The format that this version reads and writes. */
export const FORMAT = 1;

const conditions = listOrOne(condition());
const newName = text(NAME, 'a name: letters, digits and underscores, and no word of formulas');
const abilities = listOrOne(name('ability', 'tag'));
const abilitiesOrAll = listOrOne({
  ...name('ability', 'tag'),
  words: ['all'],
  meaning: 'word for all others',
  calls: { not: name('ability', 'tag') },
});

/** Warnings that are meant to be so, each with the reason. */
const allow = optional(map('code', text()));

/** What the host wants to know, see `Data`. */
const hostData = optional(data());

/** What a player reads. */
const says = optional(text());

/** Of a part that is like another one of its kind. */
const likeFields = (kind: NameKind) => ({
  like: optional(name(kind)),
  without: optional(listOrOne(text())),
});
const ifLike = { unless: 'like', needs: { without: { key: 'like', doc: 'what it is otherwise like.' } } };

const effectFields = (stance: boolean) =>
  Object.fromEntries(
    EFFECTS.filter((e) => e.inStances || !stance).map((e) => [e.key, optional(e.shape)]),
  ) as unknown as EffectFields;

const legality = {
  open: optional(abilities),
  bars: optional(abilitiesOrAll),
};

const perSecond = 'What comes back in each second is "regen", as in regen: 2.';
const afterCost = 'How long this rests after spending is "rest", as in rest: 1s.';

const pool = fields(
  'a pool',
  {
    ...likeFields('pool'),
    min: optional(formula('number')),
    max: required(formula('number'), 'its upper limit.'),
    start: optional(number(-1e6, 1e6)),
    regen: optional(formula('number')),
    rest: optional(time(0)),
    says,
    data: hostData,
    allow,
  },
  undefined,
  {
    ...ifLike,
    bare: '{ max: _ }',
    elsewhere: { refill: perSecond, recharge: perSecond, regeneration: perSecond, delay: afterCost },
  },
);

const input = kinds('an input', INPUTS, { data: hostData, allow }, { bare: '{ button: _ }', wayOf });

const bodyFields = {
  shapes: optional(map('new', list(number(0.01, 1000), { min: 2, max: 3 }), 1)),
  gravity: optional(number(0, 10_000)),
  fall: optional(number(0, 10_000)),
  walk: optional(
    fields(
      'walk',
      mapFields(walkShape.fields, () => number(0, 1e6)),
    ),
  ),
  stick: optional(name('stick')),
  slope: optional(number(0, 10)),
  step: optional(number(0, 1000)),
  meets: optional(word('pass', 'push', 'block')),
};
const body = fields('the body', bodyFields, undefined, { wayOf });

const share = formula('number', { percent: true, min: 0, max: 100 });
const inLimits = 'Put it in "limits", as in limits: { push: 12, stop: 6f }.';
const hurt = fields(
  'what hurts',
  {
    pool: optional(name('pool')),
    when: optional(condition()),
    factors: optional(map('kind', share)),
    damage: optional(formula('number', { min: 0, max: 1e6 })),
    limits: optional(fields('limits of a blow', { push: optional(number(0, 10_000)), stop: optional(time(0)) })),
    volumes: optional(map('shape', list(kinds('a hurt volume', STILL_VOLUMES, PLACED), { min: 1, max: 16 }))),
  },
  undefined,
  { elsewhere: { push: inLimits, stop: inLimits } },
);

const probe = kinds('a probe', PROBES);

const target = fields(
  'a target',
  {
    among: optional(word('foes', 'friends', 'all')),
    tagged: optional(listOrOne(text())),
    reach: optional(formula('number', { min: 0, max: 1e6 })),
    along: optional(headings),
    arc: optional(number(1, 360)),
    when: optional(condition()),
    least: optional(formula('number')),
  },
  undefined,
  { needs: { arc: { key: 'along', doc: 'the direction that is its middle.' } }, elsewhere: byTags },
);

const worded = fields('a condition', {
  when: required(condition(), 'the condition.'),
  says: required(text(), 'what a player reads where it does not hold.'),
});

const clip = optional(either({ plain: text(), fields: map('new', text(), 1) }));

const event = fields('an event', {
  values: optional(
    map('new', either({ plain: word(...VALUE_TYPES), list: list(newName, { min: 1, max: 64 }) }), 0, MOST_VALUES),
  ),
  hears: optional(word('own')),
  data: hostData,
});

const beat = fields(
  'a beat',
  {
    at: optional(time()),
    every: optional(time()),
    place: optional(number(0, 1)),
    moment: optional(word('begin', 'end')),
    gain: optional(map('pool', formula('number'))),
    emit: optional(emitShape),
    mark: optional(markShape),
  },
  ['at', 'every', 'place', 'moment'],
  { elsewhere: { on: 'At its beginning or end is "moment", as in moment: begin.' } },
);
const beats = optional(list(beat, { max: 64 }));

const stanceFields = {
  ...likeFields('stance'),
  when: optional(condition()),
  clip,
  beats,
  says,
  data: hostData,
  allow,
  ...effectFields(true),
};
const stance = fields('a stance', stanceFields, undefined, { ...ifLike, wayOf });

const charge = fields('a charge', {
  over: required(timeOrFormula(), 'how long it builds from 0 to 1.'),
  curve: optional(word('even', 'late', 'early', 'smooth')),
  levels: optional(map('new', number(0, 1))),
  full: optional(word('wait', 'go')),
  early: optional(word('release', 'cancel')),
  keep: optional(truth()),
});

const inPhase = 'Put it in a phase, as in phases: [{ for: 0.2s }].';
const inMove = 'Put it in "move", as in move: { up: 9 }.';
const moveFields = moveShape.fields;
const inAbility = 'It belongs to the ability, beside "phases".';

const phaseFields = {
  name: optional(newName),
  for: optional(timeOrFormula()),
  until: optional(conditions),
  when: optional(condition()),
  interrupt: optional(conditions),
  charge: optional(charge),
  beats,
  clip,
  ...effectFields(false),
  ...legality,
};

const start = kinds('a start', STARTS);

const loadout = fields('a loadout', {
  abilities: required(abilities, 'the abilities or tags that belong to it; what is in no loadout is always available.'),
  clip,
  beats,
  says,
  data: hostData,
  ...effectFields(true),
});

const abilityFields = {
  ...likeFields('ability'),
  lane: optional(name('lane')),
  start: required(either({ list: list(start, { min: 1 }), fields: start }), 'how it is requested.'),
  from: optional(listOrOne(name('stance', 'tag'))),
  follows: optional(
    either({ plain: listOrOne(name('ability')), list: list(name('ability')), fields: map('ability', timeOrFormula()) }),
  ),
  when: optional(conditions),
  grace: optional(time(0)),
  buffer: optional(time(0)),
  cost: optional(map('pool', formula('number', { min: 0 }))),
  pay: optional(text()),
  refund: optional(formula('number', { percent: true, share: true, min: 0, max: 1 })),
  interrupt: optional(conditions),
  locked: optional(truth()),
  marks: optional(list(newName, { max: 32 })),
  loadout: optional(name('loadout')),
  clip,
  beats,
  says,
  data: hostData,
  allow,
  upkeep: optional(
    map(
      'pool',
      either({
        plain: formula('number', { min: 0, max: 1e6 }),
        fields: fields('an upkeep', {
          rate: required(formula('number', { min: 0, max: 1e6 }), 'how much it drains per second.'),
          restart: optional(number(0, 1e6)),
        }),
      }),
    ),
  ),
  cooldown: optional(
    either({
      plain: timeOrFormula(0),
      fields: fields('a cooldown', {
        for: required(timeOrFormula(0), 'how long.'),
        from: optional({ ...name('event'), words: ['start', 'end'], meaning: 'moment of an ability' }),
        less: optional(map('event', timeOrFormula())),
        group: optional(text(NAME, 'a name')),
      }),
    }),
  ),
  charges: optional(
    fields(
      'charges',
      {
        max: required(formula('number', { min: 1, max: 99, whole: true }), 'how many uses.'),
        every: optional(timeOrFormula()),
        refill: optional(condition()),
      },
      ['every', 'refill'],
      { bare: '{ max: _, every: 3s }' },
    ),
  ),
  breaks: optional(abilitiesOrAll),
  end: optional(conditions),
  ...effectFields(false),
  ...legality,
};
const phase = fields('a phase', phaseFields, undefined, {
  wayOf,
  elsewhere: { ...missing(moveFields, phaseFields, inMove), ...missing(abilityFields, phaseFields, inAbility) },
});
const ability = fields(
  'an ability',
  { ...abilityFields, phases: optional({ ...list(phase, { min: 1, max: 64 }), named: true }) },
  undefined,
  {
    ...ifLike,
    wayOf,
    elsewhere: { ...missing(moveFields, abilityFields, inMove), ...missing(phaseFields, abilityFields, inPhase) },
  },
);

const lane = fields('a lane', { waits: optional(word('all', 'last', 'turn')) }, undefined, { bare: '{ waits: _ }' });

const movesetFields = {
  $schema: optional(text()),
  loggia: required(word(FORMAT), `the format; write "loggia: ${FORMAT}".`),
  name: required(text(), 'who it is.'),
  rate: optional(number(10, 240, true)),
  view: optional(word('side', 'open')),
  pools: optional(map('new', pool)),
  inputs: optional(map('new', input)),
  events: optional(either({ list: list(newName, { max: 256 }), fields: map('new', event) })),
  kinds: optional(list(newName, { max: 30 })),
  hurt: optional(hurt),
  summons: optional(list(newName, { max: 64 })),
  tags: optional(listOrOne(newName)),
  places: optional(list(newName, { max: 1000 })),
  surfaces: optional(list(newName, { max: 30 })),
  marks: optional(map('new', fields('a mark', { saved: optional(truth()) }))),
  probes: optional(map('new', probe)),
  targets: optional(map('new', target, 0, 8)),
  conditions: optional(map('new', either({ plain: condition(), fields: worded }))),
  body: optional(body),
  lanes: optional(either({ list: list(newName, { min: 1, max: 16 }), fields: { ...map('new', lane, 1), max: 16 } })),
  stances: required(
    map('new', stance, 1),
    'what the body is doing by itself: the first whose `when` holds; the last has no `when`.',
  ),
  abilities: optional(map('new', ability)),
  loadouts: optional(map('new', loadout)),
  clips: optional(
    map('new', either({ plain: time(), fields: fields('a clip', { for: optional(time()), data: hostData }) })),
  ),
  renamed: optional(map('new', newName)),
  part: optional(truth()),
  include: optional(listOrOne(text())),
  without: optional(listOrOne(text())),
  allow,
};

/*
 * Parts of a moveset as `read` gives them: what is not there, or was faulty, is undefined.
 */
export type ParsedPool = Read<typeof pool>;
export type ParsedProbe = Read<typeof probe>;
export type ParsedTarget = Read<typeof target>;
export type ParsedHurt = Read<typeof hurt>;
export type ParsedBeat = Read<typeof beat>;
export type ParsedStart = Read<typeof start>;
export type ParsedPhase = Read<typeof phase>;
export type ParsedAbility = Read<typeof ability>;
export type ParsedLoadout = Read<typeof loadout>;
export type ParsedMoveset = ReadFields<typeof movesetFields>;
/** What a stance, a loadout, an ability or a phase has, or a beat does. */
export type ParsedScope = ReadFields<EffectFields & typeof legality & { clip: typeof clip; beats: typeof beats }>;

/** What may be like another one of its kind. */
export const LIKE_SHAPES: Readonly<Record<string, Shape>> = { pools: pool, stances: stance, abilities: ability };

/** The whole of a moveset. */
export const MOVESET = fields('a moveset', movesetFields, undefined, {
  wayOf,
  needs: { without: { key: 'include', doc: 'the files that it takes from.' } },
});

/** A part of a moveset, to be included: it need not have what a whole one needs. */
export const PART: FieldsShape = { ...MOVESET, fields: mapShapes(movesetFields) };

/** The fields that declare names by a list: what an including file and the included ones declare is united. */
export const DECLARING: readonly string[] = Object.entries(movesetFields).flatMap(
  ([key, { shape }]: [string, Field]) => {
    const named = shape.kind === 'either' ? shape.list : shape;
    return named?.kind === 'list' && named.of === newName ? [key] : [];
  },
);

/** A hint for each key that `others` have and `own` lack. */
function missing(others: object, own: object, hint: string): Record<string, string> {
  return Object.fromEntries(Object.keys(others).flatMap((key) => (key in own ? [] : [[key, hint]])));
}

function mapShapes(all: Readonly<Record<string, Field>>): Record<string, Field> {
  return Object.fromEntries(Object.entries(all).map(([key, { shape }]) => [key, { shape }]));
}

function mapFields<K extends string, S extends Shape>(all: Readonly<Record<K, Field>>, shape: () => S) {
  return Object.fromEntries(Object.keys(all).map((key) => [key, optional(shape())])) as Record<K, Field<S>>;
}
