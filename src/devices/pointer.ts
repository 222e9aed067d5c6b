import { POINTER_BUTTONS } from '../moveset/sources.js';
import type { DeviceHub } from './hub.js';

/** Buttons of mice and pens, and touches, over an element. Returns what stops it. */
export function listenToPointer(hub: DeviceHub, element: HTMLElement): () => void {
  const press = (event: PointerEvent) => {
    element.setPointerCapture(event.pointerId);
    hub.set('pointer', POINTER_BUTTONS[event.button] ?? '', true);
  };
  const release = (event: PointerEvent) => void hub.set('pointer', POINTER_BUTTONS[event.button] ?? '', false);
  const cancel = () => hub.letGo('pointer');
  element.addEventListener('pointerdown', press);
  element.addEventListener('pointerup', release);
  element.addEventListener('pointercancel', cancel);
  return () => {
    element.removeEventListener('pointerdown', press);
    element.removeEventListener('pointerup', release);
    element.removeEventListener('pointercancel', cancel);
    hub.letGo('pointer');
  };
}

/** Makes an element on the screen press an input while it is touched. Returns what stops it. */
export function makeButton(hub: DeviceHub, element: HTMLElement, input: string): () => void {
  const device = `screen-${input}`;
  const set = (down: boolean) => (event: PointerEvent) => {
    if (down) element.setPointerCapture(event.pointerId);
    hub.setInput(device, input, down);
    event.preventDefault();
  };
  const press = set(true);
  const release = set(false);
  element.addEventListener('pointerdown', press);
  element.addEventListener('pointerup', release);
  element.addEventListener('pointercancel', release);
  return () => {
    element.removeEventListener('pointerdown', press);
    element.removeEventListener('pointerup', release);
    element.removeEventListener('pointercancel', release);
    hub.letGo(device);
  };
}
