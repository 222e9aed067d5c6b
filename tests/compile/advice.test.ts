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
    '12 warning same-press',
    '13 warning no-start',
    '14 warning no-start',
    '15 warning no-drain',
    '16 warning short-cooldown',
    '16 warning time-rounded',
    '17 warning same-press',
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
