import { BoxWorld, Character, describe, FixedSteps, wordRefusal } from 'loggia';
import { listen } from 'loggia/browser';
import * as THREE from 'three';
import plan from './moveset.yaml';

const BLOCKS = [
  { from: [-20, -1, -20], to: [20, 0, 20] },
  { from: [4, 0, -6], to: [8, 1.2, -2] },
  { from: [-9, 0, -9], to: [-5, 2, -3] },
] as const;
const world = new BoxWorld(BLOCKS.map(({ from, to }) => ({ from, to })));
const hero = new Character(plan, { world, at: [0, 0, 0] });
const { says } = describe(plan);
const ears = listen(hero);
const told = document.getElementById('told') as HTMLElement;

const canvas = document.querySelector('canvas') as HTMLCanvasElement;
const renderer = new THREE.WebGLRenderer({ canvas, antialias: true });
const scene = new THREE.Scene();
scene.background = new THREE.Color('#dfe7e4');
scene.add(new THREE.HemisphereLight('#ffffff', '#7a6a55', 2.5));
for (const { from, to } of BLOCKS) {
  const size = to.map((end, i) => end - from[i]);
  const block = new THREE.Mesh(
    new THREE.BoxGeometry(size[0], size[1], size[2]),
    new THREE.MeshLambertMaterial({ color: '#a8987c' }),
  );
  block.position.set(from[0] + size[0] / 2, from[1] + size[1] / 2, from[2] + size[2] / 2);
  scene.add(block);
}
const skin = new THREE.MeshLambertMaterial();
const body = new THREE.Mesh(new THREE.CapsuleGeometry(0.3, 1.2), skin);
scene.add(body);
const camera = new THREE.PerspectiveCamera(55, canvas.width / canvas.height, 0.1, 200);
let turn = 0;
canvas.addEventListener('pointermove', (event) => {
  if (event.buttons & 1) turn -= event.movementX * 0.006;
});

const steps = new FixedSteps(plan.rate, () => {
  ears.poll();
  // Walking and dashing are relative to where the camera looks.
  hero.door.camera(-Math.sin(turn), -Math.cos(turn));
  hero.tick();
  for (const { refused, reason } of hero.readout.answers)
    told.textContent = refused === null || reason === null ? '' : wordRefusal(refused, [reason], says);
});

let last = performance.now();
function frame(now: number): void {
  steps.advance((now - last) / 1000);
  last = now;
  const { x, y, z } = steps.place(hero);
  body.position.set(x, y + 0.9, z);
  skin.color.set(hero.readout.isRunning('galeDash') ? '#c2512f' : '#2e6e8a');
  camera.position.set(x + Math.sin(turn) * 9, y + 5, z + Math.cos(turn) * 9);
  camera.lookAt(x, y + 1, z);
  renderer.render(scene, camera);
  requestAnimationFrame(frame);
}
requestAnimationFrame(frame);
