const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('');
const digits = '0123456789'.split('');

/** Keyboard `code` values of W3C UI Events that keyboards commonly have. */
const KEYS: readonly string[] = [
  ...letters.map((letter) => `Key${letter}`),
  ...digits.flatMap((digit) => [`Digit${digit}`, `Numpad${digit}`]),
  ...Array.from({ length: 12 }, (_, i) => `F${i + 1}`),
  ...['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Space', 'Enter', 'Escape', 'Tab', 'Backspace'],
  ...['ShiftLeft', 'ShiftRight', 'ControlLeft', 'ControlRight', 'AltLeft', 'AltRight', 'MetaLeft', 'MetaRight'],
  ...['CapsLock', 'Insert', 'Delete', 'Home', 'End', 'PageUp', 'PageDown', 'ContextMenu'],
  ...['Minus', 'Equal', 'BracketLeft', 'BracketRight', 'Backslash', 'Semicolon', 'Quote', 'Backquote'],
  ...['Comma', 'Period', 'Slash', 'IntlBackslash', 'IntlRo', 'IntlYen'],
  ...['NumpadAdd', 'NumpadSubtract', 'NumpadMultiply', 'NumpadDivide', 'NumpadDecimal', 'NumpadEnter'],
];

/** Buttons of the W3C standard gamepad, in its order: the position here is the button's index there. */
export const PAD_BUTTONS: readonly string[] = [
  ...['pad.south', 'pad.east', 'pad.west', 'pad.north'],
  ...['pad.leftShoulder', 'pad.rightShoulder', 'pad.leftTrigger', 'pad.rightTrigger'],
  ...['pad.back', 'pad.start', 'pad.leftStick', 'pad.rightStick'],
  ...['pad.up', 'pad.down', 'pad.left', 'pad.right', 'pad.center'],
];

/** Pointer buttons by the `button` value of W3C Pointer Events: the position here is that value. */
export const POINTER_BUTTONS: readonly string[] = [
  'pointer.primary',
  'pointer.middle',
  'pointer.secondary',
  'pointer.back',
  'pointer.forward',
];

/** Everything that a button can be bound to. */
export const SOURCES: readonly string[] = [...KEYS, ...PAD_BUTTONS, ...POINTER_BUTTONS];

const PAD_LETTERS = 'Pad buttons are named by their place: pad.south, pad.east, pad.west and pad.north';
const OTHER_NAMES: Readonly<Record<string, string>> = {
  shift: 'ShiftLeft',
  control: 'ControlLeft',
  ctrl: 'ControlLeft',
  alt: 'AltLeft',
  meta: 'MetaLeft',
  esc: 'Escape',
  spacebar: 'Space',
  return: 'Enter',
  left: 'ArrowLeft',
  right: 'ArrowRight',
  up: 'ArrowUp',
  down: 'ArrowDown',
  mouse: 'pointer.primary',
  click: 'pointer.primary',
};

/** What to write instead of a name that is no source, where people name keys otherwise. */
export function hintForSource(name: string): string | undefined {
  if (/^pad\.[abxy]$/i.test(name)) return `${PAD_LETTERS}.`;
  const other = /^[a-z]$/i.test(name)
    ? `Key${name.toUpperCase()}`
    : /^\d$/.test(name)
      ? `Digit${name}`
      : OTHER_NAMES[name.toLowerCase()];
  return other && `Did you mean "${other}"?`;
}
