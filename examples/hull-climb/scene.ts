import type { Character } from 'loggia';
import * as three from 'three';
import { placeOf, turnOf } from './physics.js';
import { YARD } from './yard.js';

const SKY = 0x9fb6c9;
const DISTANCE = 7.5;

/** Draws the yard and Pell, with a camera that follows and that the pointer turns. */
export class Scene {
  private readonly renderer = new three.WebGLRenderer({ antialias: true });
  private readonly scene = new three.Scene();
  private readonly camera = new three.PerspectiveCamera(60, 1, 0.1, 200);
  private readonly pell = new three.Group();
  private readonly ghost: three.Mesh;
  private readonly rope: three.Line;
  private readonly target: three.Mesh;
  private readonly pieces: three.Mesh[];
  /** Which way the camera looks, in radians: about the upright axis, and up. */
  yaw = 0;
  pitch = -0.25;

  constructor(private readonly host: HTMLElement) {
    host.append(this.renderer.domElement);
    this.renderer.shadowMap.enabled = true;
    this.scene.background = new three.Color(SKY);
    this.scene.fog = new three.Fog(SKY, 25, 70);
    const sun = new three.DirectionalLight(0xfff1d6, 2.4);
    sun.position.set(12, 24, 9);
    sun.castShadow = true;
    sun.shadow.mapSize.set(1024, 1024);
    Object.assign(sun.shadow.camera, { left: -26, right: 26, top: 26, bottom: -26 });
    this.scene.add(sun, new three.HemisphereLight(0xcfe3f5, 0x5a6f86, 1.9));
    this.pieces = YARD.map((piece) => {
      const [a, b, c] = piece.size;
      const shape = piece.kind === 'box' ? new three.BoxGeometry(a, b, c) : new three.CapsuleGeometry(a, b, 12, 32);
      const mesh = new three.Mesh(shape, new three.MeshStandardMaterial({ color: piece.color, roughness: 0.85 }));
      mesh.quaternion.set(...turnOf(piece));
      mesh.receiveShadow = true;
      mesh.castShadow = true;
      this.scene.add(mesh);
      return mesh;
    });
    const grid = new three.GridHelper(60, 30, 0x5f7a94, 0x42586f);
    grid.position.y = 0.01;
    this.scene.add(grid);
    const skin = new three.MeshStandardMaterial({ color: 0xf0e2c0, roughness: 0.7 });
    const scarf = new three.MeshStandardMaterial({ color: 0xea7d63, roughness: 0.7 });
    const body = new three.Mesh(new three.CapsuleGeometry(0.3, 1.2, 8, 20), skin);
    body.position.y = 0.9;
    const band = new three.Mesh(new three.TorusGeometry(0.29, 0.08, 8, 20), scarf);
    band.rotation.x = Math.PI / 2;
    band.position.y = 1.25;
    const tail = new three.Mesh(new three.BoxGeometry(0.14, 0.12, 0.5), scarf);
    tail.position.set(0, 1.2, -0.45);
    for (const side of [-0.1, 0.1]) {
      const eye = new three.Mesh(new three.SphereGeometry(0.04), new three.MeshBasicMaterial({ color: 0x1d2a40 }));
      eye.position.set(side, 1.55, 0.27);
      this.pell.add(eye);
    }
    this.pell.add(body, band, tail);
    for (const part of [body, band, tail]) part.castShadow = true;
    this.ghost = new three.Mesh(
      new three.CapsuleGeometry(0.3, 1.2, 6, 16),
      new three.MeshBasicMaterial({ color: 0xa5d8d0, transparent: true, opacity: 0.4 }),
    );
    this.rope = new three.Line(
      new three.BufferGeometry().setFromPoints([new three.Vector3(), new three.Vector3()]),
      new three.LineBasicMaterial({ color: 0xffe0a0 }),
    );
    this.rope.frustumCulled = false;
    this.target = new three.Mesh(new three.SphereGeometry(0.12), new three.MeshBasicMaterial({ color: 0xffb454 }));
    this.scene.add(this.pell, this.ghost, this.rope, this.target);
  }

  /** Where the camera looks, a unit vector. */
  look(): readonly [number, number, number] {
    const level = Math.cos(this.pitch);
    return [-Math.sin(this.yaw) * level, Math.sin(this.pitch), -Math.cos(this.yaw) * level];
  }

  turn(dx: number, dy: number): void {
    this.yaw -= dx;
    this.pitch = Math.max(-1.1, Math.min(0.9, this.pitch - dy));
  }

  draw(character: Character, seconds: number): void {
    const { readout, facts } = character;
    YARD.forEach((piece, i) => {
      this.pieces[i].position.set(...placeOf(piece, seconds));
    });
    this.pell.position.set(readout.x, readout.y, readout.z);
    this.pell.rotation.y = Math.atan2(readout.facing, readout.facingZ);
    const seen = character.preview('tideStep');
    this.ghost.visible = seen?.possible === true;
    if (seen?.possible) this.ghost.position.set(seen.x, seen.y + 0.9, seen.z);
    const hooked = readout.mark('hooked');
    this.rope.visible = hooked !== null;
    if (hooked) {
      const points = this.rope.geometry.attributes.position as three.BufferAttribute;
      points.setXYZ(0, readout.x, readout.y + 1.2, readout.z);
      points.setXYZ(1, hooked.x, hooked.y, hooked.z);
      points.needsUpdate = true;
    }
    this.target.visible = facts.hit('line');
    this.target.position.set(facts.fact('line.x'), facts.fact('line.y'), facts.fact('line.z'));
    this.follow(readout.x, readout.y + 1.3, readout.z);
    const { clientWidth: width, clientHeight: height } = this.host;
    this.renderer.setSize(width, height);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.renderer.render(this.scene, this.camera);
  }

  /** Behind Pell, over the shoulder, and never under the dock. */
  private follow(x: number, y: number, z: number): void {
    const [lx, ly, lz] = this.look();
    const side = 0.9;
    const [sx, sz] = [Math.cos(this.yaw) * side, -Math.sin(this.yaw) * side];
    this.camera.position.set(x - lx * DISTANCE + sx, Math.max(0.3, y - ly * DISTANCE), z - lz * DISTANCE + sz);
    this.camera.lookAt(x + lx * 6 + sx, y + ly * 6, z + lz * 6 + sz);
  }
}
