import { Character, describe, FixedSteps, TileWorld, wordRefusal } from 'loggia';
import { listen } from 'loggia/browser';
import plan from './moveset.yaml';

const rows = [
  '........................',
  '........................',
  '........................',
  '...............####.....',
  '........................',
  '.........####...........',
  '........................',
  '..@.................#...',
  '########################',
];
const world = new TileWorld(rows);
const { x = 0, y = 0 } = world.find('@') ?? {};
const hero = new Character(plan, { world, at: [x, y] });
const { says } = describe(plan);
// Keys, pointer and gamepads, bound as the moveset says.
const ears = listen(hero);
const screen = document.querySelector('canvas')?.getContext('2d') as CanvasRenderingContext2D;
const told = document.getElementById('told') as HTMLElement;

const steps = new FixedSteps(plan.rate, () => {
  ears.poll();
  hero.tick();
  // Why nothing happened, in the player's words.
  for (const { refused, reason } of hero.readout.answers)
    told.textContent = refused === null || reason === null ? '' : wordRefusal(refused, [reason], says);
});

const SIZE = 40;
let last = performance.now();
function frame(now: number): void {
  steps.advance((now - last) / 1000);
  last = now;
  const { x, y } = steps.place(hero);
  const { width, height } = screen.canvas;
  screen.clearRect(0, 0, width, height);
  screen.fillStyle = '#7a6a55';
  rows.forEach((row, i) => {
    for (const [k, letter] of [...row].entries())
      if (letter === '#') screen.fillRect(k * SIZE, height - (rows.length - i) * SIZE, SIZE, SIZE);
  });
  screen.fillStyle = hero.readout.isRunning('galeDash') ? '#c2512f' : '#2e6e8a';
  screen.fillRect((x - 0.3) * SIZE, height - (y + hero.readout.height) * SIZE, 0.6 * SIZE, hero.readout.height * SIZE);
  screen.fillRect(10, 10, hero.readout.pool('wind') * 8, 10);
  requestAnimationFrame(frame);
}
requestAnimationFrame(frame);
