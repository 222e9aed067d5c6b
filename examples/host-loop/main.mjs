// An engine that moves bodies itself: Loggia says what it wants, the engine does it in its own way and tells
// what became of it. The "engine" here is a plain loop with a floor and a wall, and none of Loggia's movement.
import { Character } from 'loggia';
import { loadMoveset } from 'loggia/files';

const { plan } = await loadMoveset(new URL('../../demo/boatyard/pell.yaml', import.meta.url).pathname);
// No world: the host moves the body. Pell's moveset has no probes; if it had, a function `probes` would ask the engine.
const pell = new Character(plan);
const WALL = 6;

const body = { x: 0, y: 0, vx: 0, vy: 0, grounded: true, wallX: 0 };

function stepEngine(drive) {
  if (drive.stopped) return;
  body.vx = drive.vx;
  body.vy = drive.holdsUpright ? drive.vy : Math.max(drive.vy - drive.gravity / plan.rate, -drive.fall);
  body.x += body.vx / plan.rate;
  body.y += body.vy / plan.rate;
  body.grounded = body.y <= 0;
  if (body.grounded) {
    body.y = 0;
    body.vy = 0;
  }
  body.wallX = body.x >= WALL ? -1 : 0;
  if (body.wallX) {
    body.x = WALL;
    body.vx = 0;
  }
}

const script = { 5: ['press', 'move.right'], 30: ['press', 'jump'], 42: ['press', 'gale'], 43: ['press', 'jump'] };

for (let tick = 0; tick < 120; tick++) {
  if (script[tick]) pell.door[script[tick][0]](script[tick][1]);
  pell.door.contacts(body);
  pell.tick();
  stepEngine(pell.readout.drive);
  for (const event of pell.readout.events)
    if (event.kind === 'started' || event.kind === 'ended' || event.kind === 'landed')
      console.log(
        `${String(tick).padStart(3)}f  ${event.kind} ${event.ability ?? ''}${event.why ? ` (${event.why})` : ''}`,
      );
}
console.log(`at ${body.x.toFixed(2)}, ${body.y.toFixed(2)}: ${pell.readout.stance}`);
