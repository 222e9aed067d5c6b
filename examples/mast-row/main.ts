import { Character, type LoggiaEvent } from 'loggia';
import { listen } from 'loggia/browser';
import plan from '../../demo/boatyard/pell-mast-row.yaml';
import { find, Panel, play, tellFault } from '../page/page.js';
import { Stage } from './stage.js';
import { yard } from './yard.js';

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

async function start(): Promise<void> {
  const { x, y } = yard.find('@') ?? { x: 3, y: 2 };
  const pell = new Character(plan, { world: yard, at: [x, y] });
  const stage = await Stage.create(find('stage'), yard);
  const ears = listen(pell, { pointer: find('stage'), toWorld: (px, py) => stage.toWorld(px, py) });
  window.addEventListener('keydown', (event) => {
    if (event.code === 'KeyV' && !event.repeat) stage.showsRays = !stage.showsRays;
  });

  const panel = new Panel(pell, KEYS, ['wind', 'oil'], 'berth');
  const hear = (event: LoggiaEvent) => {
    panel.hear(event);
    if (event.kind === 'emitted' && event.event !== 'scrape') stage.puff(pell.readout.x, pell.readout.y);
    // Fallen out of the yard: back to the post that was touched last, or to the slip.
    if (event.kind === 'fell') {
      const back = pell.readout.mark('moored') ?? yard.find('slip') ?? { x, y };
      pell.door.place(back.x, back.y + 0.1);
      pell.door.velocity(0, 0);
    }
  };
  play(plan.dt, {
    tick() {
      ears.poll();
      yard.advanceTo((pell.hostTick + 1) * plan.dt);
      pell.tick();
      if (pell.readout.eventCount > 0) for (const event of pell.readout.events) hear(event);
    },
    draw(passed) {
      panel.draw(`berth: ${pell.readout.choice('berth')}`);
      stage.covered = find('keys').offsetHeight + 14;
      stage.draw(pell, passed);
    },
  });
}

start().catch(tellFault);
