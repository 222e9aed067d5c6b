/** How many stretches of ticks are told. */
const MOST = 5;

/** Where in a run an expectation held, and what came near it: so that a failure can say what happened instead. */
export class Sightings {
  private readonly stretches: [from: number, to: number][] = [];
  private more = 0;
  private near: { tick: number; text: string; away: number; rank: number } | undefined;

  /** It held in this tick; ticks come in order. */
  note(tick: number): void {
    const last = this.stretches.at(-1);
    if (last && last[1] === tick - 1) last[1] = tick;
    else if (this.stretches.length < MOST) this.stretches.push([tick, tick]);
    else this.more++;
  }

  /** Something like it happened; what is most like it is kept, and of that what is nearest to the stretch. */
  noteNear(tick: number, text: string, rank: number, from: number, by: number): void {
    const away = tick < from ? from - tick : tick > by ? tick - by : 0;
    const { near } = this;
    if (!near || rank > near.rank || (rank === near.rank && away < near.away)) this.near = { tick, text, away, rank };
  }

  /** The tick in which it held, or came near, that is nearest to a stretch; undefined if there is none. */
  nearestTo(from: number, by: number): number | undefined {
    const away = (tick: number) => Math.max(from - tick, tick - by, 0);
    const ends = this.stretches.flat().sort((a, b) => away(a) - away(b));
    return ends[0] ?? this.near?.tick;
  }

  /** When it did hold, or else what came near, as a sentence; or empty. */
  tell(): string {
    if (this.stretches.length === 0) return this.near ? `nearest, at ${this.near.tick}f: ${this.near.text}` : '';
    const shown = this.stretches.map(([from, to]) => (from === to ? `${from}f` : `${from}f to ${to}f`));
    return `it did at ${shown.join(', ')}${this.more > 0 ? ' and later' : ''}`;
  }
}
