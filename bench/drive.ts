import type { Character } from '../src/index.js';
import type { ByHand, Key } from './by-hand.js';

/** Ticks of one loop: eight seconds of brisk play, each button with a rhythm of its own. */
export const LOOP = 480;

interface Change {
  readonly key: Key;
  readonly input: string;
  readonly down: boolean;
}

const INPUTS: Record<Key, string> = {
  left: 'move.left',
  right: 'move.right',
  up: 'move.up',
  down: 'move.down',
  jump: 'jump',
  gale: 'gale',
  sprint: 'sprint',
  lock: 'sprintLock',
};

/** For each tick of a loop, the keys that go down or up: what a page is told by its keyboard. */
export function writeChanges(): Change[][] {
  const every = (tick: number, period: number, from: number, length: number) => {
    const at = tick % period;
    return at >= from && at < from + length;
  };
  const held = (key: Key, t: number): boolean => {
    switch (key) {
      case 'right':
        return every(t, LOOP, 10, 200) || every(t, LOOP, 400, 40);
      case 'left':
        return every(t, LOOP, 190, 150);
      case 'up':
        return every(t, LOOP, 130, 20);
      case 'down':
        return every(t, LOOP, 350, 30) || every(t, LOOP, 420, 10);
      case 'jump':
        return every(t, 60, 5, 14) || every(t, 60, 28, 4);
      case 'gale':
        return every(t, 90, 25, 3);
      case 'sprint':
        return every(t, 120, 10, 90);
      case 'lock':
        return every(t, 240, 100, 2);
    }
  };
  const keys = Object.keys(INPUTS) as Key[];
  return Array.from({ length: LOOP }, (_, t) =>
    keys
      .filter((key) => held(key, t) !== held(key, (t + LOOP - 1) % LOOP))
      .map((key) => ({ key, input: INPUTS[key], down: held(key, t) })),
  );
}

export function driveCharacter({ door }: Character, changes: readonly Pick<Change, 'input' | 'down'>[]): void {
  for (let i = 0; i < changes.length; i++) {
    if (changes[i].down) door.press(changes[i].input);
    else door.release(changes[i].input);
  }
}

export function driveByHand(hand: ByHand, changes: readonly Change[]): void {
  for (let i = 0; i < changes.length; i++) hand.key(changes[i].key, changes[i].down);
}
