import type { DeviceHub } from './hub.js';

/** Keys by their `code`. Those that are bound do not scroll the page. Returns what stops it. */
export function listenToKeyboard(hub: DeviceHub, target: Window): () => void {
  const press = (event: KeyboardEvent) => {
    if (isTyping(event.target) || event.metaKey) return;
    if (event.repeat || hub.set('keyboard', event.code, true)) event.preventDefault();
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

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}
