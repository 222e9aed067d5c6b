import type { Character } from '../character/character.js';
import { want, wantCharacter, wantOptions } from '../report/arguments.js';
import { aimByPointer, type ToWorld } from './aim.js';
import { Bindings } from './bindings.js';
import { Gamepads } from './gamepad.js';
import { DeviceHub } from './hub.js';
import { listenToKeyboard } from './keyboard.js';
import { listenToPointer } from './pointer.js';

/** What to listen to. */
export interface ListenOptions {
  /** Default: the global window. */
  window?: Window;
  /** Where pointer buttons count. Default: nowhere. */
  pointer?: HTMLElement;
  /** With `pointer`: where a spot of the window is in the world, for aims that the pointer gives. Default: they are not given. */
  toWorld?: ToWorld;
  /** Default: the moveset's. */
  bindings?: Bindings;
  /** Only this gamepad, by its index: where two play. Default: all of them. */
  pad?: number;
}

/** A character's ears: what `listen` returns. */
export interface Listening {
  /** What all devices come through: `hub.muted = true` keeps them out of the game while a menu is open. */
  readonly hub: DeviceHub;
  /** Asks the gamepads, and where the pointer is in the world; call it before each tick. */
  poll(): void;
  /** Releases everything and stops. */
  stop(): void;
}

/**
 * Brings keyboard, gamepads and pointer to a character's door, by the bindings.
 * @param character Who is pressed; or a function that gives who is at the moment.
 * @param options What to listen to, and with which bindings.
 */
export function listen(character: Character, options: ListenOptions = {}): Listening {
  wantCharacter('listen', character);
  wantOptions('listen', options, ['window', 'pointer', 'toWorld', 'bindings', 'pad']);
  const target = options.window ?? globalThis.window;
  want(typeof target?.addEventListener === 'function', 'listen', 'window', 'a window', target);
  const hub = new DeviceHub(character, options.bindings ?? new Bindings(character.plan));
  const stops = [listenToKeyboard(hub, target)];
  if (options.pointer) stops.push(listenToPointer(hub, options.pointer));
  const aims = options.pointer && options.toWorld && aimByPointer(character, options.pointer, options.toWorld);
  if (aims) stops.push(() => aims.stop());
  const { pad } = options;
  const read = pad === undefined ? undefined : () => navigator.getGamepads().filter((one) => one?.index === pad);
  const pads = new Gamepads(hub, character, character.plan, read);
  return {
    hub,
    poll() {
      aims?.poll();
      pads.poll();
    },
    stop: () => {
      for (const stop of stops) stop();
      pads.stop();
      hub.release();
    },
  };
}

export type { ToWorld } from './aim.js';
export { Bindings, type Conflict, type LoadedBindings, type SavedBindings } from './bindings.js';
export { Gamepads } from './gamepad.js';
export { DeviceHub } from './hub.js';
export { makeButton } from './pointer.js';
