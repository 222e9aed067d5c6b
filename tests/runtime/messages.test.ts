import { expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, flatGround, Tape } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { makeCharacter, plan, SMALL, sentences, tick } from '../support.js';

const BELL = `
pools: { calm: { max: 100 } }
events:
  rung: { values: { loud: number, long: time, where: point, way: direction, tone: [high, low] } }
  echo: { values: { loud: number }, hears: own }
  quiet: {}
marks: { heard: {} }
`;
const rings = (...louds: number[]) =>
  louds.map((loud) => ['rung', { loud, long: 0.1, where: [3, 1], way: [0, 2], tone: 'low' }] as const);

test('what runs reads the message that started it, whatever comes later', () => {
  const c = makeCharacter(`${BELL}
abilities:
  listen:
    start: { event: rung }
    gain: { calm: -rung.loud }
    mark: { heard: rung.where }
    phases: [{ name: wait, until: timeIn(listen) >= rung.long, move: { along: rung.way, speed: rung.loud } }]
`);
  tick(c);
  for (const [name, values] of rings(3)) c.door.event(name, values);
  tick(c);
  expect(c.readout.pool('calm')).toBe(97);
  expect(c.readout.mark('heard')).toEqual({ x: 3, y: 1, z: 0 });
  expect(c.readout.vy).toBeCloseTo(3);
  for (const [name, values] of rings(50)) c.door.event(name, { ...values, long: 9 });
  tick(c, 5);
  expect(c.facts.fact('rung.loud')).toBe(50);
  expect(c.readout.isRunning('listen')).toBe(true);
  tick(c);
  expect(c.readout.isRunning('listen')).toBe(false);
});

test('what a press starts reads no message, though one has started it before', () => {
  const c = makeCharacter(`${BELL}
abilities:
  listen:
    start: [{ event: rung }, { press: gaff }]
    gain: { calm: -1 - rung.loud }
    phases: [{ for: 2f }]
`);
  tick(c);
  for (const [name, values] of rings(3)) c.door.event(name, values);
  tick(c, 4);
  expect(c.readout.pool('calm')).toBe(96);
  c.door.press('gaff');
  tick(c);
  expect(c.readout.pool('calm')).toBe(95);
});

test('two occurrences in one tick are judged and handled by themselves, also those of a freeze', () => {
  const text = `${BELL}
abilities:
  flinch: { start: { event: rung }, when: rung.loud > 4, breaks: flinch, gain: { calm: -rung.loud }, phases: [{ for: 9f }] }
`;
  for (const freeze of [0, 3]) {
    const c = makeCharacter(text);
    tick(c);
    if (freeze > 0) c.door.freeze(freeze);
    for (const [name, values] of rings(7, 2, 11)) c.door.event(name, values);
    tick(c, 1 + freeze);
    expect(c.readout.pool('calm')).toBe(100 - 7 - 11);
    expect(c.readout.events.filter((e) => e.kind === 'received')).toHaveLength(3);
    expect(c.readout.events.filter((e) => e.kind === 'refused')).toMatchObject([{ reasons: [{ code: 'when' }] }]);
  }
});

test('what is emitted goes out with its values, and is heard in the next tick where the event says so', () => {
  const c = makeCharacter(`${BELL}
abilities:
  ring:
    start: { press: gaff }
    phases:
      - for: 2f
        emit: { rung: { loud: 2 + 3, long: 6f, where: head, way: facing, tone: high }, echo: { loud: vx + 8 }, quiet: {} }
  answer: { start: { event: echo }, gain: { calm: -echo.loud }, phases: [{ for: 1f }], breaks: all }
`);
  tick(c);
  c.door.press('gaff');
  tick(c);
  expect(c.readout.events.filter((e) => e.kind === 'emitted')).toEqual([
    {
      kind: 'emitted',
      event: 'rung',
      values: { loud: 5, long: 0.1, where: { x: 0, y: 1.8, z: 0 }, way: { x: 1, y: 0, z: 0 }, tone: 'high' },
    },
    { kind: 'emitted', event: 'echo', values: { loud: 8 } },
    { kind: 'emitted', event: 'quiet' },
  ]);
  expect(c.readout.pool('calm')).toBe(100);
  const between = c.snapshot();
  tick(c);
  expect(c.readout.pool('calm')).toBe(92);
  c.restore(between);
  tick(c);
  expect(c.readout.pool('calm')).toBe(92);
});

