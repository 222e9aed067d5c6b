import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'vitest';
import { SMALL } from '../scripts/guide.mjs';
import { type Loaded, parseMoveset } from '../src/format/text.js';
import {
  BoxWorld,
  Character,
  type CharacterOptions,
  flatGround,
  type LoggiaEvent,
  type Plan,
  type TileWorld,
} from '../src/index.js';

export { SMALL };

export const ROOT = join(import.meta.dirname, '..');

/** The demo's moveset as text, as far as legs go. */
export const PELL_TEXT = readFileSync(join(ROOT, 'demo/boatyard/pell-basics.yaml'), 'utf8');

/** The plan of a moveset in YAML; a fault in it fails the test with its sentence. */
export function plan(text: string): Plan {
  const loaded = parseMoveset(text);
  if (!loaded.plan) throw new Error(sentences(loaded).join('\n'));
  return loaded.plan;
}

export const pellPlan = (): Plan => plan(PELL_TEXT);

/** `line:column code sentence` for each diagnostic. */
export function sentences(loaded: Loaded): string[] {
  return loaded.diagnostics.map((d) => `${d.line}:${d.column} ${d.code} ${d.sentence}`);
}

/**
 * A character of a small moveset that begins with what all of them share: an input of each kind and
 * a stance on the ground and in the air.
 */
export function makeCharacter(
  more: string,
  options: CharacterOptions = { world: flatGround() },
  inputs: Record<string, string> = {},
): Character {
  const lines = Object.entries(inputs).map(([name, input]) => `  ${name}: ${input}\n`);
  return new Character(plan(SMALL.replace('inputs:\n', `inputs:\n${lines.join('')}`) + more), options);
}

/** In loops of many thousands, `expect` takes longer than what it looks at. What does not hold fails, and says what there was. */
export function must(holds: boolean, what: Readonly<Record<string, unknown>>): void {
  if (!holds) expect.fail(`does not hold: ${JSON.stringify(what)}`);
}

/** Ticks a character so often and returns all that happened, in words short enough to compare. */
export function tick(c: Character, ticks = 1): string[] {
  const told: string[] = [];
  for (let i = 0; i < ticks; i++) {
    c.tick();
    told.push(...c.readout.events.map(brief));
  }
  return told;
}

export function brief(event: LoggiaEvent): string {
  switch (event.kind) {
    case 'started':
      return `+${event.ability}`;
    case 'ended':
      return `-${event.ability} ${event.why}`;
    case 'phase':
      return `${event.ability}.${event.phase}`;
    case 'refused':
      return `!${event.ability} ${event.reasons.map((reason) => reason.code).join()}`;
    case 'stance':
      return `stance ${event.to}`;
    case 'emitted':
    case 'received':
      return `${event.kind} ${event.event}`;
    case 'emptied':
      return `emptied ${event.pool}`;
    case 'latched':
    case 'unlatched':
      return `${event.kind} ${event.ability}`;
    default:
      return event.kind;
  }
}

/** Presses and, one tick later, lets go; returns what happened in both ticks. */
export function tap(c: Character, input: string): string[] {
  c.door.press(input);
  const told = tick(c);
  c.door.release(input);
  return [...told, ...tick(c)];
}

/** The same solids as boxes. */
export function asBoxes(tiles: TileWorld): BoxWorld {
  const boxes = [];
  for (let x = 0; x < tiles.width; x++)
    for (let y = 0; y < tiles.height; y++) {
      const tile = tiles.tileAt(x, y);
      if (tile) boxes.push({ from: [x, tile.oneWay ? y + 0.75 : y] as const, to: [x + 1, y + 1] as const, ...tile });
    }
  return new BoxWorld(boxes);
}
