// A physics engine that moves the body itself: Rapier's character controller does what Loggia asks for, and tells what
// became of it. Loggia's probes and warps ask the same physics world.
import * as rapier from '@dimforge/rapier2d-compat';
import { Cast, Character } from 'loggia';
import { loadMoveset } from 'loggia/files';
import { RapierWorld } from 'loggia/rapier';

await rapier.init();
const physics = new rapier.World({ x: 0, y: 0 });
const box = (x, y, hx, hy) => physics.createCollider(rapier.ColliderDesc.cuboid(hx, hy).setTranslation(x, y));
box(0, -0.5, 30, 0.5); // the floor
box(8, 1.5, 1, 1.5); // a wall three high

const file = new URL('../../demo/boatyard/pell-mast-row.yaml', import.meta.url).pathname;
const { plan } = await loadMoveset(file);
const [width, height] = [0.6, 1.8];
const body = physics.createRigidBody(rapier.RigidBodyDesc.kinematicPositionBased().setTranslation(0, height / 2));
const collider = physics.createCollider(rapier.ColliderDesc.cuboid(width / 2, height / 2), body);
const controller = physics.createCharacterController(0.01);
controller.enableSnapToGround(0.1);
physics.step();

const world = new RapierWorld(rapier, physics, { ignores: (other) => other.handle === collider.handle });
const pell = new Character(plan, { probes: world.answer, places: () => undefined });

const feet = { x: 0, y: 0, vx: 0, vy: 0, grounded: true, wallX: 0, ceiling: false, headroom: true };
const above = Object.assign(new Cast(), { hx: width / 2, hy: height / 2, hz: width / 2, dx: 0, dy: 0, dz: 0, z: 0 });

function stepEngine(drive) {
  if (drive.stopped) return;
  collider.setHalfExtents({ x: drive.width / 2, y: drive.height / 2 });
  if (drive.warped) [feet.x, feet.y] = [drive.x, drive.y];
  body.setTranslation({ x: feet.x, y: feet.y + drive.height / 2 }, true);
  const vy = drive.holdsUpright ? drive.vy : Math.max(drive.vy - drive.gravity / plan.rate, -drive.fall);
  controller.computeColliderMovement(collider, { x: drive.vx / plan.rate, y: vy / plan.rate });
  const { x, y } = controller.computedMovement();
  feet.x += x;
  feet.y += y;
  feet.grounded = controller.computedGrounded() && vy <= 0;
  feet.vx = Math.abs(x * plan.rate - drive.vx) < 0.1 ? drive.vx : x * plan.rate;
  feet.vy = feet.grounded || (vy > 0 && y < vy / plan.rate / 2) ? 0 : vy;
  feet.ceiling = vy > 0 && y < vy / plan.rate / 2;
  feet.wallX = 0;
  for (let i = 0; i < controller.numComputedCollisions(); i++) {
    const { normal1 } = controller.computedCollision(i);
    if (Math.abs(normal1.x) > 0.9) feet.wallX = Math.sign(normal1.x);
  }
  feet.headroom = !world.overlap(Object.assign(above, { kind: 'overlap', x: feet.x, y: feet.y + 0.02 + height / 2 }));
  physics.step();
}

const script = {
  5: ['press', 'move.right'],
  75: ['press', 'jump'],
  95: ['release', 'jump'],
  97: ['press', 'jump'],
  190: ['release', 'move.right'],
  191: ['press', 'move.up'],
};
for (let tick = 0; tick < 260; tick++) {
  if (script[tick]) pell.door[script[tick][0]](script[tick][1]);
  pell.door.contacts(feet);
  pell.tick();
  stepEngine(pell.readout.drive);
  for (const event of pell.readout.events)
    if (event.kind === 'started' || event.kind === 'landed')
      console.log(`${String(tick).padStart(3)}f  ${event.kind} ${event.ability ?? ''}`);
}
console.log(`at ${feet.x.toFixed(1)}, ${feet.y.toFixed(1)}: ${pell.readout.stance}`);
