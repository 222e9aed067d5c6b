import { POINTER_BUTTONS } from '../moveset/sources.js';
import type { DeviceHub } from './hub.js';

/** Buttons of mice and pens, and touches, over an element. Returns what stops it. */
export function listenToPointer(hub: DeviceHub, element: HTMLElement): () => void {
  return listenWhilePressed(hub, 'pointer', element, (event, down) => {
    hub.set('pointer', POINTER_BUTTONS[event.button] ?? '', down);
  });
}

/** Makes an element on the screen press an input while it is touched. Returns what stops it. */
export function makeButton(hub: DeviceHub, element: HTMLElement, input: string): () => void {
  const device = `screen-${input}`;
  return listenWhilePressed(hub, device, element, (event, down) => {
    hub.setInput(device, input, down);
    event.preventDefault();
  });
}

/** The element keeps the pointer from its press on, so that it hears of the release wherever that happens. */
function listenWhilePressed(
  hub: DeviceHub,
  device: string,
  element: HTMLElement,
  set: (event: PointerEvent, down: boolean) => void,
): () => void {
  const press = (event: PointerEvent) => {
    element.setPointerCapture(event.pointerId);
    set(event, true);
  };
  const release = (event: PointerEvent) => set(event, false);
  const cancel = () => hub.letGo(device);
  element.addEventListener('pointerdown', press);
  element.addEventListener('pointerup', release);
  element.addEventListener('pointercancel', cancel);
  return () => {
    element.removeEventListener('pointerdown', press);
    element.removeEventListener('pointerup', release);
    element.removeEventListener('pointercancel', cancel);
    cancel();
  };
}
