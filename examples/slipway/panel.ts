import { type Character, type LoggiaEvent, wordReason } from 'loggia';

/** Shows what the character is at: stance, lanes, pools, charges and cooldowns, the last refusal. */
export class Panel {
  private readonly shown = new Map<string, string>();

  constructor(
    private readonly root: HTMLElement,
    private readonly character: Character,
  ) {
    const { lane, pool, ability } = character.plan.names;
    root.innerHTML = `
      <section><h2>Stance</h2><div class="big" data-show="stance"></div><div data-show="motion"></div></section>
      <section><h2>Abilities</h2>${lane.map((name) => barRow(name, `lane-${name}`)).join('')}</section>
      <section><h2>Pools and charges</h2>${pool.map((name) => barRow(name, `pool-${name}`, 'lamp')).join('')}
        ${ability.map((name) => `<div class="row"><b>${name}</b><span></span><span data-show="ready-${name}"></span></div>`).join('')}
      </section>
      <section><h2>Last refusal</h2><div class="refusal" data-show="refusal">None yet: nothing was refused.</div>
        <div class="keys"><kbd>A</kbd> <kbd>D</kbd> go, <kbd>S</kbd> duck, <kbd>Space</kbd> hop and second hop, <kbd>F</kbd> gale dash in the air,
        <kbd>Shift</kbd> sprint while held, <kbd>C</kbd> sprint on and off; or a gamepad</div></section>`;
  }

  draw(): void {
    const { readout, plan } = this.character;
    this.show('stance', readout.stance);
    this.show(
      'motion',
      `at ${readout.x.toFixed(1)}, ${readout.y.toFixed(1)}, going ${readout.vx.toFixed(1)}, ${readout.vy.toFixed(1)}`,
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
    for (const ability of plan.abilities)
      this.show(`ready-${ability.name}`, this.wordReady(ability.name, ability.charges));
  }

  hear(events: readonly LoggiaEvent[]): void {
    for (const event of events) {
      if (event.kind !== 'refused') continue;
      const reasons = event.reasons.map((reason) => `<li>${escapeHtml(wordReason(reason))}</li>`).join('');
      this.show('refusal', `${event.ability}<ul>${reasons}</ul>`);
    }
  }

  private wordReady(ability: string, charges: number): string {
    const { readout } = this.character;
    const cooldown = readout.cooldown(ability);
    if (readout.isRunning(ability)) return 'running';
    if (cooldown > 0) return `in ${cooldown.toFixed(1)} s`;
    if (charges > 0) return `${readout.charges(ability)} of ${charges}`;
    return readout.isLatched(ability) ? 'latched' : 'ready';
  }

  /** Touches the page only where it changes. */
  private show(key: string, html: string): void {
    if (this.shown.get(key) === html) return;
    this.shown.set(key, html);
    const element = this.root.querySelector(`[data-show="${key}"]`);
    if (element) element.innerHTML = html;
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
