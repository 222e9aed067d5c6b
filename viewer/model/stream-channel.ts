import { type FromGame, type FromViewer, readMessage, writeMessage } from '../../src/show/messages.js';
import type { Channel } from './remote.js';

/** How long it waits before it asks again, in milliseconds, where the program has ended. */
const AGAIN = 1000;

/** Hears of games in the program that serves this page. */
export class StreamChannel implements Channel {
  onmessage: Channel['onmessage'] = null;

  constructor(
    private readonly at: string,
    private readonly token: string,
  ) {
    this.hear();
  }

  postMessage(message: FromViewer): void {
    fetch(`${this.at}/say`, {
      method: 'POST',
      headers: this.headers,
      body: writeMessage(message),
      keepalive: true,
    }).catch(() => {});
  }

  private get headers(): Record<string, string> {
    return { 'x-loggia-token': this.token };
  }

  private async hear(): Promise<void> {
    try {
      const { body, ok } = await fetch(`${this.at}/games`, { headers: this.headers });
      const reader = ok ? body?.pipeThrough(new TextDecoderStream()).getReader() : undefined;
      // Whoever was there before it listened says so once more.
      if (reader) this.postMessage({ kind: 'who' });
      let text = '';
      for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
        text += part.value;
        const lines = text.split('\n');
        text = lines.pop() ?? '';
        for (const line of lines)
          this.onmessage?.(new MessageEvent('message', { data: readMessage(line) as FromGame }));
      }
    } catch {
      // The program has ended, or is about to begin anew.
    }
    setTimeout(() => this.hear(), AGAIN);
  }
}
