import { Character, type LoggiaEvent, wordReason } from 'loggia';
import { listen } from 'loggia/browser';
import { formatDiagnostic, parseMoveset } from 'loggia/text';
import { Stage } from './stage.js';
import { yard } from './yard.js';

/** Pell's movesets, by their names. */
const files = Object.fromEntries(
  Object.entries(
    import.meta.glob<string>('../../demo/boatyard/*.yaml', { query: '?raw', import: 'default', eager: true }),
  ).map(([path, text]) => [path.split('/').at(-1), text]),
);
const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['A D', 'go'],
  ['Space', 'hop, off walls, off ledges'],
  ['S', 'duck, slide at a run, let go'],
  ['S+Space', 'through planks'],
  ['W', 'ladder, onto a ledge'],
  ['E', 'scramble up rough wood'],
  ['J or click', 'hook line'],
  ['K', 'swing line'],
  ['F', 'gale dash'],
  ['Q', 'tide step to the ghost'],
  ['R', 'back to the post'],
  ['1 2', 'choose a berth'],
  ['T', 'go there'],
  ['Shift', 'sprint'],
  ['V', 'show rays'],
];
/** More time than this in one frame is dropped: the page was in the background. */
const LONGEST_FRAME = 0.25;

async function start(): Promise<void> {
  const { plan, diagnostics } = parseMoveset(files['pell-mast-row.yaml'], 'pell-mast-row.yaml', {
    read: (path) => ({ text: files[path] }),
  });
  if (!plan) throw new Error(diagnostics.map(formatDiagnostic).join('\n'));
  const find = (id: string) => document.getElementById(id) as HTMLElement;
  const { x, y } = yard.find('@') ?? { x: 3, y: 2 };
  const pell = new Character(plan, { world: yard, at: [x, y] });
  const stage = await Stage.create(find('stage'), yard);
  const ears = listen(pell, { pointer: find('stage'), toWorld: (px, py) => stage.toWorld(px, py) });
  find('keys').innerHTML = KEYS.map(([keys, what]) => `<span><kbd>${keys}</kbd> ${what}</span>`).join('');
  window.addEventListener('keydown', (event) => {
    if (event.code === 'KeyV' && !event.repeat) stage.showsRays = !stage.showsRays;
  });

  const refusal = find('refusal');
  let told = 0;
  const hear = (event: LoggiaEvent) => {
    if (event.kind === 'refused' && event.via === 'input') {
      refusal.textContent = `${event.ability}: ${wordReason(event.main)}`;
      refusal.classList.add('shown');
      told = performance.now();
    }
    if (event.kind === 'emitted' && event.event !== 'scrape') stage.puff(pell.readout.x, pell.readout.y);
    // Fallen out of the yard: back to the post that was touched last, or to the slip.
    if (event.kind === 'fell') {
      const back = pell.readout.mark('moored') ?? yard.find('slip') ?? { x, y };
      pell.door.place(back.x, back.y + 0.1);
      pell.door.velocity(0, 0);
    }
  };
  const state = find('state');
  state.innerHTML =
    '<b data-show="stance"></b><span data-show="ability"></span>' +
    ['wind', 'oil']
      .map((pool) => `<div class="bar ${pool}"><span>${pool}</span><i></i><span data-show="${pool}"></span></div>`)
      .join('') +
    '<div data-show="berth"></div>';
  const shown = new Map<string, string>();
  const show = (key: string, text: string) => {
    if (shown.get(key) === text) return;
    shown.set(key, text);
    (state.querySelector(`[data-show="${key}"]`) as HTMLElement).textContent = text;
  };
  const drawState = () => {
    const { readout } = pell;
    const running = plan.names.lane.flatMap((lane) => readout.ability(lane) ?? []);
    show('stance', readout.stance);
    show('ability', running.join(', ') || 'nothing else');
    show('berth', `berth: ${readout.choice('berth')}`);
    for (const pool of ['wind', 'oil']) {
      const { max } = readout.poolLimits(pool);
      show(pool, readout.pool(pool).toFixed(0));
      const bar = state.querySelector<HTMLElement>(`.${pool} i`);
      bar?.style.setProperty('background-size', `${(100 * readout.pool(pool)) / max}% 100%`);
    }
    if (performance.now() - told > 2500) refusal.classList.remove('shown');
  };

  // `?speed=0.25` plays in slow motion: the same ticks, fewer of them a second.
  const asked = Number(new URLSearchParams(location.search).get('speed'));
  const speed = asked > 0 && asked <= 4 ? asked : 1;
  let owed = 0;
  let before = performance.now();
  const frame = (now: number) => {
    const passed = Math.min((now - before) / 1000, LONGEST_FRAME) * speed;
    before = now;
    for (owed += passed; owed >= plan.dt; owed -= plan.dt) {
      ears.poll();
      yard.advanceTo((pell.hostTick + 1) * plan.dt);
      pell.tick();
      if (pell.readout.eventCount > 0) for (const event of pell.readout.events) hear(event);
    }
    drawState();
    stage.covered = find('keys').offsetHeight + 14;
    stage.draw(pell, passed);
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
}

start().catch((error: unknown) => {
  const shown = document.createElement('pre');
  shown.textContent = String(error);
  document.body.replaceChildren(shown);
});
