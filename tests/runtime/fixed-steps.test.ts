import { expect, test } from 'vitest';
import { Character, FixedSteps, flatGround } from '../../src/index.js';
import { makeCharacter, plan } from '../support.js';

const DASH = plan(`
loggia: 1
name: Pell
inputs: { gale: { button: KeyF } }
stances: { stand: {} }
abilities:
  dash: { start: { press: gale }, phases: [{ for: 12f, move: { forward: 18 } }] }`);

/** A run of two seconds, drawn in pictures of these lengths. */
function run(frames: readonly number[], speed = 1): { sums: number[]; ticks: number } {
  const c = new Character(DASH, { world: flatGround() });
  const sums: number[] = [];
  let ticks = 0;
  const steps = new FixedSteps(DASH.rate, () => {
    if (ticks++ === 3) c.door.press('gale');
    c.tick();
    sums.push(c.checksum());
  });
  steps.speed = speed;
  for (let i = 0, time = 0; time < 2 - 1e-9; i++) {
    const passed = Math.min(frames[i % frames.length], 2 - time);
    steps.advance(passed);
    time += passed;
  }
  return { sums, ticks };
}

test('the same ticks at any rate of pictures, and at uneven ones', () => {
  const { sums, ticks } = run([1 / 60]);
  expect(ticks).toBe(120);
  for (const frames of [[1 / 30], [1 / 144], [0.2], [0.007, 0.031, 0.05, 0.002], [1 / 59.94]])
    expect(run(frames)).toEqual({ sums, ticks });
  expect(run([1 / 60], 0.25)).toEqual({ sums: sums.slice(0, 30), ticks: 30 });
});

test('what was not drawn for long is lost; a pause lets no time pass, but for single steps', () => {
  let ticks = 0;
  const steps = new FixedSteps(60, () => ticks++);
  expect([steps.advance(60), ticks]).toEqual([15, 15]);
  expect([steps.advance(1 / 60), steps.advance(-5), steps.advance(0)]).toEqual([1, 0, 0]);
  steps.paused = true;
  expect([steps.advance(1), ticks]).toEqual([0, 16]);
  steps.step();
  expect([ticks, steps.share]).toEqual([17, 0]);
  expect(() => steps.advance(Number.NaN)).toThrow('advance: seconds must be a number');
  expect(() => new FixedSteps(0, () => {})).toThrow('FixedSteps: the rate must be a number from 1 to 1000, not 0.');
  expect(() => new FixedSteps(60, undefined as never)).toThrow('FixedSteps: give a function');
});

test('one who moves is drawn between two ticks, but at once where it was put somewhere else', () => {
  const c = makeCharacter('body: { gravity: 0 }');
  const steps = new FixedSteps(60, () => c.tick());
  const at = () => steps.place(c).x;
  c.door.velocity(6, 0);
  c.tick();
  const before = c.readout.x;
  expect(at()).toBe(before);
  c.door.velocity(6, 0);
  steps.advance(1.5 / 60);
  expect(steps.share).toBeCloseTo(0.5, 9);
  expect(at()).toBeCloseTo((before + c.readout.x) / 2, 9);
  c.door.place(40, 1);
  steps.advance(1 / 60);
  expect(at()).toBe(c.readout.x);
  expect(c.readout.x).toBeGreaterThan(39);
  const out = { x: 0, y: 0, z: 0 };
  expect(steps.place(c, out)).toBe(out);
  steps.cut();
  expect([at(), steps.share]).toEqual([c.readout.x, 0]);
});
