import type { Plan } from '../compile/plan.js';
import { type Line, readMoveset, writeMoveset } from './file.js';
import type { Recording } from './recording.js';
import type { Change, Run } from './run.js';

/** What of a recording has come since it was told last: plain data, which can be sent to another page. */
export interface News {
  /** The first tick of it. */
  readonly from: number;
  readonly frames: readonly { readonly frame: Float64Array; readonly told: Float64Array }[];
  /** Lists that only grow, whole; left out where nothing was added. */
  readonly names?: readonly string[];
  readonly kinds?: readonly string[];
  readonly teams?: readonly string[];
  readonly words?: readonly string[];
  readonly tags?: readonly (readonly string[])[];
  /** Movesets that are new, by their index. */
  readonly plans?: readonly (readonly [index: number, moveset: Line])[];
  readonly places?: readonly (readonly [string, readonly [number, number, number] | null])[];
  readonly changes?: readonly Change[];
}

/** So many ticks are told at once at most: a page that slept begins anew. */
const MOST = 600;
const LISTS = ['names', 'kinds', 'teams', 'words', 'tags'] as const;

/** Tells of a recording what is new, again and again. */
export class Sender {
  private next: number;
  private plans: readonly Plan[];
  private counts: Readonly<Record<string, number>>;

  constructor(private readonly recording: Recording) {
    const { run } = recording;
    this.next = recording.last + 1;
    this.plans = [...run.plans];
    this.counts = countsOf(run);
  }

  /** What came since the last call; null where nothing did, and `lost` where it must begin anew with the whole recording. */
  news(): News | 'lost' | null {
    const { recording, counts } = this;
    const { run, first, last } = recording;
    // It went back, or so much came that it is no news.
    if (last < this.next - 1 || first > this.next || last - this.next > MOST) return 'lost';
    if (last < this.next) return null;
    // What plays somebody is told only in the whole.
    if (run.opponents.size !== counts.opponents) return 'lost';
    const from = this.next;
    const frames = [];
    for (let tick = from; tick <= last; tick++) {
      const page = run.frames.pageOf(tick);
      const index = tick - page.first;
      const frame = run.frames.read(tick).slice(0, page.size);
      frames.push({ frame, told: page.told.slice(page.toldBy(index - 1), page.toldBy(index)) });
    }
    this.next = last + 1;
    const now = countsOf(run);
    const plans = run.plans.flatMap((plan, i) => (plan === this.plans[i] ? [] : [[i, writeMoveset(plan)] as const]));
    const grown = LISTS.filter((list) => now[list] !== counts[list]);
    const news: News = {
      from,
      frames,
      ...Object.fromEntries(grown.map((list) => [list, [...run[list]]])),
      ...(plans.length > 0 && { plans }),
      ...(now.places !== counts.places && { places: [...run.places] }),
      ...(now.changes !== counts.changes && { changes: [...run.changes] }),
    };
    this.plans = [...run.plans];
    this.counts = now;
    return news;
  }
}

function countsOf(run: Run): Record<string, number> {
  return {
    ...Object.fromEntries(LISTS.map((list) => [list, run[list].length])),
    opponents: run.opponents.size,
    places: run.places.size,
    changes: run.changes.length,
  };
}

/** Adds to a recording that was read from a file what another page tells of it; keeps the last seconds. */
export function addNews(recording: Recording, news: News, seconds: number): void {
  const { run } = recording;
  const { frames } = run;
  for (const list of LISTS) {
    const given = news[list];
    if (given) (run[list] as unknown[]).splice(0, Number.POSITIVE_INFINITY, ...given);
  }
  // One with other numbers has the same fingerprint: it is read anew, unless it has functions.
  for (const [index, line] of news.plans ?? [])
    (run.plans as Plan[])[index] = readMoveset(line, line.source === undefined ? run.plans : []);
  for (const [key, place] of news.places ?? []) (run.places as Map<string, typeof place>).set(key, place);
  if (news.changes) run.changes.splice(0, Number.POSITIVE_INFINITY, ...news.changes);
  frames.limit(seconds * run.rate, 256 * 2 ** 20);
  news.frames.forEach(({ frame, told }, i) => {
    frames.begin(news.from + i, frame.length);
    frames.range(frame, 0, frame.length);
    frames.tell(told, 0, told.length);
    frames.end();
  });
}
