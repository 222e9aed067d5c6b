import { expect, test } from 'vitest';
import { Bindings, DeviceHub, Gamepads, makeButton } from '../../src/devices/index.js';
import { listenToKeyboard } from '../../src/devices/keyboard.js';
import { listenToPointer } from '../../src/devices/pointer.js';
import { makeCharacter, tick } from '../support.js';

function setUp(inputs: Record<string, string> = {}) {
  const c = makeCharacter('', undefined, { swing: '{ button: pointer.primary }', ...inputs });
  const hub = new DeviceHub(c, new Bindings(c.plan));
  const held = (input: string) => {
    tick(c);
    return c.facts.held(input);
  };
  return { c, hub, held };
}

/** A window as far as keys go. */
function keyboard(hub: DeviceHub) {
  const target = Object.assign(new EventTarget(), { document: Object.assign(new EventTarget(), { hidden: false }) });
  const stop = listenToKeyboard(hub, target as unknown as Window);
  const send = (type: string, code: string, more: object = {}, inner: object = {}) => {
    const event = Object.assign(new Event(type, { cancelable: true }), { code, ...more });
    event.composedPath = () => [inner as EventTarget];
    target.dispatchEvent(event);
    return event.defaultPrevented;
  };
  return { send, stop, blur: () => target.dispatchEvent(new Event('blur')) };
}

test('keys of a text field are its own, also within a component or another frame', () => {
  const { hub, held } = setUp();
  const { send } = keyboard(hub);
  for (const field of [{ tagName: 'INPUT' }, { tagName: 'textarea' }, { isContentEditable: true, tagName: 'DIV' }]) {
    expect(send('keydown', 'Space', {}, field)).toBe(false);
    expect(held('jump')).toBe(false);
  }
  expect(send('keydown', 'Space', {}, { tagName: 'DIV' })).toBe(true);
  expect(held('jump')).toBe(true);
});

test('keys of the browser stay with it: shortcuts, and repeats of what is bound to nothing', () => {
  const { hub, held } = setUp({ crouch: '{ button: ControlLeft }' });
  const { send } = keyboard(hub);
  expect(send('keydown', 'Tab', { repeat: true })).toBe(false);
  expect(send('keydown', 'Space', { repeat: true })).toBe(true);
  expect(send('keydown', 'KeyJ', { altKey: true })).toBe(false);
  expect(held('gaff')).toBe(false);
  // Where Control is a key of the game, what is pressed with it is, too.
  expect(send('keydown', 'ControlLeft', { ctrlKey: true })).toBe(true);
  expect(send('keydown', 'KeyJ', { ctrlKey: true })).toBe(true);
  expect(held('gaff')).toBe(true);
  const plain = setUp();
  expect(keyboard(plain.hub).send('keydown', 'KeyJ', { ctrlKey: true })).toBe(false);
  expect(plain.held('gaff')).toBe(false);
});

function pads(inputs: Record<string, string> = {}) {
  const made = setUp({ hop: '{ button: pad.south }', walk: '{ stick: { pad: left } }', ...inputs });
  const pad = { connected: true, mapping: 'standard', index: 0, axes: [0, 0, 0, 0], buttons: [{ pressed: false }] };
  const gamepads = new Gamepads(made.hub, made.c, made.c.plan, () => [pad] as unknown as Gamepad[]);
  return { ...made, pad, gamepads };
}

test('what a pad held as the window was left counts again once it was let go', () => {
  const { c, hub, held, pad, gamepads } = pads();
  pad.buttons[0].pressed = true;
  pad.axes[0] = 1;
  gamepads.poll();
  expect([held('hop'), c.facts.fact('walk.x')]).toEqual([true, 1]);
  hub.release();
  gamepads.poll();
  expect([held('hop'), c.facts.fact('walk.x')]).toEqual([false, 0]);
  pad.buttons[0].pressed = false;
  pad.axes[0] = 0;
  gamepads.poll();
  pad.buttons[0].pressed = true;
  pad.axes[0] = 1;
  gamepads.poll();
  expect([held('hop'), c.facts.fact('walk.x')]).toEqual([true, 1]);
});

