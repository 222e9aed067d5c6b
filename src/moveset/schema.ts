import { EFFECTS } from './effects/index.js';
import { walkShape } from './effects/walk.js';
import {
  condition,
  either,
  type Field,
  fields,
  formula,
  list,
  listOrOne,
  map,
  name,
  number,
  optional,
  required,
  text,
  time,
  truth,
  word,
} from './shape.js';
import { SOURCES } from './sources.js';
import { STARTS } from './starts/index.js';

/** The format that this version reads and writes. */
export const FORMAT = 1;

const source = listOrOne({ ...word(...SOURCES), what: 'key or button' });
const conditions = listOrOne(condition());
const newName = text(/^[A-Za-z]\w{0,63}$/, 'a name: letters, digits and underscores');
const vector = list(number(-10_000, 10_000), { min: 2, max: 3 });
const others = listOrOne(name('ability', 'tag'));

/** Warnings that are meant to be so, each with the reason. */
const allow: Field = optional(
  map('code', text()),
  'Warnings that are right here: their code, and why they are allowed.',
);

const effectFields = (stance: boolean): Record<string, Field> =>
  Object.fromEntries(EFFECTS.filter((e) => e.inStances || !stance).map((e) => [e.key, optional(e.shape, e.doc)]));

const legality: Record<string, Field> = {
  open: optional(others, 'Abilities or tags that may follow into this lane while it lasts.'),
  bars: optional(others, 'Abilities or tags that may not start, in any lane, while it lasts.'),
};

const pool = fields('a pool', {
  min: optional(formula('number'), 'Lower limit. Default 0.'),
  max: required(formula('number'), 'its upper limit.'),
  start: optional(number(-1e6, 1e6), 'Value at birth. Default: the upper limit.'),
  regen: optional(formula('number'), 'Regained per second. Default 0.'),
  rest: optional(time(0), 'How long regeneration rests after spending. Default 0f.'),
  allow,
});

const stick = fields('a stick', {
  left: optional(source, 'Keys or buttons that push it left.'),
  right: optional(source, 'Keys or buttons that push it right.'),
  up: optional(source, 'Keys or buttons that push it up.'),
  down: optional(source, 'Keys or buttons that push it down.'),
  pad: optional(word('left', 'right'), 'A stick of the gamepad.'),
});

const input = fields(
  'an input',
  {
    button: optional(source, 'A button: what it is bound to by default; `[]` binds nothing.'),
    stick: optional(stick, 'A stick: what it is bound to by default.'),
    buffer: optional(time(0), 'How long a press too early is kept. Default 0f.'),
    grace: optional(time(0), 'Grace of abilities that it starts, unless they say otherwise. Default 0f.'),
    allow,
    deadzone: optional(number(0, 0.9), 'Radius in which a stick rests. Default 0.2.'),
    opposite: optional(word('last', 'neutral'), 'What two opposite sides held at once give. Default last.'),
  },
  ['button', 'stick'],
);

const body = fields('the body', {
  shapes: optional(
    map('new', list(number(0.01, 1000), { min: 2, max: 3 })),
    'Width and height (and depth) by name; the first is the usual one. Default tall: [0.6, 1.8].',
  ),
  gravity: optional(number(0, 10_000), 'Downward acceleration, per second squared. Default 25.'),
  fall: optional(number(0, 10_000), 'Fastest fall, per second. Default 20.'),
  walk: optional(
    fields(
      'walk',
      mapFields(walkShape.fields, () => number(0, 1e6)),
    ),
    'Speed (5), acceleration (60) and braking (60) by the stick.',
  ),
  stick: optional(name('stick'), 'The stick that walks. Default: the first one.'),
});

const probe = fields('a probe', {
  ray: required(vector, 'where it looks and how far: [x along facing, y up], and z in the open view.'),
  at: optional(vector, 'Where it begins, from the middle of the feet. Default [0, 0].'),
  on: optional(listOrOne(text()), 'Only surfaces with one of these tags count. Default: any.'),
});

const clip: Field = optional(text(), 'The animation clip to show while it lasts.');

const stance = fields('a stance', {
  when: optional(condition(), 'When it holds; the last stance has none.'),
  clip,
  allow,
  ...effectFields(true),
});

const beat = fields(
  'a beat',
  {
    at: optional(time(), 'So long after the phase begins.'),
    every: optional(time(), 'Again and again after so long, also as the phase is over.'),
    gain: optional(map('pool', formula('number')), 'Adds to pools.'),
    emit: optional(listOrOne(name('event')), 'Tells the host of these events.'),
  },
  ['at', 'every'],
);

const charge = fields('a charge', {
  over: required(time(), 'how long it builds from 0 to 1.'),
  curve: optional(
    word('even', 'late', 'early', 'smooth'),
    'How it builds: even, slowly at first, quickly at first, or smoothly. Default even.',
  ),
  levels: optional(map('new', number(0, 1)), 'Names for what is reached: from which charge on.'),
  full: optional(word('wait', 'go'), 'At full it waits to be let go, or goes on by itself. Default wait.'),
  early: optional(word('release', 'cancel'), 'Let go before full it goes on, or is interrupted. Default release.'),
});

