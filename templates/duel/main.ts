import { FixedSteps, TileWorld } from 'loggia';
import { Arena, compileOpponent } from 'loggia/arena';
import { listen } from 'loggia/browser';
import plan from './moveset.yaml';

const rows = ['........................', '...@..............2.....', '########################'];
const world = new TileWorld(rows);
const arena = new Arena({ world });
const hero = arena.add('hero', plan, { at: [3.5, 1] }).character;
const rival = arena.add('rival', plan, {
  at: [18.5, 1],
  facing: -1,
  plays: compileOpponent(plan, {
    acts: [
      { when: 'foe.striking and foe.distance < 2', hold: 'brace', chance: '50%' },
      { when: 'foe.distance < 1.2', press: 'gaff', after: '12f', every: '40f', chance: '70%' },
      { when: 'foe.distance > 1', push: { move: 'toward' } },
    ],
  }),
}).character;
const ears = listen(hero);
const screen = document.querySelector('canvas')?.getContext('2d') as CanvasRenderingContext2D;
const told = document.getElementById('told') as HTMLElement;

const steps = new FixedSteps(plan.rate, () => {
  ears.poll();
  arena.tick();
  for (const event of arena.events)
    if (event.kind === 'blow') told.textContent = `${event.by} ${event.outcome} ${event.to}: ${event.damage}`;
});

const SIZE = 40;
let last = performance.now();
function frame(now: number): void {
  steps.advance((now - last) / 1000);
  last = now;
  const { width, height } = screen.canvas;
  screen.clearRect(0, 0, width, height);
  screen.fillStyle = '#7a6a55';
  screen.fillRect(0, height - SIZE, width, SIZE);
  for (const [one, color, at] of [
    [hero, '#2e6e8a', 10],
    [rival, '#8a5a2e', width - 250],
  ] as const) {
    const { x, y } = one.readout;
    screen.fillStyle = one.readout.isRunning('flinch') ? '#e9b44c' : color;
    screen.fillRect((x - 0.3) * SIZE, height - (y + one.readout.height) * SIZE, 0.6 * SIZE, one.readout.height * SIZE);
    screen.fillRect(at, 10, one.readout.pool('grit') * 8, 12);
    if (one.readout.phase('body') === 'active') {
      screen.fillStyle = '#c2512f';
      screen.fillRect(
        (x + (one.readout.facing > 0 ? 0.3 : -1.4)) * SIZE,
        height - (y + 1.4) * SIZE,
        1.1 * SIZE,
        0.5 * SIZE,
      );
    }
  }
  requestAnimationFrame(frame);
}
requestAnimationFrame(frame);