test('a pad that is listened to no longer leaves its sticks at rest, and axes that are no numbers are at rest', () => {
  const { c, pad, gamepads } = pads();
  pad.axes = [Number.NaN, 0.9, 0, 0];
  gamepads.poll();
  tick(c);
  expect([c.facts.fact('walk.x'), c.facts.fact('walk.y') < -0.8]).toEqual([0, true]);
  gamepads.stop();
  tick(c);
  expect(c.facts.fact('walk.y')).toBe(0);
});

test('what is pressed while it is muted does not come through, neither then nor afterwards', () => {
  const { hub, held, c, pad, gamepads } = pads({ swing: '{ button: pointer.primary }' });
  const { send } = keyboard(hub);
  send('keydown', 'KeyJ');
  expect(held('gaff')).toBe(true);
  hub.muted = true;
  // The page has its keys: repeats of what was held, too.
  expect([send('keydown', 'Space'), send('keydown', 'KeyJ', { repeat: true })]).toEqual([false, false]);
  pad.buttons[0].pressed = true;
  pad.axes[0] = 1;
  gamepads.poll();
  expect([held('gaff'), held('jump'), held('hop'), c.facts.fact('walk.x')]).toEqual([false, false, false, 0]);
  hub.muted = false;
  gamepads.poll();
  expect([held('jump'), held('hop'), c.facts.fact('walk.x')]).toEqual([false, false, 0]);
  send('keyup', 'Space');
  send('keydown', 'Space');
  pad.buttons[0].pressed = false;
  gamepads.poll();
  pad.buttons[0].pressed = true;
  gamepads.poll();
  expect([held('jump'), held('hop')]).toEqual([true, true]);
});

/** An element in a window; `locked` as while the pointer is locked. */
function makeElement(locked = false) {
  const window = new EventTarget();
  const element = Object.assign(new EventTarget(), {
    ownerDocument: { defaultView: window },
    setPointerCapture: () => {
      if (locked) throw new Error('InvalidStateError');
    },
  });
  const send = (to: EventTarget, type: string, buttons: number, pointerId = 1) =>
    to.dispatchEvent(Object.assign(new Event(type), { buttons, pointerId }));
  return { element: element as unknown as HTMLElement & EventTarget, window, send };
}

test('a locked pointer presses, and an element that is removed while pressed lets go', () => {
  const { hub, held } = setUp();
  const { element, window, send } = makeElement(true);
  listenToPointer(hub, element);
  send(element, 'pointerdown', 1);
  expect(held('swing')).toBe(true);
  send(window, 'pointerup', 0);
  expect(held('swing')).toBe(false);
});

test('two buttons on the screen for one input: it is held while either is', () => {
  const { hub, held } = setUp();
  const [one, two] = [makeElement(), makeElement()];
  makeButton(hub, one.element, 'jump');
  makeButton(hub, two.element, 'jump');
  one.send(one.element, 'pointerdown', 1, 7);
  two.send(two.element, 'pointerdown', 1, 8);
  one.send(one.element, 'pointerup', 0, 7);
  expect(held('jump')).toBe(true);
  two.send(two.element, 'pointerup', 0, 8);
  expect(held('jump')).toBe(false);
});

test('a door that nothing ticks keeps what devices hold, and refuses calls without end', () => {
  const { c, hub, held } = setUp();
  for (let i = 0; i < 20_001; i++) hub.set('keyboard', 'Space', i % 2 === 0);
  expect(held('jump')).toBe(true);
  const call = () => {
    for (let i = 0; i < 20_000; i++) c.door.velocity(0, 0);
  };
  expect(call).toThrow('velocity: 10000 calls wait in this door; tick its character, or call less.');
});

test('directions of any length are taken', () => {
  const { c } = setUp();
  for (const size of [1e-200, 1e200]) {
    c.door.camera(size, 0);
    c.door.face(-size);
    tick(c);
    expect(c.readout.facing).toBe(-1);
  }
  expect(() => c.door.camera(0, 0)).toThrow('camera: x and z must be numbers, and not both 0.');
  expect(() => c.door.face(Number.NaN)).toThrow('face: x and z must be numbers');
});
