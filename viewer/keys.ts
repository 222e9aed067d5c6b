import type { Model } from './model/model.js';

/** One shortcut: what help calls it, and what it does. `back` is -1 with Shift. */
interface Shortcut {
  readonly keys: readonly string[];
  readonly shown: string;
  readonly what: string;
  run(model: Model, back: 1 | -1): void;
}

/** Keys of the whole page. */
export const SHORTCUTS: readonly Shortcut[] = [
  { keys: [' '], shown: 'Space', what: 'play, pause', run: (model) => model.toggle() },
  { keys: [','], shown: ',', what: 'one tick back', run: (model) => model.step(-1) },
  { keys: ['.'], shown: '.', what: 'one tick forward', run: (model) => model.step(1) },
  {
    keys: ['arrowleft'],
    shown: 'Left',
    what: 'one tick back; with Shift ten',
    run: (model, back) => model.step(back < 0 ? -10 : -1),
  },
  {
    keys: ['arrowright'],
    shown: 'Right',
    what: 'one tick forward; with Shift ten',
    run: (model, back) => model.step(back < 0 ? 10 : 1),
  },
  { keys: ['home'], shown: 'Home', what: 'the first tick', run: (model) => model.goTo(0) },
  { keys: ['end'], shown: 'End', what: 'the last tick', run: (model) => model.goTo(model.ticks.last) },
  {
    keys: ['r'],
    shown: 'R',
    what: 'the next refusal; with Shift the one before',
    run: (model, back) => model.jump('refusal', back),
  },
  {
    keys: ['s'],
    shown: 'S',
    what: 'the next start; with Shift the one before',
    run: (model, back) => model.jump('start', back),
  },
  {
    keys: ['b'],
    shown: 'B',
    what: 'the next blow; with Shift the one before',
    run: (model, back) => model.jump('blow', back),
  },
  { keys: ['+', '='], shown: '+', what: 'zoom in on the timeline', run: (model) => model.zoom(0.7, model.tick) },
  { keys: ['-'], shown: '-', what: 'zoom out', run: (model) => model.zoom(1 / 0.7, model.tick) },
  { keys: ['0'], shown: '0', what: 'the whole recording', run: (model) => model.showAll() },
  {
    keys: ['l'],
    shown: 'L',
    what: 'play what the timeline shows again and again, or no longer',
    run: (model) => model.toggleLoop(),
  },
  { keys: ['m'], shown: 'M', what: 'the next member', run: (model) => model.selectNext() },
  {
    keys: ['escape'],
    shown: 'Escape',
    what: 'pause what is played; close "why not"; leave the text',
    run: (model) => model.closeWhy(),
  },
];

/** Keys of the text, which are its editor's own. */
export const TEXT_KEYS: readonly (readonly [shown: string, what: string])[] = [
  ['Alt+Up, Alt+Down', 'the number at the cursor up or down; with Shift ten steps'],
  ['Ctrl+Space', 'what may stand here'],
  ['Ctrl+Z, Ctrl+Y', 'undo, redo'],
  ['Ctrl+F', 'find'],
];

/** Does what a key stands for; those that are typed into something are its own. */
export function pressKey(event: KeyboardEvent, model: Model, help: () => void): void {
  const on = event.target as HTMLElement;
  if (on.closest('.cm-editor, select, input, dialog') || event.ctrlKey || event.metaKey || event.altKey) return;
  const key = event.key.toLowerCase();
  // While somebody plays, keys are the game's.
  if (model.live?.isPlayedHere && model.playing) {
    if (key === 'escape') model.pause();
    return;
  }
  // A button that has the focus is pressed by the space bar.
  if (key === ' ' && on.closest('button')) return;
  if (key === '?') {
    help();
    return;
  }
  const found = SHORTCUTS.find(({ keys }) => keys.includes(key));
  if (!found) return;
  event.preventDefault();
  found.run(model, event.shiftKey ? -1 : 1);
}
