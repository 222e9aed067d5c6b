import { POINTER_BUTTONS } from '../moveset/sources.js';
import { want } from '../report/arguments.js';
import type { DeviceHub } from './hub.js';

/** The `button` value of W3C Pointer Events for each bit of `buttons`: the secondary one comes before the middle one there. */
const BUTTON_OF_BIT = [0, 2, 1, 3, 4];

/** Buttons of mice and pens, and touches, over an element. Returns what stops it. */
export function listenToPointer(hub: DeviceHub, element: HTMLElement): () => void {
  return listenWhilePressed(
    element,
    (bit, down) => hub.set('pointer', POINTER_BUTTONS[BUTTON_OF_BIT[bit]], down),
    () => hub.release('pointer'),
  );
}

let buttons = 0;

/**
 * Makes an element on the screen press an input while it is touched, by however many fingers. Returns what stops it.
 * @param hub Of `listen`.
 * @param element It holds the input while a pointer is down on it.
 * @param input Its name.
 * @throws {UsageError} for a name that the moveset does not have.
 */
export function makeButton(hub: DeviceHub, element: HTMLElement, input: string): () => void {
  // Several may press one input.
  want(typeof element?.addEventListener === 'function', 'makeButton', 'the second argument', 'an element', element);
  const device = `screen-${++buttons}`;
  let held = 0;
  return listenWhilePressed(
    element,
    (_, down, event) => {
      held += down ? 1 : -1;
      hub.setInput(device, input, held > 0);
      event.preventDefault();
    },
    () => {
      held = 0;
      hub.release(device);
    },
  );
}

/**
 * Calls `set` for every button of every pointer that goes down on the element or up again. The element keeps a pointer from its
 * first press on, so that it gets the release wherever that happens. Further buttons of a mouse come as moves: all events
 * are compared by `buttons`.
 */
function listenWhilePressed(
  element: HTMLElement,
  set: (bit: number, down: boolean, event: PointerEvent) => void,
  release: () => void,
): () => void {
  const held = new Map<number, number>();
  const compare = (event: PointerEvent) => {
    const before = held.get(event.pointerId) ?? 0;
    const { buttons } = event;
    if (buttons === 0) held.delete(event.pointerId);
    else held.set(event.pointerId, buttons);
    for (let bit = 0; bit < BUTTON_OF_BIT.length; bit++)
      if (((before ^ buttons) >> bit) & 1) set(bit, ((buttons >> bit) & 1) === 1, event);
  };
  const press = (event: PointerEvent) => {
    try {
      element.setPointerCapture(event.pointerId);
    } catch {
      // A locked pointer cannot be captured, and need not be: all of its events come here.
    }
    compare(event);
  };
  const move = (event: PointerEvent) => {
    // A button that went down elsewhere and was dragged here is none of this element's.
    if (held.has(event.pointerId)) compare(event);
  };
  const cancel = () => {
    held.clear();
    release();
  };
  element.addEventListener('pointerdown', press);
  element.addEventListener('pointermove', move);
  element.addEventListener('pointerup', move);
  element.addEventListener('pointercancel', cancel);
  // An element that is removed while it is pressed hears of no release.
  const window = element.ownerDocument?.defaultView;
  window?.addEventListener('pointerup', move, true);
  window?.addEventListener('pointercancel', move, true);
  return () => {
    element.removeEventListener('pointerdown', press);
    element.removeEventListener('pointermove', move);
    element.removeEventListener('pointerup', move);
    element.removeEventListener('pointercancel', cancel);
    window?.removeEventListener('pointerup', move, true);
    window?.removeEventListener('pointercancel', move, true);
    cancel();
  };
}
