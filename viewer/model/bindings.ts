import { Bindings } from '../../src/devices/bindings.js';
import { B_DOWN, BUTTON } from '../../src/record/slots.js';
import type { Seen } from '../../src/recording/moment.js';

/** An input with what it is bound to, and whether it is held. */
export interface BoundInput {
  readonly input: string;
  readonly keys: string;
  readonly held: boolean;
}

/** The inputs of somebody that keys press; sides of sticks are inputs of their own. */
export function bindingsOf({ plan, c }: Seen): BoundInput[] {
  const bindings = new Bindings(plan);
  return plan.names.button.flatMap((input, i) => {
    const sources = bindings.sourcesOf(input);
    const own = sources.find((source) => !source.startsWith('pad.')) ?? sources[0];
    if (own === undefined) return [];
    return [{ input, keys: wordKey(own), held: c.r[plan.layout.buttons + i * BUTTON + B_DOWN] !== 0 }];
  });
}

const ARROWS: Readonly<Record<string, string>> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓' };

/** `KeyF` as it stands on the key. */
function wordKey(code: string): string {
  return ARROWS[code] ?? code.replace(/^(Key|Digit)/, '');
}
