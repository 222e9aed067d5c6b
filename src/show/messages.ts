import type { News } from '../recording/stream.js';
import { fromBase64, toBase64 } from '../report/base64.js';
import type { WorldData } from '../world/world-data.js';

/** By this channel games and viewers of one origin find each other. */
export const CHANNEL = 'loggia';

/** What a game tells. */
export type FromGame =
  | {
      readonly kind: 'here';
      readonly id: string;
      readonly name: string;
      readonly canPause: boolean;
      readonly canRestore: boolean;
      readonly scenery: WorldData | null;
    }
  | { readonly kind: 'gone'; readonly id: string }
  | { readonly kind: 'whole'; readonly id: string; readonly bytes: Uint8Array }
  | { readonly kind: 'news'; readonly id: string; readonly news: News }
  | { readonly kind: 'told'; readonly id: string; readonly text: string };

/** What a viewer asks. */
export type FromViewer =
  | { readonly kind: 'who' }
  | { readonly kind: 'watch'; readonly id: string; readonly viewer: string }
  | { readonly kind: 'leave'; readonly id: string; readonly viewer: string }
  | { readonly kind: 'pause'; readonly id: string; readonly on: boolean }
  | {
      readonly kind: 'texts';
      readonly id: string;
      readonly main: string;
      readonly files: readonly { readonly name: string; readonly text: string }[];
    }
  | { readonly kind: 'restore'; readonly id: string; readonly tick: number };

/** How lists of numbers and bytes stand in a text. */
const KINDS = { numbers: Float64Array, bytes: Uint8Array } as const;

/** A message as a line of text, for where none can be sent as it is. */
export function writeMessage(message: FromGame | FromViewer): string {
  return JSON.stringify(message, (_, value) => {
    for (const [kind, type] of Object.entries(KINDS))
      if (value instanceof type)
        return { $: kind, of: toBase64(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)) };
    return typeof value === 'number' && !Number.isFinite(value) ? { $: 'number', of: String(value) } : value;
  });
}

/** The message of such a line. */
export function readMessage(text: string): unknown {
  return JSON.parse(text, (_, value) => {
    if (typeof value !== 'object' || value === null || typeof value.$ !== 'string' || typeof value.of !== 'string')
      return value;
    if (value.$ === 'number') return Number(value.of);
    const bytes = fromBase64(value.of);
    return value.$ === 'numbers' ? new Float64Array(bytes.buffer, 0, bytes.length >> 3) : bytes;
  });
}
