import { expect, test } from 'vitest';
import { Bindings, DeviceHub, makeButton } from '../../src/devices/index.js';
import { listenToPointer } from '../../src/devices/pointer.js';
import { makeCharacter } from '../support.js';

/** An element as far as pointers go. */
function makeElement() {
  const target = new EventTarget();
  const captured: number[] = [];
  const element = Object.assign(target, { setPointerCapture: (id: number) => captured.push(id) });
  const send = (type: string, buttons: number, pointerId = 1) =>
    target.dispatchEvent(Object.assign(new Event(type), { buttons, pointerId }));
  return { element: element as unknown as HTMLElement, send };
}

function makeHub() {
  const c = makeCharacter('', undefined, {
    swing: '{ button: pointer.primary }',
    block: '{ button: pointer.secondary }',
  });
  const held = () => {
    c.tick();
    return ['swing', 'block', 'jump'].filter((input) => c.facts.held(input));
  };
  return { hub: new DeviceHub(c, new Bindings(c.plan)), held };
}

test('two mouse buttons at once: the second comes as a move, and each is released by itself', () => {
  const { hub, held } = makeHub();
  const { element, send } = makeElement();
  const stop = listenToPointer(hub, element);
  send('pointerdown', 1);
  expect(held()).toEqual(['swing']);
  send('pointermove', 3);
  expect(held()).toEqual(['swing', 'block']);
  send('pointermove', 2);
  expect(held()).toEqual(['block']);
  send('pointerup', 0);
  expect(held()).toEqual([]);
  send('pointermove', 1); // dragged here from elsewhere
  expect(held()).toEqual([]);
  send('pointerdown', 3);
  stop();
  expect(held()).toEqual([]);
});

test('a button on the screen is held while any finger is on it', () => {
  const { hub, held } = makeHub();
  const { element, send } = makeElement();
  makeButton(hub, element, 'jump');
  send('pointerdown', 1, 7);
  send('pointerdown', 1, 8);
  expect(held()).toEqual(['jump']);
  send('pointerup', 0, 7);
  expect(held()).toEqual(['jump']);
  send('pointerup', 0, 8);
  expect(held()).toEqual([]);
  send('pointerdown', 1, 7);
  send('pointercancel', 0, 7);
  expect(held()).toEqual([]);
});
