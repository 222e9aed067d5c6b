import { Character } from 'loggia';
import { listen } from 'loggia/browser';
import plan from '../../demo/boatyard/pell-hull.yaml';
import { find, Panel, play, tellFault } from '../page/page.js';
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
/** Radians that the camera turns for a pixel, and in a second of a key. */
const BY_PIXEL = 0.005;
const BY_KEY = 2;

async function start(): Promise<void> {
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

  const turning = new Set<string>();
  window.addEventListener('keydown', ({ code }) => turning.add(code));
  window.addEventListener('keyup', ({ code }) => turning.delete(code));
  window.addEventListener('blur', () => turning.clear());
  find('stage').addEventListener('pointermove', (event) => {
    if (event.buttons & 1) scene.turn(event.movementX * BY_PIXEL, event.movementY * BY_PIXEL);
  });

  const panel = new Panel(pell, KEYS, ['wind', 'oil'], 'height');
  let [x, y, z] = scene.look();
  play(plan.dt, {
    begin(passed) {
      if (turning.has('ArrowLeft')) scene.turn(-BY_KEY * passed, 0);
      if (turning.has('ArrowRight')) scene.turn(BY_KEY * passed, 0);
      [x, y, z] = scene.look();
    },
    tick() {
      ears.poll();
      pell.door.camera(x, z);
      pell.door.aim('look', x, y, z);
      yard.step((pell.hostTick + 1) * plan.dt);
      pell.tick();
      if (pell.readout.eventCount > 0) for (const event of pell.readout.events) panel.hear(event);
    },
    draw() {
      panel.draw(`height ${pell.readout.y.toFixed(1)}`);
      scene.draw(pell, pell.hostTick * plan.dt);
    },
  });
}

start().catch(tellFault);
