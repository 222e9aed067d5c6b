import { OPPONENT } from '../arena/opponent.js';
import { FORMAT } from '../moveset/schema.js';
import {
  condition,
  either,
  fields,
  formula,
  kinds,
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
  type Whole,
  word,
} from '../moveset/shape.js';
import { ENDINGS } from '../report/events.js';
import { REASONS } from '../report/reasons.js';

const coordinates = list(number(-10_000, 10_000), { min: 2, max: 3 });

const oneWay = optional(truth(), 'Of a box: stops only what comes down on it. Default false.');
const block = kinds(
  'a block',
  [
    {
      key: 'from',
      fields: {
        from: optional(coordinates, 'A corner of a box; with `radius`, an end of a capsule.'),
        to: optional(coordinates, 'The opposite corner, or the other end.'),
        radius: optional(number(0.001, 1000), 'With `from`: of a capsule.'),
        oneWay,
      },
    },
    {
      key: 'at',
      fields: {
        at: optional(coordinates, 'The middle of a box that may be turned.'),
        size: optional(
          list(number(0.001, 10_000), { min: 2, max: 3 }),
          'With `at`: lengths of its sides. Without a depth, it is as deep as anything.',
        ),
        turn: optional(
          list(number(-1, 1), { min: 4, max: 4 }),
          'With `at`: a unit quaternion [x, y, z, w]. Default: not turned.',
        ),
        oneWay,
      },
    },
  ],
  {
    tags: optional(listOrOne(text()), 'Surfaces of the moveset that it has.'),
    area: optional(truth(), 'Nothing solid: only probes that ask for its tags find it. Default false.'),
    path: optional(
      fields('a path', {
        points: required(
          list(
            fields('a point of a path', {
              at: required(time(0), 'when.'),
              to: required(coordinates, 'how far it is then from where it is declared.'),
              turn: optional(
                number(-36_000, 36_000),
                'How far it is turned by then, in degrees; only of boxes by `at` and `size` without a `turn` of their own. Default 0.',
              ),
            }),
            { min: 1, max: 100 },
          ),
          'places in the order of their times, at even pace from each to the next.',
        ),
        after: optional(word('stay', 'again', 'back'), 'After the last point. Default stay.'),
        about: optional(
          word('z', 'y'),
          'The axis about which it turns: `z` as seen from the side (default), or the upright one, `y`.',
        ),
      }),
      'How it moves.',
    ),
  },
  { needs: { from: { key: 'to', doc: 'it goes with "from".' }, at: { key: 'size', doc: 'it goes with "at".' } } },
);

const of = optional(
  text(),
  'Which of the members it is about; by a name of `summons`, the last one that was called. Default: the first, whom `moveset` names.',
);
const plays = optional(
  either({ plain: text(), fields: OPPONENT }),
  'The opponent that plays it: a file, or what it does. Default: only the inputs here.',
);
const member = {
  facing: optional(word('left', 'right'), 'Default right.'),
  team: optional(text(), 'Its side. Default: none, so that all others are its foes.'),
  tags: optional(listOrOne(text()), 'Words by which strikes find it.'),
  pools: optional(map('new', number(-1e6, 1e6)), 'Values at the start.'),
  velocity: optional(coordinates, 'Velocity at the start.'),
  progress: optional(
    text(),
    'A file with what it has learnt and has at the start: progress that was saved, or another scenario, at the end of which that is saved of its first character.',
  ),
  plays,
};

const actions = {
  press: optional(listOrOne(name('button')), 'Presses these inputs.'),
  release: optional(listOrOne(name('button')), 'Releases these inputs.'),
  tap: optional(listOrOne(name('button')), 'Presses these inputs and releases them one tick later.'),
  hold: optional(listOrOne(name('button')), 'Presses these inputs and releases them after `for`, or never.'),
  mash: optional(name('button'), 'Taps this input several `times`, one press `every` so long.'),
  stick: optional(map('stick', coordinates), 'Pushes sticks to [x, y].'),
  aim: optional(map('aim', coordinates), 'Aims in these directions; [0, 0] aims nowhere.'),
  aimAt: optional(map('aim', coordinates), 'Aims at these points.'),
  camera: optional(coordinates, 'The camera looks this way over the ground: [x, z].'),
  face: optional(coordinates, 'The body turns this way: [x, z].'),
  mark: optional(map('mark', coordinates), 'Sets marks.'),
  teleport: optional(coordinates, 'Code puts the feet here.'),
  event: optional(
    either({
      plain: name('event'),
      fields: map('event', map('new', either({ plain: formula('value'), list: coordinates }))),
    }),
    'This event is received; with its values, as `{ rung: { loud: 3, long: 0.2s } }`.',
  ),
  request: optional(name('ability'), 'Code requests this ability.'),
  pool: optional(map('pool', number(-1e6, 1e6)), 'Sets pools.'),
  velocity: optional(coordinates, 'Sets the velocity.'),
  learn: optional(listOrOne(name('ability')), 'Learns these locked abilities.'),
  forget: optional(listOrOne(name('ability')), 'Forgets these abilities.'),
  loadout: optional(name('loadout'), 'Changes the loadout.'),
  reset: optional(name('ability'), 'Makes this ability ready: no cooldown, full charges.'),
  end: optional(name('ability'), 'Ends this ability.'),
  freeze: optional(time(), "Stops the character's own clock for this long: hitstop."),
};

