import { type Answer, type Character, wordReason } from 'loggia';

/** Keys that the page lists, the input each presses, and what it does. */
const KEYS = [
  ['A', 'move.left', ''],
  ['D', 'move.right', 'go'],
  ['S', 'move.down', 'duck'],
  ['Space', 'jump', 'hop and second hop'],
  ['F', 'gale', 'gale dash in the air'],
  ['Shift', 'sprint', 'sprint while held'],
  ['C', 'sprintLock', 'sprint on and off'],
  ['J', 'gaff', 'gaff'],
  ['E', 'keel', 'keel rush'],
  ['Q', 'lamp', 'lamp'],
  ['R', 'pump', 'pump'],
  ['G', 'lantern', 'lantern form'],
] as const;

/** Shows what the character is at: stance, lanes, pools, the last refusal, and for each ability whether it may start, or why not. */
export class Panel {
  private readonly shown = new Map<string, string>();

  constructor(
    private readonly root: HTMLElement,
    private readonly character: Character,
  ) {
    const { lane, pool, ability } = character.plan.names;
    root.innerHTML = `
      <section><h2>Stance</h2><div class="big" data-show="stance"></div><div data-show="motion"></div></section>
      <section><h2>Lanes</h2>${lane.map((name) => barRow(name, `lane-${name}`)).join('')}</section>
      <section><h2>Pools</h2>${pool.map((name) => barRow(name, `pool-${name}`, 'lamp')).join('')}</section>
      <section><h2>Last refusal</h2><div class="refusal" data-show="refusal">None yet: nothing was refused.</div></section>
      <ul class="chips">${ability.map((name) => `<li data-chip="${name}"><b>${name}</b><span data-show="ready-${name}"></span></li>`).join('')}</ul>
      <p class="keys">${KEYS.map(([key, input, words]) => `<kbd data-press="${input}">${key}</kbd> ${words}`)
        .join(', ')
        .replace(' ,', '')}; press them here too, or use a gamepad</p>`;
  }

  draw(): void {
    const { readout, plan } = this.character;
    this.show('stance', readout.stance);
    this.show(
      'motion',
      `at ${readout.x.toFixed(1)}, ${readout.y.toFixed(1)}, velocity ${readout.vx.toFixed(1)}, ${readout.vy.toFixed(1)}`,
    );
    for (const lane of plan.names.lane) {
      const ability = readout.ability(lane);
      const phase = readout.phase(lane);
      this.show(`lane-${lane}`, ability ? (phase ? `${ability}, ${phase}` : ability) : 'free');
      this.fill(`lane-${lane}`, ability ? readout.progress(lane) || 1 : 0);
    }
    for (const name of plan.names.pool) {
      const value = readout.pool(name);
      const { min, max } = readout.poolLimits(name);
      this.show(`pool-${name}`, `${value.toFixed(1)} of ${max}`);
      this.fill(`pool-${name}`, (value - min) / (max - min));
    }
    for (const { name } of plan.abilities) {
      const { may, main, reasons } = this.character.explain(name);
      const state = readout.isRunning(name) ? 'running' : may ? 'may' : '';
      this.mark(name, state, reasons.map(wordReason).join('\n'));
      this.show(`ready-${name}`, state === 'running' ? state : main ? escapeHtml(wordReason(main)) : 'may start');
    }
  }

  /** What became of the presses of a tick: the last one that was refused is shown, with the reason that matters most. */
  hear(answers: readonly Answer[]): void {
    for (const { refused, reason } of answers)
      if (reason !== null) this.show('refusal', `${refused}<ul><li>${escapeHtml(wordReason(reason))}</li></ul>`);
  }

  /** Touches the page only where it changes. */
  private show(key: string, html: string): void {
    if (this.shown.get(key) === html) return;
    this.shown.set(key, html);
    const element = this.root.querySelector(`[data-show="${key}"]`);
    if (element) element.innerHTML = html;
  }

  private mark(ability: string, state: string, title: string): void {
    if (this.shown.get(`${ability}-state`) === state + title) return;
    this.shown.set(`${ability}-state`, state + title);
    const chip = this.root.querySelector<HTMLElement>(`[data-chip="${ability}"]`);
    if (!chip) return;
    chip.className = state;
    chip.title = title;
  }

  private fill(key: string, part: number): void {
    const width = `${Math.round(part * 100)}%`;
    if (this.shown.get(`${key}-bar`) === width) return;
    this.shown.set(`${key}-bar`, width);
    this.root.querySelector<HTMLElement>(`[data-bar="${key}"]`)?.style.setProperty('width', width);
  }
}

function barRow(name: string, key: string, kind = ''): string {
  return `<div class="row"><b>${name}</b><div class="bar ${kind}"><i data-bar="${key}"></i></div><span data-show="${key}"></span></div>`;
}

function escapeHtml(text: string): string {
  return text.replace(/[&<>]/g, (letter) => `&#${letter.charCodeAt(0)};`);
}