test('what is emitted without a word has none of them, also in a module', () => {
  const made = plan(`${SMALL}${BELL}
abilities: { ring: { start: { press: gaff }, phases: [{ for: 2f, emit: { rung: { loud: 2 } } }] } }
`);
  for (const each of [made, generatedWhole(made)]) {
    const c = new Character(each, { world: flatGround() });
    c.door.press('gaff');
    c.tick();
    const { values } = c.readout.events.find((e) => e.kind === 'emitted') as { values: object };
    expect(values).toMatchObject({ loud: 2, long: 0, tone: null });
  }
});

test('a tape replays messages with their values, and those that found no room wait', () => {
  const made = plan(`${SMALL}${BELL}
abilities:
  count: { start: { event: rung }, gain: { calm: -rung.loud }, breaks: count, phases: [{ for: 1f }] }
`);
  const c = new Character(made, { world: flatGround() });
  c.tape = new Tape();
  for (const [name, values] of rings(...new Array(15).fill(2), 9)) c.door.event(name, values);
  tick(c);
  expect(c.readout.pool('calm')).toBe(100 - 12 * 2);
  tick(c);
  expect(c.readout.pool('calm')).toBe(100 - 15 * 2 - 9);
  const copy = new Character(made, { world: flatGround() });
  const tape = Tape.from(JSON.parse(JSON.stringify(c.tape)));
  tape.rewindTo(copy);
  for (let i = 0; i < 2; i++) {
    tape.feed(copy);
    copy.tick();
  }
  expect(copy.checksum()).toBe(c.checksum());
});

test('a wrong value from code throws a sentence and changes nothing', () => {
  const c = makeCharacter(BELL);
  const send = (values: object) => () => c.door.event('rung', values as never);
  expect(send({ laud: 1 })).toThrow('event: there is no value "laud". Did you mean "loud"?');
  expect(send({ tone: 'lo' })).toThrow('event: there is no word "lo"');
  expect(send({ where: 3 })).toThrow('event: where of rung must be a list [x, y] or [x, y, z], not 3.');
  expect(send({ long: 'soon' })).toThrow(
    'event: long of rung must be a time like 0.2s or 12f, or a number of seconds, not "soon".',
  );
  expect(() => c.door.event('quiet', { loud: 1 })).toThrow('event: there is no value "loud"');
  expect(tick(c)).toEqual([]);
});

test('what is wrong with values is told with its place', () => {
  const told = sentences(
    parseMoveset(`${SMALL}${BELL}
abilities:
  ring:
    start: { press: gaff }
    phases:
      - for: 1f
        emit: { rung: { laud: 3, where: heda, way: upp, tone: hihg, long: 3, loud: grounded } }
  listen: { start: { event: rung }, when: rung.laud > 3 and rung.tone(lo), phases: [{ for: 1f }] }
`),
  ).join('\n');
  for (const sentence of [
    'There is no value of rung "laud". Did you mean "loud"?',
    'Did you mean "head"?',
    'Did you mean "up"?',
    'There is no word "hihg". Did you mean "high"?',
    '3 is not a time: write seconds, milliseconds or ticks',
    'This must be a number, but this is a condition.',
    'There is no fact or function "rung.laud" here. Did you mean "rung.loud"?',
    'There is no fact or function "rung.tone(lo)" here.',
  ])
    expect(told).toContain(sentence);
  const many = Object.fromEntries(Array.from({ length: 9 }, (_, i) => [`v${i}`, 'number']));
  expect(sentences(parseMoveset(`${SMALL}events: { rung: { values: ${JSON.stringify(many)} } }\n`)).join()).toContain(
    'At most 8 entries can be here, but there are 9.',
  );
});