const input = fields(
  'an input',
  {
    at: required(time(0), 'when, from the start of the run.'),
    of,
    for: optional(time(), 'With `hold`: how long.'),
    every: optional(time(2), 'With `mash`: how long between presses. Default 6f.'),
    times: optional(number(1, 1000, true), 'With `mash`: how often. Default 5.'),
    ...actions,
  },
  Object.keys(actions),
);

const expected = {
  of,
  at: optional(
    either({ plain: text(/^\s*(?:end|(?:\d+(?:\.\d+)?|\.\d+)\s*(?:s|ms|f))\s*$/, 'a time or "end"') }),
    'In this tick, or at the `end`: the last tick. Without any time, `started`, `ended`, `refused`, `event`, `landed`, `warped`, `takes` and `fell` may come in any tick of the run; all else is expected at the end.',
  ),
  from: optional(
    time(0),
    'In some tick from here on, up to `by`. Default, where `by`, `always` or `times` is given: the start.',
  ),
  by: optional(time(0), 'In some tick up to here. Default, where `from`, `always` or `times` is given: the end.'),
  always: optional(truth(), 'In every tick from `from` to `by`.'),
  times: optional(number(0, 1000, true), 'In exactly so many ticks from `from` to `by`; 0 for never.'),
  stance: optional(listOrOne(name('stance')), 'One of these stances holds. Without a time: at the end.'),
  running: optional(listOrOne(name('ability')), 'These abilities run. Without a time: at the end.'),
  idle: optional(listOrOne(name('lane')), 'Nothing runs in these lanes. Without a time: at the end.'),
  phase: optional(text(), 'The phase of what runs in some lane. Without a time: at the end.'),
  that: optional(listOrOne(condition()), 'These hold, as facts are after the tick. Without a time: at the end.'),
  started: optional(name('ability'), 'This ability starts. Without a time: in any tick.'),
  ended: optional(name('ability'), 'This ability ends. Without a time: in any tick.'),
  why: optional(word(...ENDINGS), 'With `ended`: why.'),
  refused: optional(name('ability'), 'A request for this ability is refused. Without a time: in any tick.'),
  because: optional(listOrOne(word(...REASONS)), 'With `refused`: exactly these reasons.'),
  event: optional(name('event'), 'This event is emitted. Without a time: in any tick.'),
  landed: optional(truth(), 'It lands. Without a time: in any tick.'),
  clip: optional(text(), 'This clip is shown. Without a time: at the end.'),
  facing: optional(word('left', 'right'), 'It faces this way. Without a time: at the end.'),
  shape: optional(name('shape'), 'It has this body shape. Without a time: at the end.'),
  height: optional(number(0, 1000), 'The body is this high. Without a time: at the end.'),
  place: optional(coordinates, 'The feet are at [x, y], as near as `within`. Without a time: at the end.'),
  within: optional(
    number(0, 10_000),
    'With `place`, `point` or `warped`: how far away is still near enough. Default 0.01.',
  ),
  point: optional(
    map('new', coordinates),
    'These marks, aims or hits of probes are at [x, y], as near as `within`. Without a time: at the end.',
  ),
  warped: optional(coordinates, 'A warp puts the feet at [x, y], as near as `within`. Without a time: in any tick.'),
  takes: optional(
    word('struck', 'armoured', 'blocked', 'parried', 'guardBroken', 'touched', 'clashed'),
    'This becomes of a blow that it takes, of a touch, or of its own strike in a clash. Without a time: in any tick.',
  ),
  damage: optional(number(0, 1e6), 'With `takes`: how much the blow hurts.'),
  stun: optional(time(0), 'With `takes`: how long the blow stuns.'),
  other: optional(text(), 'With `takes`: who strikes or touches, or the other one of a clash.'),
  members: optional(list(text()), 'Exactly these are in the arena, in this order. Without a time: at the end.'),
  fell: optional(truth(), 'It falls out of the world. Without a time: in any tick.'),
  charge: optional(
    map('ability', number(0, 1)),
    'The charges of abilities are these, 0 to 1. Without a time: at the end.',
  ),
};

