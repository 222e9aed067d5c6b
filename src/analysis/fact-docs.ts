import type { FactType } from '../compile/readings.js';
import type { Names } from '../moveset/read.js';

/** What formulas can read, by family: how it is written, what it gives, and what it is outside its time. */
export interface FactDoc {
  readonly family: string;
  /** With `{kind}` where a name stands. */
  readonly write: string;
  readonly gives: 'condition' | 'number' | 'time';
  readonly doc: string;
  /** Its value while there is nothing to tell. */
  readonly otherwise?: string;
}

const fact = (family: string, write: string, gives: FactDoc['gives'], doc: string, otherwise?: string): FactDoc => ({
  family,
  write,
  gives,
  doc,
  otherwise,
});

const body = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('The body', write, gives, doc, otherwise);
const input = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('Inputs', write, gives, doc, otherwise);
const pool = (write: string, doc: string) => fact('Pools', write, 'number', doc);
const ability = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('Abilities', write, gives, doc, otherwise);
/** In an ability that it has started: as it was then; elsewhere, as it came last. */
const message = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('Values of messages', write, gives, doc, otherwise);
/** Only where a moveset strikes or can be struck. */
const blow = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('Blows', write, gives, doc, otherwise);
/** As it was after the last tick. */
const foe = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('The nearest foe', write, gives, doc, otherwise);
const TAKEN = 'In `hurt` and in a guard: the blow that is being taken.';
const probe = (write: string, gives: FactDoc['gives'], doc: string, otherwise?: string) =>
  fact('Probes', write, gives, doc, otherwise);

