import { expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';

const WRONG = `loggia: 1
name: Pell
pools: { wind: { max: 10, regen: 5 } }
events: [go]
inputs:
  jump: { button: Space }
  hop: { button: Space }
  idle: { button: [] }
stances: { never: { when: false }, stand: { when: grounded }, fall: {} }
abilities:
  a: { start: { press: jump }, cost: { wind: 11 }, phases: [{ for: 5f }] }
  b: { start: { press: jump }, from: never, phases: [{ for: 5f }] }
  c: { start: { press: hop }, when: grounded and airborne, phases: [{ for: 5f }] }
  d: { start: { press: hop }, when: pool.wind > 10, phases: [{ for: 5f }] }
  e: { start: { hold: hop }, upkeep: { wind: 4 } }
  f: { start: { press: hop }, cooldown: { for: 3f, from: start }, phases: [{ for: 0.21s }] }
  g: { start: { press: hop }, phases: [{ for: 5f }] }
  h: { start: { event: go }, phases: [{ charge: { over: 1s } }, { for: 1f }] }
  i: { start: { press: hop }, follows: g, phases: [{ for: 3f }] }
  j: { start: { code: only }, loadout: bare, phases: [{ for: 3f }] }
loadouts: { full: { abilities: j }, bare: { abilities: [] } }
`;

const told = (text: string) => parseMoveset(text).diagnostics.map((d) => `${d.line} ${d.severity} ${d.code}`);

test('check knows what people get wrong, and calls it a warning', () => {
  expect(parseMoveset(WRONG).plan).toBeDefined();
  expect(told(WRONG)).toEqual([
    '7 warning bound-twice',
    '8 warning unread-input',
    '8 warning unbound-input',
    '11 warning no-start',
    '12 warning no-start',
    '13 warning no-start',
    '14 warning no-start',
    '15 warning no-drain',
    '16 warning short-cooldown',
    '16 warning time-rounded',
    '18 warning no-release',
    '19 warning no-follow',
    '20 warning lost-loadout',
  ]);
});

test('one key for two inputs is fine where they belong to different loadouts', () => {
  const forms = `loggia: 1
name: Pell
inputs: { lamp: { button: KeyQ }, wing: { button: KeyQ } }
stances: { s: {} }
abilities:
  glow: { start: { hold: lamp } }
  soar: { start: { hold: wing } }
loadouts: { lantern: { abilities: glow }, gull: { abilities: soar } }
`;
  expect(told(forms)).toEqual([]);
  expect(told(forms.replace('abilities: soar', 'abilities: [soar, glow]'))).toEqual(['3 warning bound-twice']);
});

test('a warning can be allowed at its place, with a reason; an error cannot', () => {
  const allowed = WRONG.replace(
    'idle: { button: []',
    'idle: { allow: { unbound-input: set by the tutorial }, button: []',
  )
    .replace('b: {', 'b: { allow: { no-start: later, same-press: later },')
    .concat('allow: { bound-twice: one key for both }\n');
  expect(told(allowed)).not.toContain('7 warning bound-twice');
  expect(told(allowed)).not.toContain('8 warning unbound-input');
  expect(told(allowed).filter((line) => line.startsWith('12'))).toEqual([]);
  expect(told(allowed)).toContain('8 warning unread-input');
  expect(told(`${WRONG}allow: { never-startz: hm }\n`)).toContain('22 error unknown-name');
  const endless = 'abilities: { a: { start: { code: only }, allow: { never-ends: I know } } }';
  expect(told(`loggia: 1\nname: x\nstances: { s: {} }\n${endless}`)).toEqual(['4 error never-ends']);
});

const HEAD = `loggia: 1
name: Pell
pools: { wind: { max: 9 } }
events: [ring]
inputs: { move: { stick: { left: KeyA } }, jump: { button: Space } }
stances: { stand: { when: grounded, tags: floor }, fall: { tags: air } }
abilities:
`;
const HOP = '  hop: { start: { press: jump }, phases: [{ for: 9f }] }\n';
const LATER = '  later: { start: { press: jump }, phases: [{ for: 9f }] }\n';

/** Codes of the warnings that some abilities give, without those about inputs. */
function warnings(abilities: string, head = HEAD): string[] {
  const { diagnostics } = parseMoveset(head + abilities);
  return diagnostics.map((d) => d.code).filter((code) => code !== 'unread-input');
}

test.each([
  ['the same start twice', HOP + LATER, ['same-press']],
  ['the second only in some stances', HOP + LATER.replace('}, p', '}, from: air, p'), ['same-press']],
  ['the second with one condition more', HOP + LATER.replace('}, p', '}, when: vx > 1, p'), ['same-press']],
  ['the first only in some stances', HOP.replace('}, p', '}, from: air, p') + LATER, []],
  ['the first with a condition', HOP.replace('}, p', '}, when: vx > 1, p') + LATER, []],
  ['the first at a cost', HOP.replace('}, p', '}, cost: { wind: 1 }, p') + LATER, []],
  ['the first with a cooldown', HOP.replace('}, p', '}, cooldown: 9f, p') + LATER, []],
  ['the first with charges', HOP.replace('}, p', '}, charges: { max: 1, refill: landed }, p') + LATER, []],
  ['the first locked', HOP.replace('}, p', '}, locked: true, p') + LATER, []],
  [
    'the second where one of two things holds',
    HOP.replace('}, p', '}, when: grounded, p') + LATER.replace('}, p', '}, when: vx > 1 or vy > 1 and grounded, p'),
    [],
  ],
  [
    'the first in another loadout',
    `${HOP}${LATER}loadouts: { rigger: { abilities: hop }, diver: { abilities: later } }\n`,
    [],
  ],
  ['a lane of its own', `${HOP}${LATER.replace('start', 'lane: hands, start')}`, []],
  ['the first open to the second', HOP.replace('9f', '9f, open: later') + LATER, []],
  [
    'the second breaks the first, so goes first itself',
    HOP + LATER.replace('}, p', '}, breaks: hop, p'),
    ['same-press'],
  ],
])('of two presses, the second is warned of if it never starts: %s', (_, abilities, codes) => {
  expect(warnings(abilities, HEAD.replace('events', 'lanes: [body, hands]\nevents'))).toEqual(codes);
});

const GROUND = '  hop: { start: { press: jump }, from: stand, grace: 6f, phases: [{ for: 1f }] }\n';
const AIR =
  '  again: { start: { press: jump }, from: fall, charges: { max: 1, refill: landed }, phases: [{ for: 1f }] }\n';

test.each([
  ['a jump in the air before one with grace', AIR + GROUND, ['grace-lost']],
  ['after it', GROUND + AIR, []],
  ['only later in the air', AIR.replace('}, from', '}, when: air.time > 0.1s, from') + GROUND, []],
  [
    'a rule without an end of its own',
    '  die: { start: { rule: pool.wind < 1 }, phases: [{ for: 9f }] }',
    ['rule-repeats'],
  ],
  ['with a cooldown', '  die: { start: { rule: pool.wind < 1 }, cooldown: 9f, phases: [{ for: 9f }] }', []],
  ['that reads its last time', '  die: { start: { rule: vy < 1 and since(die) > 1s }, phases: [{ for: 9f }] }', []],
  ['for one tick', '  dust: { start: { rule: landed }, phases: [{ for: 9f }] }', []],
  ['that asks once', '  die: { start: { rule: pool.wind < 1, once: true }, phases: [{ for: 9f }] }', []],
  ['as long as it holds', '  tire: { start: { rule: pool.wind < 1 } }', []],
  ['open to a tag of stances', `${HOP.replace('9f', '9f, open: air')}`, ['tag-does-nothing']],
  [
    'from a tag of abilities',
    `${HOP.replace('}, p', '}, tags: quick, from: quick, p')}`,
    ['no-start', 'tag-does-nothing'],
  ],
  ['open to a tag that only a phase has', `${HOP.replace('9f', '9f, open: soft, tags: soft')}`, ['tag-does-nothing']],
  ['open to a tag of abilities', `${HOP.replace('}, p', '}, tags: quick, p').replace('9f', '9f, open: quick')}`, []],
  [
    'emits what it waits for',
    `${HOP.replace('9f', '9f, emit: ring')}  toll: { start: { event: ring }, phases: [{ for: 1f }] }`,
    ['event-unheard'],
  ],
  [
    'emits what a formula reads',
    `${HOP.replace('9f', '9f, emit: ring')}  toll: { start: { code: only }, end: event(ring) }`,
    ['event-unheard'],
  ],
  ['emits for the host', HOP.replace('9f', '9f, emit: ring'), []],
  [
    'a hop until its apex',
    '  hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 9 } }, { until: vy <= 0 }] }\n  jab: { start: { hold: jump } }',
    ['lane-kept'],
  ],
  [
    'a hop that is open',
    '  hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 9 } }, { until: vy <= 0, open: jab }] }\n  jab: { start: { hold: jump } }',
    [],
  ],
  [
    'open to who only follows another',
    `${HOP.replace('9f', '9f, open: jab')}  lunge: { start: { code: only }, phases: [{ for: 1f, open: jab }] }\n  jab: { start: { hold: jump }, follows: lunge }`,
    ['open-unused'],
  ],
  [
    'open to who follows soon after another',
    `${HOP.replace('9f', '9f, open: jab')}  lunge: { start: { code: only }, phases: [{ for: 1f }] }\n  jab: { start: { hold: jump }, follows: { lunge: 0.1s } }`,
    [],
  ],
  [
    'a phase behind one without an end',
    '  hop: { start: { hold: jump }, phases: [{ steer: 0 }, { for: 9f }] }',
    ['phase-unreached'],
  ],
  ['a phase behind one with an end', '  hop: { start: { hold: jump }, phases: [{ until: vy < 0 }, { steer: 0 }] }', []],
])('warned of: %s', (_, abilities, codes) => {
  expect(warnings(abilities)).toEqual(codes);
});

test('a start that nothing can bring about is warned of at its place', () => {
  const both = '  hop: { start: [{ press: jump }, { press: jump, toward: up }], phases: [{ for: 9f }] }';
  const open = parseMoveset(`${HEAD.replace('events', 'view: open\nevents')}${both}`);
  expect(open.diagnostics.map((d) => [d.code, ...d.path])).toEqual([['start-never', 'abilities', 'hop', 'start', 1]]);
  expect(warnings(both)).toEqual([]);
  expect(warnings(both, HEAD.replace('move: { stick: { left: KeyA } }, ', ''))).toEqual(['start-never']);
});

test('open to another lane is warned of, unless one of those that a tag means is in this one', () => {
  const lanes = HEAD.replace('events', 'lanes: [body, hands]\nevents');
  const wave = '  wave: { lane: hands, start: { hold: jump }, tags: quick }\n';
  expect(warnings(`${HOP.replace('9f', '9f, open: wave')}${wave}`, lanes)).toEqual(['open-unused']);
  const dash = '  dash: { start: { code: only }, phases: [{ for: 9f }], tags: quick }\n';
  expect(warnings(`${HOP.replace('9f', '9f, open: quick')}${wave}${dash}`, lanes)).toEqual([]);
});
