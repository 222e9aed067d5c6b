import { expect, test } from 'vitest';
import { Bindings, DeviceHub, Gamepads } from '../../src/devices/index.js';
import { Character } from '../../src/index.js';
import { pellPlan } from '../support.js';

function setUp() {
  const c = new Character(pellPlan());
  const bindings = new Bindings(c.plan);
  const hub = new DeviceHub(c, bindings);
  const held = (input: string) => {
    c.tick();
    return c.facts.held(input);
  };
  return { c, bindings, hub, held };
}

test('an input is down while any device holds it; one that goes away releases what it held', () => {
  const { hub, held } = setUp();
  hub.set('keyboard', 'Space', true);
  hub.set('pad0', 'pad.south', true);
  hub.set('keyboard', 'Space', false);
  expect(held('jump')).toBe(true);
  hub.release('pad0');
  expect(held('jump')).toBe(false);
  hub.set('keyboard', 'KeyD', true);
  hub.release();
  expect(held('move.right')).toBe(false);
});

test('bindings are rebound, saved and loaded; conflicts and strangers are told, and nothing is lost', () => {
  const { bindings, hub, held } = setUp();
  hub.set('keyboard', 'Space', true);
  bindings.rebind('jump', ['KeyF']);
  hub.set('keyboard', 'Space', false);
  expect(held('jump')).toBe(false);
  expect(bindings.inputsOf('KeyF')).toEqual(['jump', 'gale']);
  expect(bindings.conflicts()).toEqual([{ source: 'KeyF', inputs: ['jump', 'gale'] }]);
  const saved = JSON.parse(JSON.stringify(bindings));
  expect(saved).toEqual({ loggia: 1, bindings: { jump: ['KeyF'] } });
  const { problems } = bindings.load({ loggia: 1, bindings: { ...saved.bindings, glae: ['KeyQ'], sprint: ['Keyy'] } });
  expect(problems).toEqual([
    'There is no input "glae". Did you mean "gale"?',
    'There is no key or button "Keyy". Did you mean "KeyY"?',
  ]);
  expect(bindings.sourcesOf('jump')).toEqual(['KeyF']);
  expect(bindings.toJSON().bindings).toEqual({ jump: ['KeyF'], glae: ['KeyQ'], sprint: ['Keyy'] });
  expect(() => bindings.rebind('jump', ['Spaec'])).toThrow('Did you mean "Space"?');
});

test('loaded bindings have no doubles, and a list of their own', () => {
  const { bindings } = setUp();
  const jump = ['KeyF', 'KeyF'];
  expect(bindings.load({ loggia: 1, bindings: { jump } }).problems).toEqual([]);
  jump.push('KeyG');
  expect(bindings.sourcesOf('jump')).toEqual(['KeyF']);
  (bindings.toJSON().bindings.jump as string[]).push('KeyG');
  expect(bindings.sourcesOf('jump')).toEqual(['KeyF']);
  const deep = JSON.parse(`${'['.repeat(5000)}${']'.repeat(5000)}`);
  expect(bindings.load({ loggia: 1, bindings: { jump: deep } }).problems).toEqual([
    'These bindings nest deeper than 32 levels; the defaults hold.',
  ]);
  expect(bindings.load({ loggia: 1, bindings: { jump: 3 } }).problems).toEqual([
    'The sources of "jump" must be a list, not 3.',
  ]);
});

test('a standard gamepad presses buttons and pushes sticks, and releases when it is unplugged', () => {
  const { c, hub, held } = setUp();
  const pad = { connected: true, mapping: 'standard', index: 0, axes: [0.9, 0, 0, 0], buttons: [{ pressed: true }] };
  let pads: unknown[] = [pad];
  const gamepads = new Gamepads(hub, c, c.plan, () => pads as Gamepad[]);
  gamepads.poll();
  expect(held('jump')).toBe(true);
  expect(c.facts.fact('move.x')).toBeGreaterThan(0.8);
  pads = [null];
  gamepads.poll();
  expect(held('jump')).toBe(false);
  expect(c.facts.fact('move.x')).toBe(0);
});
