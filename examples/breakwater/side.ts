import { type Character, type LoggiaEvent, wordReason } from 'loggia';
import { find } from '../page/page.js';

/** How long a refusal is shown, in milliseconds, and how many inputs are kept in sight. */
const SHOWN = 2000;
const KEPT = 9;
const WORDS: Record<string, string> = {
  'move.left': '\u2190',
  'move.right': '\u2192',
  'move.up': '\u2191',
  'move.down': '\u2193',
  'walk.left': '\u2190',
  'walk.right': '\u2192',
};

/** What the page tells of one fighter: health, guard and charge, what it does and what may cancel it, and its inputs. */
export class Side {
  private readonly host: HTMLElement;
  private readonly history: HTMLElement;
  private readonly shown = new Map<string, string>();
  private readonly pressed: string[] = [];
  private held = '';
  private told = 0;

  constructor(
    private readonly place: 'left' | 'right',
    private readonly title: string,
    private character: Character,
    private readonly pools: readonly string[],
    private readonly charge: string | null,
  ) {
    this.host = find(place);
    this.history = find(`history-${place}`);
    const bar = (name: string) =>
      `<div class="bar ${name}"><span>${name}</span><i></i><span data-show="${place}-${name}"></span></div>`;
    this.host.innerHTML = `<div class="head"><b>${title}</b><span class="pips" data-show="${place}-wins"></span></div>${[
      ...pools,
      ...(charge ? ['charge'] : []),
    ]
      .map(bar)
      .join('')}<div class="does" data-show="${place}-does"></div>`;
  }

  hear(event: LoggiaEvent): void {
    if (event.kind !== 'refused' || event.via !== 'input') return;
    find('refusal').textContent = `${this.title}: ${event.ability}: ${wordReason(event.main)}`;
    find('refusal').classList.add('shown');
    this.told = performance.now();
  }

  /** Notes what is pressed: in order, what is held now marked. */
  noteInputs(): void {
    const { plan, facts } = this.character;
    const held = plan.names.button.filter((button) => facts.held(button));
    for (const button of held) if (facts.pressed(button)) this.pressed.unshift(WORDS[button] ?? button);
    this.pressed.length = Math.min(this.pressed.length, KEPT);
    const text = `${this.pressed.join()} ${held.join()}`;
    if (text === this.held) return;
    this.held = text;
    const marked = new Set(held.map((button) => WORDS[button] ?? button));
    this.history.replaceChildren(
      ...this.pressed.map((word, i) => {
        const item = document.createElement('li');
        item.textContent = word;
        if (marked.has(word) && this.pressed.indexOf(word) === i) item.className = 'held';
        return item;
      }),
    );
  }

  draw(wins: number): void {
    const { readout, plan } = this.character;
    this.show('wins', '\u25cf'.repeat(wins) + '\u25cb'.repeat(Math.max(0, 2 - wins)));
    for (const pool of this.pools) this.bar(pool, readout.pool(pool), readout.poolLimits(pool).max);
    if (this.charge) this.bar('charge', readout.charge(this.charge) * 100, 100);
    const does = plan.names.lane.flatMap((lane) => {
      const ability = readout.ability(lane);
      const phase = readout.phase(lane);
      return ability ? (phase && !/^\d+$/.test(phase) ? `${ability} \u00b7 ${phase}` : ability) : [];
    });
    const opens = readout.opens();
    this.show('does', `${does.join(', ') || readout.stance}${opens.length > 0 ? `  \u2192 ${opens.join(', ')}` : ''}`);
    if (this.told > 0 && performance.now() - this.told > SHOWN) {
      this.told = 0;
      find('refusal').classList.remove('shown');
    }
  }

  private bar(name: string, value: number, most: number): void {
    this.show(name, value.toFixed(0));
    const bar = this.host.querySelector<HTMLElement>(`.bar.${name} i`);
    bar?.style.setProperty('background-size', `${(100 * value) / most}% 100%`);
  }

  private show(key: string, text: string): void {
    if (this.shown.get(key) === text) return;
    this.shown.set(key, text);
    (this.host.querySelector(`[data-show="${this.place}-${key}"]`) as HTMLElement).textContent = text;
  }
}
