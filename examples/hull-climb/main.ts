import { Character, type LoggiaEvent, wordReason } from 'loggia';
import { listen } from 'loggia/browser';
import { formatDiagnostic, parseMoveset } from 'loggia/text';
import moveset from '../../demo/boatyard/pell-hull.yaml?raw';
import { Yard } from './physics.js';
import { Scene } from './scene.js';

const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['W A S D', 'go'],
  ['drag, or ← →', 'look'],
  ['Space', 'hop, leap off a hull'],
  ['Shift', 'sprint'],
  ['E', 'hold to climb'],
  ['Q', 'hook line'],
  ['F', 'gale dash'],
  ['T', 'tide step to the ghost'],
  ['R', 'hold for a keel rush'],
];
/** More time than this in one frame is dropped: the page was in the background. */
const LONGEST_FRAME = 0.25;
/** Radians that the camera turns for a pixel, and in a second of a key. */
const BY_PIXEL = 0.005;
const BY_KEY = 2;

async function start(): Promise<void> {
  const { plan, diagnostics } = parseMoveset(moveset, 'pell-hull.yaml');
  if (!plan) throw new Error(diagnostics.map(formatDiagnostic).join('\n'));
  const find = (id: string) => document.getElementById(id) as HTMLElement;
  const yard = await Yard.create();
  const pell = new Character(plan, { world: yard.world, at: [0, 0, -1] });
  pell.door.face(0, -1);
  const scene = new Scene(find('stage'));
  const ears = listen(pell);
  // The arrow keys turn the camera here, and do not walk.
  for (const [side, key] of [
    ['left', 'KeyA'],
    ['right', 'KeyD'],
    ['up', 'KeyW'],
    ['down', 'KeyS'],
  ] as const)
    ears.hub.bindings.rebind(`move.${side}`, [key]);
  find('keys').innerHTML = KEYS.map(([keys, what]) => `<span><kbd>${keys}</kbd> ${what}</span>`).join('');

  const turning = new Set<string>();
  window.addEventListener('keydown', ({ code }) => turning.add(code));
  window.addEventListener('keyup', ({ code }) => turning.delete(code));
  window.addEventListener('blur', () => turning.clear());
  find('stage').addEventListener('pointermove', (event) => {
    if (event.buttons & 1) scene.turn(event.movementX * BY_PIXEL, event.movementY * BY_PIXEL);
  });

  const refusal = find('refusal');
  let told = 0;
  const hear = (event: LoggiaEvent) => {
    if (event.kind !== 'refused' || event.via !== 'input') return;
    refusal.textContent = `${event.ability}: ${wordReason(event.main)}`;
    refusal.classList.add('shown');
    told = performance.now();
  };
  const state = find('state');
  state.innerHTML =
    '<b data-show="stance"></b><span data-show="ability"></span>' +
    ['wind', 'oil']
      .map((pool) => `<div class="bar ${pool}"><span>${pool}</span><i></i><span data-show="${pool}"></span></div>`)
      .join('') +
    '<div data-show="height"></div>';
  const show = (key: string, text: string) => {
    const element = state.querySelector(`[data-show="${key}"]`);
    if (element && element.textContent !== text) element.textContent = text;
  };
  const drawState = () => {
    const { readout } = pell;
    const running = plan.names.lane.flatMap((lane) => readout.ability(lane) ?? []);
    show('stance', readout.stance);
    show('height', `height ${readout.y.toFixed(1)}`);
    show('ability', running.join(', ') || 'nothing else');
    for (const pool of ['wind', 'oil']) {
      show(pool, readout.pool(pool).toFixed(0));
      const part = readout.pool(pool) / readout.poolLimits(pool).max;
      state.querySelector<HTMLElement>(`.${pool} i`)?.style.setProperty('background-size', `${100 * part}% 100%`);
    }
    if (performance.now() - told > 2500) refusal.classList.remove('shown');
  };

  // `?speed=0.25` plays in slow motion: the same ticks, fewer of them a second.
  const asked = Number(new URLSearchParams(location.search).get('speed'));
  const speed = asked > 0 && asked <= 4 ? asked : 1;
  let owed = 0;
  let before = performance.now();
  const frame = (now: number) => {
    const passed = Math.min((now - before) / 1000, LONGEST_FRAME);
    before = now;
    if (turning.has('ArrowLeft')) scene.turn(-BY_KEY * passed, 0);
    if (turning.has('ArrowRight')) scene.turn(BY_KEY * passed, 0);
    const [x, y, z] = scene.look();
    for (owed += passed * speed; owed >= plan.dt; owed -= plan.dt) {
      ears.poll();
      pell.door.camera(x, z);
      pell.door.aim('look', x, y, z);
      yard.step((pell.hostTick + 1) * plan.dt);
      pell.tick();
      if (pell.readout.eventCount > 0) for (const event of pell.readout.events) hear(event);
    }
    drawState();
    scene.draw(pell, pell.hostTick * plan.dt);
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
}

start().catch((error: unknown) => {
  const shown = document.createElement('pre');
  shown.textContent = String(error);
  document.body.replaceChildren(shown);
});
