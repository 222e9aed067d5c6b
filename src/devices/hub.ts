import type { Character } from '../character/character.js';
import type { Bindings } from './bindings.js';

/**
 * Brings several devices to one door. An input is down while anything holds it; a device that goes
 * away, or a window that loses its focus, releases everything it held.
 */
export class DeviceHub {
  /** By device and source: the inputs that it pressed, whatever it is bound to by now. */
  private readonly held = new Map<string, readonly string[]>();
  private readonly counts = new Map<string, number>();
  /** How often everything was released: what is asked for its state then waits until it is let go. */
  releases = 0;
  private silent = false;

  constructor(
    private readonly character: Pick<Character, 'door'>,
    readonly bindings: Bindings,
  ) {}

  /**
   * While it is true, nothing comes through: for menus and pauses. What is held then is released, and what is pressed meanwhile
   * counts only once it was let go and pressed again. Keys are left to the page. Default false.
   */
  get muted(): boolean {
    return this.silent;
  }

  set muted(muted: boolean) {
    if (muted === this.silent) return;
    this.silent = muted;
    this.release();
  }

  /** A source of a device goes down or up. Returns whether it is for the game: bound to something, and not muted. */
  set(device: string, source: string, down: boolean): boolean {
    const inputs = this.bindings.inputsOf(source);
    this.hold(`${device} ${source}`, inputs, down);
    return inputs.length > 0 && !this.silent;
  }

  /** An input itself goes down or up: a button on the screen, a bot. */
  setInput(device: string, input: string, down: boolean): void {
    this.hold(`${device} ${input}`, [input], down);
  }

  /** Releases all that a device holds, or of all that any holds. */
  release(device?: string): void {
    if (device === undefined) this.releases++;
    for (const key of [...this.held.keys()])
      if (device === undefined || key.startsWith(`${device} `)) this.hold(key, [], false);
  }

  private hold(key: string, inputs: readonly string[], down: boolean): void {
    const before = this.held.get(key);
    if ((before !== undefined) === down || (down && this.silent)) return;
    if (down) this.held.set(key, inputs);
    else this.held.delete(key);
    for (const input of before ?? inputs) {
      const count = (this.counts.get(input) ?? 0) + (down ? 1 : -1);
      this.counts.set(input, count);
      if (down && count === 1) this.character.door.press(input);
      if (!down && count === 0) this.character.door.release(input);
    }
  }
}
