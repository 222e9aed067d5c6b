const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('');
const digits = '0123456789'.split('');

const OTHERS = [
  ...(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Space', 'Enter', 'Escape', 'Tab', 'Backspace'] as const),
  ...(['ShiftLeft', 'ShiftRight', 'ControlLeft', 'ControlRight', 'AltLeft', 'AltRight'] as const),
  ...(['MetaLeft', 'MetaRight'] as const),
  ...(['CapsLock', 'Insert', 'Delete', 'Home', 'End', 'PageUp', 'PageDown', 'ContextMenu'] as const),
  ...(['Minus', 'Equal', 'BracketLeft', 'BracketRight', 'Backslash', 'Semicolon', 'Quote', 'Backquote'] as const),
  ...(['Comma', 'Period', 'Slash', 'IntlBackslash', 'IntlRo', 'IntlYen'] as const),
  ...(['NumpadAdd', 'NumpadSubtract', 'NumpadMultiply', 'NumpadDivide', 'NumpadDecimal', 'NumpadEnter'] as const),
] as const;

type Letter =
  | ('A' | 'B' | 'C' | 'D' | 'E' | 'F' | 'G' | 'H' | 'I' | 'J' | 'K' | 'L' | 'M')
  | ('N' | 'O' | 'P' | 'Q' | 'R' | 'S' | 'T' | 'U' | 'V' | 'W' | 'X' | 'Y' | 'Z');
type Digit = '0' | '1' | '2' | '3' | '4' | '5' | '6' | '7' | '8' | '9';
type FunctionKey = `F${1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | 12}`;

/** What a button can be bound to: a W3C `code` of a key, `pad.south` and the like, or `pointer.primary` and the like. */
export type Source =
  | (typeof OTHERS)[number]
  | `Key${Letter}`
  | `${'Digit' | 'Numpad'}${Digit}`
  | FunctionKey
  | (typeof PAD_BUTTONS)[number]
  | (typeof POINTER_BUTTONS)[number];

/** Keyboard `code` values of W3C UI Events that keyboards commonly have. */
const KEYS = [
  ...letters.map((letter) => `Key${letter}`),
  ...digits.flatMap((digit) => [`Digit${digit}`, `Numpad${digit}`]),
  ...Array.from({ length: 12 }, (_, i) => `F${i + 1}`),
  ...OTHERS,
] as Source[];

/** Buttons of the W3C standard gamepad, in its order: the position here is the button's index there. */
export const PAD_BUTTONS = [
  ...(['pad.south', 'pad.east', 'pad.west', 'pad.north'] as const),
  ...(['pad.leftShoulder', 'pad.rightShoulder', 'pad.leftTrigger', 'pad.rightTrigger'] as const),
  ...(['pad.back', 'pad.start', 'pad.leftStick', 'pad.rightStick'] as const),
  ...(['pad.up', 'pad.down', 'pad.left', 'pad.right', 'pad.center'] as const),
] as const;

/** Pointer buttons by the `button` value of W3C Pointer Events: the position here is that value. */
export const POINTER_BUTTONS = [
  'pointer.primary',
  'pointer.middle',
  'pointer.secondary',
  'pointer.back',
  'pointer.forward',
] as const;

/** Everything that a button can be bound to. */
export const SOURCES: readonly Source[] = [...KEYS, ...PAD_BUTTONS, ...POINTER_BUTTONS];

const PAD_LETTERS = 'Pad buttons are named by their place: pad.south, pad.east, pad.west and pad.north';
const OTHER_NAMES = new Map(
  Object.entries({
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
  }),
);

/** What to write instead of a name that is no source, where people name keys otherwise. */
export function hintForSource(name: string): string | undefined {
  if (/^pad\.[abxy]$/i.test(name)) return `${PAD_LETTERS}.`;
  const other = /^[a-z]$/i.test(name)
    ? `Key${name.toUpperCase()}`
    : /^\d$/.test(name)
      ? `Digit${name}`
      : OTHER_NAMES.get(name.toLowerCase());
  return other && `Did you mean "${other}"?`;
}
