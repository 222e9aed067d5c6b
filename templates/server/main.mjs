// A server that ticks many characters: each has its devices, and what became of it is read after each tick.
import { Character, TileWorld } from 'loggia';
import { compileFile } from 'loggia/files';

const plan = await compileFile('moveset.yaml');
const world = new TileWorld(['.'.repeat(400), '.'.repeat(400), '#'.repeat(400)]);
const many = Array.from(
  { length: 200 },
  (_, i) => new Character(plan, { world, at: [1.5 + i * 1.9, 1], refusals: false }),
);
const seconds = Number(process.argv[2] ?? 10);
const from = performance.now();
let started = 0;
for (let tick = 0; tick < seconds * plan.rate; tick++) {
  for (const [i, one] of many.entries()) {
    // Where players would send theirs: here each presses something now and then.
    if ((tick + i) % 40 === 0) one.door.press(i % 2 === 0 ? 'jump' : 'gale');
    if ((tick + i) % 40 === 6) one.door.release(i % 2 === 0 ? 'jump' : 'gale');
    one.tick();
    if (one.readout.eventCount > 0) for (const { kind } of one.readout.events) if (kind === 'started') started++;
  }
}
const took = (performance.now() - from) / 1000;
console.log(
  `${many.length} characters for ${seconds} s: ${started} abilities started, ${(took * 1000).toFixed(0)} ms of work`,
);