const phase = fields('a phase', {
  name: optional(newName, 'windup, active, recovery, charge, or a name of your own.'),
  for: optional(time(), 'How long it lasts.'),
  until: optional(conditions, 'It is over when any of these holds.'),
  when: optional(condition(), 'Skipped unless this holds as it would begin.'),
  interrupt: optional(conditions, 'The ability is interrupted when any of these holds.'),
  charge: optional(charge, 'Builds a charge of power until the input that started it is let go.'),
  beats: optional(list(beat, { max: 64 }), 'Deeds at certain ticks of the phase.'),
  clip,
  ...effectFields(false),
  ...legality,
});

const start = fields(
  'a start',
  Object.assign({}, ...STARTS.map((kind) => kind.fields)),
  STARTS.map((kind) => kind.key),
);

const loadout = fields('a loadout', {
  abilities: required(others, 'the abilities or tags that come with it; what is in no loadout is always there.'),
  clip,
  ...effectFields(true),
});

const ability = fields('an ability', {
  lane: optional(name('lane'), 'The lane it runs in. Default: the first.'),
  start: required(either({ list: list(start, { min: 1 }), fields: start }), 'how it is asked for.'),
  from: optional(listOrOne(name('stance', 'tag')), 'Stances or tags it may start in. Default: any.'),
  follows: optional(
    either({ plain: listOrOne(name('ability')), list: list(name('ability')), fields: map('ability', time()) }),
    'Abilities it must come out of; with a time, also that long after their end.',
  ),
  when: optional(conditions, 'Must all hold for it to start.'),
  grace: optional(time(0), 'How long after `from` and `when` last held it may still start. Default 0f.'),
  buffer: optional(time(0), "How long its request is kept. Default: the input's."),
  cost: optional(map('pool', formula('number', { min: 0 })), 'Paid at its start, all or nothing.'),
  pay: optional(text(), 'The phase at whose beginning the cost is paid, instead of the start.'),
  refund: optional(
    formula('number', { percent: true, min: 0, max: 1 }),
    'Share of the cost that comes back when it is interrupted, broken or let go, like 50%. Default 0%.',
  ),
  interrupt: optional(conditions, 'It is interrupted when any of these holds.'),
  locked: optional(truth(), 'Not there until it is learnt. Default false.'),
  loadout: optional(name('loadout'), 'The loadout worn while it lasts.'),
  clip,
  allow,
  upkeep: optional(
    map(
      'pool',
      either({
        plain: number(0, 1e6),
        fields: fields('an upkeep', {
          rate: required(number(0, 1e6), 'how much it drains per second.'),
          restart: optional(number(0, 1e6), 'How much is needed again after it ran dry.'),
        }),
      }),
    ),
    'Drained per second while it runs; it ends when one runs dry.',
  ),
  cooldown: optional(
    either({
      plain: time(0),
      fields: fields('a cooldown', {
        for: required(time(0), 'how long.'),
        from: optional(
          { ...name('event'), words: ['start', 'end'] },
          'Counted from its start, its end (the default), or from an event that comes after its start.',
        ),
        group: optional(text(/^[A-Za-z]\w{0,63}$/, 'a name'), 'Shared with all abilities of this group.'),
      }),
    }),
    'How long it may not start again, counted from its end.',
  ),
  charges: optional(
    fields(
      'charges',
      {
        max: required(number(1, 99, true), 'how many uses.'),
        every: optional(time(), 'One comes back after each such time.'),
        refill: optional(condition(), 'All come back when this holds.'),
      },
      ['every', 'refill'],
    ),
    'Limited uses that come back.',
  ),
  breaks: optional(others, 'Abilities or tags that it interrupts, in any lane, whatever they say.'),
  phases: optional(list(phase, { min: 1, max: 64 }), 'Its parts, in order.'),
  end: optional(conditions, 'It ends when any of these holds.'),
  ...effectFields(false),
  ...legality,
});

/** The whole of a moveset. */
export const MOVESET = fields('a moveset', {
  loggia: required(word(FORMAT), `the format, ${FORMAT}.`),
  name: required(text(), 'who it is.'),
  rate: optional(number(10, 240, true), 'Ticks per second. Default 60.'),
  view: optional(word('side', 'open'), 'Seen from the side, or in the open with a camera. Default side.'),
  pools: optional(map('new', pool), 'Numbers with limits that are spent and regained.'),
  inputs: optional(map('new', input), 'Named buttons and sticks.'),
  events: optional(list(newName, { max: 256 }), 'Names of events that come in from the host or go out to it.'),
  probes: optional(map('new', probe), 'Named questions to the world.'),
  body: optional(body, 'Its shapes and how it falls and walks.'),
  lanes: optional(list(newName, { min: 1, max: 16 }), 'What it can be doing side by side. Default [body].'),
  stances: required(map('new', stance), 'what the body is doing by itself; the last has no `when`.'),
  abilities: optional(map('new', ability), 'What it can do.'),
  loadouts: optional(map('new', loadout), 'Sets of abilities, a weapon or a form; the first is worn at birth.'),
  include: optional(listOrOne(text()), 'Files, from here, whose parts this one takes over and may override.'),
  allow,
});

function mapFields(all: Readonly<Record<string, Field>>, shape: () => Field['shape']): Record<string, Field> {
  return Object.fromEntries(Object.entries(all).map(([key, { doc }]) => [key, optional(shape(), doc)]));
}