/** Every family of facts; a test holds this list against the facts that there are. */
export const FACT_DOCS: readonly FactDoc[] = [
  body('grounded', 'condition', 'The feet stand on something.'),
  body('airborne', 'condition', 'The feet stand on nothing.'),
  body('landed', 'condition', 'The feet touched the ground in this tick.'),
  body('moving', 'condition', 'The level speed is above 0.05 per second.'),
  body('atWall', 'condition', 'The body touches a wall.'),
  body('atCeiling', 'condition', 'The body touches a ceiling.'),
  body('headroom', 'condition', 'The first body shape fits here.'),
  body('height', 'number', 'Height of the body as it is now.'),
  body('shape({shape})', 'condition', 'The body has this shape.'),
  body('x', 'number', 'Position of the feet.'),
  body('y', 'number', 'Position of the feet, upwards.'),
  body('z', 'number', 'Position of the feet; 0 seen from the side.'),
  body('vx', 'number', 'Velocity per second.'),
  body('vy', 'number', 'Velocity per second, upwards.'),
  body('vz', 'number', 'Velocity per second.'),
  body('speed', 'number', 'Level speed per second.'),
  body('facing', 'number', '1 or -1 seen from the side; in the open view the same as `facing.x`.'),
  body('facing.x', 'number', 'Facing, a unit vector.'),
  body('facing.z', 'number', 'Facing, a unit vector; 0 seen from the side.'),
  body('gravity', 'number', 'Downward acceleration now, per second squared.'),
  body('steer', 'number', 'How much the stick steers now, 0 to 1.'),
  body('ground.normal.x', 'number', 'Normal of the ground.', '0 in the air'),
  body('ground.normal.y', 'number', 'Normal of the ground.', '1 in the air'),
  body('ground.normal.z', 'number', 'Normal of the ground.', '0 in the air'),
  body('ground.vx', 'number', 'Velocity of what the feet stand on, per second.', '0 in the air'),
  body('ground.vy', 'number', 'Velocity of what the feet stand on, per second.', '0 in the air'),
  body('ground.vz', 'number', 'Velocity of what the feet stand on, per second.', '0 in the air'),
  body('ground.on({surface})', 'condition', 'The feet stand on this surface.'),
  body('ground.time', 'time', 'How long the feet have stood on something.', '0s in the air'),
  body('air.time', 'time', 'How long the feet have stood on nothing.', '0s on the ground'),
  fact('Stances', 'stance.time', 'time', 'How long the present stance has lasted.'),
  fact('Stances', 'in({stance})', 'condition', 'This is the present stance.'),
  fact('Stances', 'tagged({tag})', 'condition', 'A stance, loadout, ability or phase with this tag is active.'),
  input('held({button})', 'condition', 'The input is held.'),
  input('pressed({button})', 'condition', 'The input was pressed in this tick.'),
  input('released({button})', 'condition', 'The input was released in this tick.'),
  input('heldFor({button})', 'time', 'How long the input has been held.', '0s while it is not held'),
  input('{stick}.x', 'number', 'The stick, -1 (left) to 1 (right).'),
  input('{stick}.y', 'number', 'The stick, -1 (down) to 1 (up).'),
  input('{stick}.amount', 'number', 'How far the stick is pushed, 0 to 1.'),
  input('known({aim})', 'condition', 'The aim is given: a direction or a point.'),
  input('{aim}.x', 'number', 'The aim: a unit direction, or a point.', '0 while it is not given'),
  input('{aim}.y', 'number', 'The aim: a unit direction, or a point.', '0 while it is not given'),
  input('{aim}.z', 'number', 'The aim: a unit direction, or a point.', '0 while it is not given'),
  input('chosen({choice}.{option})', 'condition', 'This option is chosen.'),
  fact('Marks', 'known({mark})', 'condition', 'The mark is set.'),
  fact(
    'Marks',
    'ahead({point})',
    'condition',
    'A mark, the point of an aim, the hit of a probe, a point of a message or the nearest foe is on the side that the body faces.',
    'not so while there is none',
  ),
  fact('Marks', '{mark}.x', 'number', 'Where the mark is.', '0 while it is not set'),
  fact('Marks', '{mark}.y', 'number', 'Where the mark is.', '0 while it is not set'),
  fact('Marks', '{mark}.z', 'number', 'Where the mark is.', '0 while it is not set'),
  fact(
    'Marks',
    'distance({mark})',
    'number',
    'From the middle of the body to the mark.',
    'a million while it is not set',
  ),
  pool('pool.{pool}', 'The amount in the pool.'),
  pool('pool.{pool}.max', 'The upper limit of the pool.'),
  pool('pool.{pool}.min', 'The lower limit of the pool.'),
  ability('running({ability})', 'condition', 'The ability is running.'),
  ability('phase({ability}.{phase})', 'condition', 'The ability is running, and in the phase of this name.'),
  ability('timeIn({ability})', 'time', 'How long the ability has been running.', '0s while it is not running'),
  ability('since({ability})', 'time', 'Time since the ability last ended.', 'infinite before its first end'),
  ability(
    'cooldown({ability})',
    'time',
    'How long until the cooldown is over.',
    '0s without one; infinite while it waits for its event',
  ),
  ability(
    'charge({ability})',
    'number',
    'The charge, 0 to 1, kept until the next start; 0 at once when interrupted.',
    '0 without a charge',
  ),
  ability('charge', 'number', 'Inside an ability: its own charge.'),
  ability('level({ability}.{level})', 'condition', 'The charge has reached this level.'),
  ability('level({level})', 'condition', 'Inside an ability: its own charge has reached this level.'),
  ability('charges({ability})', 'number', 'Uses that are left.', '0 without `charges`'),
  ability('latched({ability})', 'condition', 'The toggle of the ability is latched.'),
  fact('Conditions', '{condition}', 'condition', 'A condition that the moveset names.'),
  fact('Events', 'event({event})', 'condition', 'The event was received in this tick.'),
  fact('Loadouts', 'wearing({loadout})', 'condition', 'This is the active loadout.'),
  probe('{probe}.hit', 'condition', 'The probe hits something.'),
  probe('{probe}.distance', 'number', 'Distance to what it hits.', 'its reach on a miss'),
  probe('{probe}.x', 'number', 'Where it hits.', 'the end of the ray on a miss'),
  probe('{probe}.y', 'number', 'Where it hits.', 'the end of the ray on a miss'),
  probe('{probe}.z', 'number', 'Where it hits.', 'the end of the ray on a miss'),
  probe('{probe}.on({surface})', 'condition', 'What it hits has this surface.'),
  probe('{probe}.vx', 'number', 'Velocity of what it hits, per second.', '0 on a miss'),
  probe('{probe}.vy', 'number', 'Velocity of what it hits, per second.', '0 on a miss'),
  probe('{probe}.vz', 'number', 'Velocity of what it hits, per second.', '0 on a miss'),
  probe('{probe}.normal.x', 'number', 'Normal of what it hits.', '0 on a miss'),
  probe('{probe}.normal.y', 'number', 'Normal of what it hits.', '0 on a miss'),
  probe('{probe}.normal.z', 'number', 'Normal of what it hits.', '0 on a miss'),
  blow('summoned({summon})', 'number', 'How many of those that it called are in the arena.'),
  foe('foe.there', 'condition', 'There is a foe in the arena.'),
  foe('foe.distance', 'number', 'From the middle of the body to that of the nearest foe.', 'a million without one'),
  ...['x', 'y', 'z'].map((axis) => foe(`foe.${axis}`, 'number', 'The middle of the nearest foe.', '0 without one')),
  foe('foe.striking', 'condition', 'The nearest foe performs an ability that strikes.'),
  foe('foe.guarding', 'condition', 'The nearest foe has its guard up.'),
  foe('foe.stunned', 'condition', 'The nearest foe is stunned by a blow.'),
  foe('foe.airborne', 'condition', 'The nearest foe is in the air.'),
  blow('hitsTaken', 'number', 'How many blows have struck it while it was stunned by one, the first included.', '0'),
  blow(
    'hit({ability})',
    'condition',
    'A strike of the ability has hit since its last start; so has one that broke a guard.',
  ),
  blow('blocked({ability})', 'condition', 'A guard took a strike of the ability since its last start.'),
  blow('parried({ability})', 'condition', 'A strike of the ability was parried since its last start.'),
  blow(
    'missed({ability})',
    'condition',
    'A strike of the ability is over, and none has met anybody since its last start.',
  ),
  blow('blow.damage', 'number', TAKEN),
  blow('blow.stun', 'time', TAKEN),
  blow('blow.kind({kind})', 'condition', TAKEN),
  ...['push', 'from', 'at'].flatMap((value) =>
    ['x', 'y', 'z'].map((axis) => blow(`blow.${value}.${axis}`, 'number', TAKEN)),
  ),
  message('{event}.{value}', 'number', 'A number that the message carries.', '0 before the first'),
  message('{event}.{value}', 'time', 'A time that the message carries.', '0s before the first'),
  message('{event}.{value}({word})', 'condition', 'The word that the message carries is this one.'),
  message('{event}.{value}.x', 'number', 'A point or a direction that the message carries.', '0 before the first'),
  message('{event}.{value}.y', 'number', 'A point or a direction that the message carries.', '0 before the first'),
  message('{event}.{value}.z', 'number', 'A point or a direction that the message carries.', '0 before the first'),
];

