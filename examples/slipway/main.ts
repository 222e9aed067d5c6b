import { Character, FixedSteps } from 'loggia';
import { listen, makeButton } from 'loggia/browser';
import plan from '../../demo/boatyard/pell.yaml';
import { Panel } from './panel.js';
import { slipway } from './slipway.js';
import { Stage } from './stage.js';

async function start(): Promise<void> {
  const { x, y } = slipway.find('@') ?? { x: 0, y: 0 };
  const pell = new Character(plan, { world: slipway, at: [x, y] });
  const ears = listen(pell);
  const panel = new Panel(document.getElementById('panel') as HTMLElement, pell);
  for (const key of document.querySelectorAll<HTMLElement>('[data-press]'))
    makeButton(ears.hub, key, key.dataset.press ?? '');
  const stage = await Stage.create(document.getElementById('stage') as HTMLElement, slipway);

  // `?speed=0.25` plays in slow motion: the same ticks, fewer of them a second.
  const asked = Number(new URLSearchParams(location.search).get('speed'));
  const speed = asked > 0 && asked <= 4 ? asked : 1;
  const steps = new FixedSteps(plan.rate, () => {
    ears.poll();
    pell.tick();
    panel.hear(pell.readout.answers);
  });
  let before = performance.now();
  const frame = (now: number) => {
    steps.advance(((now - before) / 1000) * speed);
    before = now;
    panel.draw();
    stage.draw(pell);
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
}

start().catch((error: unknown) => {
  const shown = document.createElement('pre');
  shown.textContent = String(error);
  document.body.replaceChildren(shown);
});
