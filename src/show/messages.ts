import type { News } from '../recording/stream.js';

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
