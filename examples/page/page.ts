import './page.css';
import { type Character, FixedSteps, type LoggiaEvent, wordReason } from 'loggia';

/** How long a refusal is shown, in milliseconds. */
const SHOWN = 2500;

export function find(id: string): HTMLElement {
  return document.getElementById(id) as HTMLElement;
}

/** What a page tells of a character: the keys, its state with one line of the page's own, and the last refusal. */
export class Panel {
  private readonly state = find('state');
  private readonly refusal = find('refusal');
  private readonly shown = new Map<string, string>();
  private told = 0;

  constructor(
    private readonly character: Character,
    keys: readonly (readonly [keys: string, what: string])[],
    private readonly pools: readonly string[],
    private readonly own: string,
  ) {
    find('keys').innerHTML = keys.map(([keys, what]) => `<span><kbd>${keys}</kbd> ${what}</span>`).join('');
    const bars = pools.map(
      (pool) => `<div class="bar ${pool}"><span>${pool}</span><i></i><span data-show="${pool}"></span></div>`,
    );
    this.state.innerHTML = `<b data-show="stance"></b><span data-show="ability"></span>${bars.join('')}<div data-show="${own}"></div>`;
  }

  hear(event: LoggiaEvent): void {
    if (event.kind !== 'refused' || event.via !== 'input') return;
    this.refusal.textContent = `${event.ability}: ${wordReason(event.main)}`;
    this.refusal.classList.add('shown');
    this.told = performance.now();
  }

  draw(own: string): void {
    const { readout, plan } = this.character;
    const running = plan.names.lane.flatMap((lane) => readout.ability(lane) ?? []);
    this.show('stance', readout.stance);
    this.show('ability', running.join(', ') || 'nothing else');
    this.show(this.own, own);
    for (const pool of this.pools) {
      this.show(pool, readout.pool(pool).toFixed(0));
      const part = readout.pool(pool) / readout.poolLimits(pool).max;
      const bar = this.state.querySelector<HTMLElement>(`.${pool} i`);
      bar?.style.setProperty('background-size', `${100 * part}% 100%`);
    }
    if (performance.now() - this.told > SHOWN) this.refusal.classList.remove('shown');
  }

  private show(key: string, text: string): void {
    if (this.shown.get(key) === text) return;
    this.shown.set(key, text);
    (this.state.querySelector(`[data-show="${key}"]`) as HTMLElement).textContent = text;
  }
}

export interface Play {
  /** How fast it is played now, besides what the address asks for. Default 1. */
  speed?(): number;
  /** Before the ticks of a frame, with the seconds that passed. */
  begin?(passed: number): void;
  tick(): void;
  /** After them, with the seconds of play that passed. */
  draw(passed: number): void;
}

/** Ticks and draws from now on. `?speed=0.25` plays in slow motion: the same ticks, fewer of them a second. */
export function play(dt: number, { begin, tick, draw, speed: own = () => 1 }: Play): void {
  const asked = Number(new URLSearchParams(location.search).get('speed'));
  const speed = asked > 0 && asked <= 4 ? asked : 1;
  let ticks = 0;
  const steps = new FixedSteps(1 / dt, tick);
  let before = performance.now();
  const frame = (time: number) => {
    const passed = (time - before) / 1000;
    before = time;
    begin?.(passed);
    const now = passed * speed * own();
    ticks += steps.advance(now);
    // For whoever watches the page, tests too.
    document.body.dataset.ticks = String(ticks);
    draw(now);
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
}

/** In place of the page: why it did not start. */
export function tellFault(error: unknown): void {
  const shown = document.createElement('pre');
  shown.textContent = String(error);
  document.body.replaceChildren(shown);
}