/** Keys that say when, of whom or how exactly, and nothing by themselves. */
const DETAILS: readonly string[] = [
  'of',
  'at',
  'from',
  'by',
  'always',
  'times',
  'why',
  'because',
  'within',
  'damage',
  'stun',
  'other',
];

const expectation = fields('an expectation', expected, undefined, {
  some: {
    keys: Object.keys(expected).filter((key) => !DETAILS.includes(key)),
    doc: 'or another key that says what is expected.',
  },
});

/** The whole of a scenario. */
export const SCENARIO = fields('a scenario', {
  $schema: optional(text(), 'Where the JSON Schema of this format is, for editors.'),
  loggia: required(word(FORMAT), `the format; write "loggia: ${FORMAT}".`),
  scenario: required(text(), 'what it shows, in a sentence.'),
  moveset: required(text(), "the file of the moveset, relative to the scenario's."),
  world: required(
    fields(
      'a world',
      {
        rows: optional(
          list(text(), { min: 1, max: 1000 }),
          'The world as rows of text, the top one first; without them, it is made of `blocks`.',
        ),
        legend: optional(
          map(
            'new',
            fields('a tile', {
              letter: required(text(/^.$/, 'one letter'), 'the letter that stands for it.'),
              solid: optional(truth(), 'Default true. What is not solid and has tags is an area, such as a ladder.'),
              oneWay: optional(truth(), 'Stops only what comes down on it. Default false.'),
              slope: optional(
                list(number(0, 1), { min: 2, max: 2 }),
                'Height of its ground at its left and its right end: [0, 1] rises to the right. Default [1, 1].',
              ),
              tags: optional(listOrOne(text()), 'Surfaces of the moveset that it has.'),
            }),
          ),
          'Kinds of tiles by name, besides # (solid) and - (one-way).',
        ),
        size: optional(number(0.01, 1000), "Length of a tile's side. Default 1."),
        blocks: optional(
          list(block, { max: 1000 }),
          'Boxes, turned boxes and capsules in any place, some of which move.',
        ),
        places: optional(
          map('new', either({ plain: text(/^.$/, 'one letter'), list: coordinates })),
          'Where the places of the moveset are: a letter of the rows, or [x, y].',
        ),
        edges: optional(
          fields('edges', {
            sides: optional(word('wall', 'wrap'), 'A wall, or the way in at the other side. Default: it goes on.'),
            top: optional(word('wall'), 'A ceiling. Default: it goes on.'),
            bottom: optional(word('wall', 'fall'), 'A floor, or the end: the body falls out. Default: it goes on.'),
          }),
          'What happens at the edges of the rows.',
        ),
      },
      undefined,
      {
        some: { keys: ['rows', 'blocks'], doc: 'rows of text, or "blocks".' },
        bare: '{ rows: [_] }',
        needs: Object.fromEntries(
          ['legend', 'size', 'edges'].map((key) => [key, { key: 'rows', doc: 'it is about these.' }]),
        ),
      },
    ),
    'where it happens.',
  ),
  start: optional(
    fields('a start', {
      at: optional(
        either({ plain: text(/^.$/, 'one letter'), list: coordinates }),
        'A letter of the rows, or [x, y]. Default @.',
      ),
      ...member,
    }),
    'How the character begins.',
  ),
  others: optional(
    map(
      'new',
      fields('a member', {
        moveset: optional(text(), "The file of its moveset, relative to the scenario's. Default: that of the first."),
        at: required(
          either({ plain: text(/^.$/, 'one letter'), list: coordinates }),
          'a letter of the rows, or [x, y].',
        ),
        ...member,
      }),
    ),
    'Further characters and things, by their names.',
  ),
  summons: optional(map('new', text()), 'Files of the movesets of those who may be called, by the names of `summons`.'),
  run: required(time(), 'how long it runs.'),
  inputs: optional(list(input, { max: 1000 }), 'What comes in, and when.'),
  expect: required(list(expectation, { min: 1, max: 1000 }), 'what is expected of it.'),
});

/*
 * A scenario and its parts as they were read, once nothing in them is faulty.
 */
export type Scenario = Whole<typeof SCENARIO>;
export type Input = Whole<typeof input>;
export type Expectation = Whole<typeof expectation>;
export type Block = Whole<typeof block>;
