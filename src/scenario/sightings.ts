/** How many stretches of ticks are told. */
const MOST = 5;

/** Where in a run an expectation held, and what came near it: so that a failure can say what happened instead. */
export class Sightings {
  private readonly stretches: [from: number, to: number][] = [];
  private more = 0;
  private near: { tick: number; text: string; away: number } | undefined;

  /** It held in this tick; ticks come in order. */
  note(tick: number): void {
    const last = this.stretches.at(-1);
    if (last && last[1] === tick - 1) last[1] = tick;
    else if (this.stretches.length < MOST) this.stretches.push([tick, tick]);
    else this.more++;
  }

  /** Something like it happened; what is nearest to the stretch that was asked for is kept. */
  noteNear(tick: number, text: string, from: number, by: number): void {
    const away = tick < from ? from - tick : tick > by ? tick - by : 0;
    if (!this.near || away < this.near.away) this.near = { tick, text, away };
  }

  /** The tick of the nearest event, if any came near. */
  get nearest(): number | undefined {
    return this.near?.tick;
  }

  /** The first tick of a stretch in which it held. */
  first(from: number, by: number): number | undefined {
    return this.stretches.find(([, to]) => to >= from && to <= by)?.[0];
  }

  /** All of it as a sentence, or empty. */
  tell(): string {
    const parts: string[] = [];
    if (this.stretches.length > 0) {
      const shown = this.stretches.map(([from, to]) => (from === to ? `${from}f` : `${from}f to ${to}f`));
      parts.push(`it did at ${shown.join(', ')}${this.more > 0 ? ' and later' : ''}`);
    }
    if (this.near) parts.push(`nearest, at ${this.near.tick}f: ${this.near.text}`);
    return parts.join('; ');
  }
}
