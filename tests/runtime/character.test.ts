import { expect, test } from 'vitest';
import { driveCharacter, LOOP, writeChanges } from '../../bench/drive.js';
import { parseMoveset } from '../../src/format/text.js';
import { Character, flatGround, Tape } from '../../src/index.js';
import { makeCharacter, pellPlan, tap, tick } from '../support.js';

const changes = writeChanges();

function play(c: Character, from: number, to: number): number[] {
  const sums: number[] = [];
  for (let t = from; t < to; t++) {
    driveCharacter(c, changes[t % LOOP]);
    c.tick();
    sums.push(c.checksum());
  }
  return sums;
}

test('a restored snapshot goes on exactly as the original did', () => {
  const c = new Character(pellPlan(), { world: flatGround() });
  play(c, 0, 100);
  const copy = c.snapshot();
  expect(copy).toHaveLength(c.plan.snapshotSize);
  const first = play(c, 100, 400);
  expect(new Set(first).size).toBeGreaterThan(290);
  const other = new Character(c.plan, { world: flatGround() });
  play(other, 0, 100);
  other.restore(copy);
  expect(play(other, 100, 400)).toEqual(first);
  expect(() => c.restore(new Float64Array(3))).toThrow('this snapshot has 3 numbers');
});

test('what came through the door replays the run exactly, also after a journey through JSON', () => {
  const c = new Character(pellPlan(), { world: flatGround() });
  c.tape = new Tape();
  c.door.pool('wind', 20);
  const sums = play(c, 0, 300);
  const again = new Character(c.plan, { world: flatGround() });
  const tape = Tape.from(JSON.parse(JSON.stringify(c.tape)));
  // The same tape serves as often as one likes.
  for (let round = 0; round < 2; round++) {
    tape.rewindTo(again);
    for (let t = 0; t < 300; t++) {
      tape.feed(again);
      again.tick();
      expect(again.checksum()).toBe(sums[t]);
    }
  }
});

test('any number of things may come in within one tick: all reach the character, the tape and the reasons', () => {
  const names = Array.from({ length: 40 }, (_, i) => `action${i}`);
  const action = 'start: { code: only }, lane: body, cooldown: 1s, phases: [{ for: 1f }]';
  const c = makeCharacter(`abilities:\n${names.map((name) => `  ${name}: { ${action} }\n`).join('')}`);
  for (const name of names) {
    c.door.request(name);
    c.tick();
  }
  c.tape = new Tape();
  for (const name of names) c.door.request(name);
  c.tick();
  const told = c.readout.events.flatMap((event) => (event.kind === 'refused' ? [event] : []));
  expect(told.map(({ ability }) => ability)).toEqual(names);
  for (const { reasons } of told) expect(reasons).toContainEqual({ code: 'cooldown', remaining: expect.any(Number) });
  const left = told.map(({ reasons }) => reasons.find((reason) => reason.code === 'cooldown')?.remaining as number);
  expect(left.every((seconds, i) => seconds > 0 && (i === 0 || seconds >= left[i - 1]))).toBe(true);
  const { entries } = c.tape.toJSON();
  expect(entries.map(({ rows }) => rows.length)).toEqual([names.length]);
});

test('many characters live in slices of one block without touching each other', () => {
  const plan = pellPlan();
  const size = plan.arraySize();
  const block = new Float64Array(3 * size);
  const [a, b, c] = [0, 1, 2].map((i) => new Character(plan, { world: flatGround(), into: block.subarray(i * size) }));
  const still = b.checksum();
  const sums = play(a, 0, 50);
  expect(b.checksum()).toBe(still);
  expect(play(c, 0, 50)).toEqual(sums);
});

test('during hitstop its clock stands still, with phases, cooldowns and regeneration; a press is kept', () => {
  const c = makeCharacter(`
pools: { wind: { max: 10, start: 0, regen: 60 } }
lanes: [body, legs]
events: [bell]
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 5f }] }
  hop: { lane: legs, start: { press: jump }, phases: [{ for: 1f }] }
  wave: { start: { event: bell }, phases: [{ for: 1f }] }`);
  tap(c, 'gaff');
  c.door.freeze(10);
  tick(c, 2);
  c.door.press('jump');
  const before = [c.readout.tick, c.readout.pool('wind'), c.readout.progress()];
  c.door.event('bell');
  expect(tick(c, 8)).toEqual([]);
  expect([c.readout.tick, c.readout.pool('wind'), c.readout.progress()]).toEqual(before);
  // The first tick after it hears what came in meanwhile; the jab has its five ticks.
  expect(tick(c)).toEqual(['received bell', '+hop', 'hop.1', '!wave busy']);
  expect(tick(c, 2)).toEqual(['-hop time']);
  expect(tick(c)).toEqual(['-jab time']);
});

test('an engine that moves the body takes the drive and tells the contacts', () => {
  const c = makeCharacter(
    'abilities: { dash: { start: { press: gale }, gravity: 0, phases: [{ for: 3f, move: { forward: 9, up: 0 } }] } }',
    {},
  );
  c.door.contacts({ x: 1, y: 2, vx: 0, vy: -3, grounded: false });
  tick(c);
  expect(c.readout.drive).toMatchObject({ vx: 0, vy: -3, gravity: 25, shape: 'tall' });
  c.door.press('gale');
  tick(c);
  expect(c.readout.drive).toMatchObject({ vx: 9, vy: 0, gravity: 0 });
  c.door.contacts({ x: 1.2, y: 0, vx: 9, vy: 0, grounded: true });
  expect(tick(c)).toEqual(['landed', 'stance stand']);
  expect([c.readout.x, c.readout.grounded]).toEqual([1.2, true]);
});

test('what a character begins with follows from all of it, the first tick included', () => {
  const { plan } = parseMoveset(`
loggia: 1
name: Pell
pools: { wind: { max: 4 * charges(hop) }, oil: { max: 9, start: 3 } }
inputs: { jump: { button: Space } }
stances: { keen: { when: charges(hop) == 2 and pool.wind == 8 }, tired: {} }
abilities:
  hop: { start: { press: jump }, charges: { max: 2, refill: grounded }, phases: [{ for: 3f }] }`);
  if (!plan) throw new Error('the moveset has faults');
  const c = new Character(plan, { world: flatGround() });
  const { readout } = c;
  expect([readout.stance, readout.pool('wind'), readout.pool('oil')]).toEqual(['keen', 8, 3]);
  c.tick();
  expect([readout.stance, readout.events]).toEqual(['keen', []]);
});