/** Functions of formulas. */
export const FUNCTION_DOCS: Readonly<Record<string, string>> = {
  'abs(n)': 'Without its sign.',
  'floor(n)': 'Rounded down.',
  'ceil(n)': 'Rounded up.',
  'round(n)': 'Rounded to the nearest whole number.',
  'sign(n)': '1, 0 or -1.',
  'sqrt(n)': 'The square root; 0 of a negative number.',
  'min(a, b)': 'The smaller one.',
  'max(a, b)': 'The larger one.',
  'clamp(n, low, high)': 'Brought within the limits.',
  'pick(condition, yes, no)': 'One of two numbers, by a condition.',
};

/** Every fact of a moveset, by the key it has in formulas, with its documentation. */
export function documentFacts(
  names: Names,
  facts: readonly string[],
  typeOf: (fact: string) => FactType | undefined = () => undefined,
): { key: string; doc: FactDoc | undefined }[] {
  const known = new Map(Object.entries(names).map(([kind, list]) => [kind, new Set(list)]));
  const patterns = FACT_DOCS.map((doc) => ({ doc, ...patternOf(doc.write) }));
  const fits = (key: string, { pattern, kinds }: ReturnType<typeof patternOf>) => {
    const parts = pattern.exec(key)?.slice(1);
    return parts?.every((name, i) => known.get(kinds[i])?.has(name) ?? true) ?? false;
  };
  return facts.map((key) => {
    const type = typeOf(key);
    const gives = type === 'truth' ? 'condition' : type;
    const suits = patterns.filter((pattern) => fits(key, pattern)).map(({ doc }) => doc);
    return { key, doc: suits.find((doc) => doc.gives === gives) ?? suits[0] };
  });
}

/** What keys of a family look like, and the kinds of the names in them. */
function patternOf(write: string): { pattern: RegExp; kinds: string[] } {
  const kinds = [...write.matchAll(/\{(\w+)\}/g)].map(([, kind]) => kind);
  const text = write
    .replace(/[.()]/g, '\\$&')
    .replaceAll('{button}', '([\\w.]+)')
    .replaceAll('{point}', '([\\w.]+)')
    .replace(/\{\w+\}/g, '(\\w+)');
  return { pattern: new RegExp(`^${text}$`), kinds };
}
