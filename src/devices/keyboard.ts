import type { DeviceHub } from './hub.js';

/** Keys by their `code`. Those that are bound do not scroll the page. Returns what stops it. */
export function listenToKeyboard(hub: DeviceHub, target: Window): () => void {
  const press = (event: KeyboardEvent) => {
    if (isTyping(event) || isShortcut(hub, event)) return;
    const taken = event.repeat
      ? hub.bindings.inputsOf(event.code).length > 0 && !hub.muted
      : hub.set('keyboard', event.code, true);
    if (taken) event.preventDefault();
  };
  const release = (event: KeyboardEvent) => void hub.set('keyboard', event.code, false);
  const leave = () => hub.release();
  const hide = () => {
    if (target.document.hidden) hub.release();
  };
  target.addEventListener('keydown', press);
  target.addEventListener('keyup', release);
  target.addEventListener('blur', leave);
  target.document.addEventListener('visibilitychange', hide);
  return () => {
    target.removeEventListener('keydown', press);
    target.removeEventListener('keyup', release);
    target.removeEventListener('blur', leave);
    target.document.removeEventListener('visibilitychange', hide);
    hub.release('keyboard');
  };
}

/** Whether a key goes into a field of text: also within a component, and in another frame, whose elements are of another kind. */
function isTyping(event: KeyboardEvent): boolean {
  const [inner] = event.composedPath();
  const { isContentEditable, tagName } = (inner ?? event.target ?? {}) as Partial<HTMLElement>;
  return isContentEditable === true || /^(INPUT|TEXTAREA|SELECT)$/i.test(tagName ?? '');
}

/** Whether a key belongs to the browser (Ctrl+S): a modifier is held that presses nothing itself. */
function isShortcut({ bindings }: DeviceHub, { ctrlKey, altKey, metaKey }: KeyboardEvent): boolean {
  const presses = (key: string) => ['Left', 'Right'].some((side) => bindings.inputsOf(key + side).length > 0);
  return metaKey || (ctrlKey && !presses('Control')) || (altKey && !presses('Alt'));
}
