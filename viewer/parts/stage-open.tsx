import { useEffect, useRef } from 'react';
import {
  AmbientLight,
  BoxGeometry,
  type BufferGeometry,
  CapsuleGeometry,
  Color,
  DirectionalLight,
  EdgesGeometry,
  Float32BufferAttribute,
  BufferGeometry as Geometry,
  GridHelper,
  Group,
  Line,
  LineBasicMaterial,
  LineDashedMaterial,
  LineSegments,
  type Material,
  Mesh,
  MeshLambertMaterial,
  type Object3D,
  PerspectiveCamera,
  Quaternion,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Palette } from '../../src/draw/palette.js';
import { type StageParts, type Trail, wordDoing } from '../../src/draw/stage/draw-stage.js';
import { showProbe } from '../../src/probes/probe.js';
import type { Moment, Seen } from '../../src/recording/moment.js';
import type { ShownVolume } from '../../src/report/shown-volume.js';
import { type AnyBlock, solidOf } from '../../src/world/blocks.js';
import { FlatGround } from '../../src/world/flat-ground.js';
import { SolidWorld } from '../../src/world/solid-world.js';
import type { World } from '../../src/world/world.js';
import { CanvasPen } from '../canvas-pen.js';
import type { Model } from '../model/model.js';
import { trailsOf } from '../model/trails.js';
import { onDark, paletteNow, useQuietModel } from './use.js';

/** What has no depth of its own is so deep. */
const DEEP = 20;

/** The world in space: drag to turn it, right button to move, wheel to zoom. */
export function StageOpen({ parts, follows }: { parts: { current: StageParts }; follows: { current: boolean } }) {
  const model = useQuietModel();
  const host = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!host.current) return;
    const drawn = new OpenStage(host.current, model, parts, follows);
    return () => drawn.stop();
  }, [model, parts, follows]);
  return <div ref={host} className="space" role="img" aria-label="The world and everybody in it" />;
}

class OpenStage {
  private readonly renderer = new WebGLRenderer({ antialias: true });
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(50, 1, 0.1, 600);
  private readonly controls: OrbitControls;
  private readonly names = document.createElement('canvas');
  private readonly place = new Group();
  private readonly changing = new Group();
  private readonly stops: (() => void)[] = [];
  private shown: World | null | undefined;
  private dark: boolean | undefined;
  private asked = 0;
  private isFirst = true;
  private readonly target = new Vector3();
  private blocks: { readonly mesh: Object3D; readonly index: number }[] = [];

  constructor(
    private readonly host: HTMLElement,
    private readonly model: Model,
    private readonly parts: { current: StageParts },
    private readonly follows: { current: boolean },
  ) {
    host.append(this.renderer.domElement, this.names);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    const sun = new DirectionalLight(0xffffff, 1.6);
    sun.position.set(6, 14, 9);
    this.scene.add(new AmbientLight(0xffffff, 1.5), sun, this.place, this.changing);
    const ask = () => this.ask();
    this.controls.addEventListener('change', () => {
      // Whoever moves the picture away wants it to stay there.
      if (!this.isFirst && !this.controls.target.equals(this.target)) this.follows.current = false;
      ask();
    });
    this.stops.push(model.subscribe(ask), onDark(ask));
    const sizes = new ResizeObserver(ask);
    sizes.observe(host);
    this.stops.push(() => sizes.disconnect());
    ask();
  }

  stop(): void {
    for (const stop of this.stops) stop();
    cancelAnimationFrame(this.asked);
    this.controls.dispose();
    for (const group of [this.place, this.changing]) clear(group);
    this.renderer.dispose();
    this.renderer.domElement.remove();
    this.names.remove();
  }

  private ask(): void {
    if (this.asked === 0) this.asked = requestAnimationFrame(() => this.paint());
  }

  private paint(): void {
    this.asked = 0;
    const { host, model, renderer, camera, controls } = this;
    const { clientWidth: width, clientHeight: height } = host;
    if (width === 0 || height === 0) return;
    const palette = paletteNow();
    const { ghost, ghostTick } = model;
    const trails = this.parts.current.paths ? trailsOf(model.ticks, model.tick) : [];
    const ghostTrails = ghost && this.parts.current.paths ? trailsOf(ghost.ticks, ghostTick) : [];
    clear(this.changing);
    if (ghost) this.addBodies(ghost.ticks.at(ghostTick), palette, true);
    for (const trail of ghostTrails) this.addTrail(trail, palette.soft);
    const then = model.ticks.at(model.tick);
    const world = model.scenery ?? then.world;
    if (world !== this.shown || palette.dark !== this.dark) this.build(world, palette);
    this.moveBlocks(world);
    for (const trail of trails) this.addTrail(trail, palette.now);
    this.addBodies(then, palette, false);
    const one = then.members.find(({ name }) => name === model.member) ?? then.members[0];
    if (one && (this.follows.current || this.isFirst)) {
      const { x, y, z } = one.readout;
      this.target.set(x, y + 1, z);
      if (this.isFirst) camera.position.set(x + 3, y + 6, z + 12);
      else camera.position.add(this.target.clone().sub(controls.target));
      controls.target.copy(this.target);
      this.isFirst = false;
    }
    renderer.setPixelRatio(window.devicePixelRatio || 1);
    renderer.setSize(width, height, false);
    camera.aspect = width / height;
    camera.updateProjectionMatrix();
    controls.update();
    renderer.setClearColor(new Color(palette.page));
    renderer.render(this.scene, camera);
    if (this.asked !== 0) cancelAnimationFrame(this.asked);
    this.asked = 0;
    this.writeNames(then, palette, width, height);
  }

  /** What does not change from tick to tick. */
  private build(world: World | null, palette: Palette): void {
    this.shown = world;
    this.dark = palette.dark;
    clear(this.place);
    this.blocks = [];
    const grid = new GridHelper(80, 80, new Color(palette.edge), new Color(palette.line));
    if (world instanceof FlatGround) grid.position.y = world.y;
    grid.position.y += 0.01;
    this.place.add(grid);
    if (!(world instanceof SolidWorld)) return;
    const moving = world.blocksNow();
    for (const block of world.blocks) {
      const mesh = meshOf(block, palette);
      const index = moving.findIndex((one) => one.block === block);
      if (index >= 0) this.blocks.push({ mesh, index });
      this.place.add(mesh);
    }
  }

  private moveBlocks(world: World | null): void {
    if (!(world instanceof SolidWorld) || this.blocks.length === 0) return;
    const now = world.blocksNow();
    for (const { mesh, index } of this.blocks) {
      const { x0, x1, y0, y1, z0, z1, turned, block } = now[index];
      mesh.position.set((x0 + x1) / 2, (y0 + y1) / 2, Math.abs(z1 - z0) > 1e5 ? 0 : (z0 + z1) / 2);
      const angle = (turned * Math.PI) / 180;
      if (turned !== 0)
        mesh.rotation.set(0, block.path?.about === 'y' ? -angle : 0, block.path?.about === 'y' ? 0 : angle);
    }
  }

  private addBodies(then: Moment, palette: Palette, isGhost: boolean): void {
    for (const one of then.members) {
      const { x, y, z, width, height, facing, facingZ } = one.readout;
      const geometry = new BoxGeometry(width, height, width);
      const body = new Group();
      const color = one.name === this.model.member ? palette.now : palette.ray;
      if (!isGhost) body.add(new Mesh(geometry, new MeshLambertMaterial({ color })));
      body.add(edges(geometry, isGhost ? palette.soft : palette.ink));
      body.position.set(x, y + height / 2, z);
      body.rotation.y = Math.atan2(-facingZ, facing);
      const nose = new Mesh(new BoxGeometry(0.25, 0.1, 0.1), new MeshLambertMaterial({ color: palette.ink }));
      nose.position.set(width / 2 + 0.1, height * 0.24, 0);
      body.add(nose);
      this.changing.add(body);
      if (isGhost) continue;
      if (this.parts.current.volumes)
        for (const volume of one.readout.volumes) this.changing.add(wireOf(volume, palette));
      if (this.parts.current.probes) this.addProbes(one as Seen, palette);
    }
  }

  private addProbes({ c, plan }: Seen, palette: Palette): void {
    for (let i = 0; i < plan.probes.length; i++) {
      const shown = showProbe(c, plan, i);
      if (!shown) continue;
      const { from, to, hit, normal } = shown;
      const end = new Vector3(to.x, to.y, to.z);
      const way = new Geometry().setFromPoints([new Vector3(from.x, from.y, from.z), end]);
      const material = hit
        ? new LineBasicMaterial({ color: palette.ray })
        : new LineDashedMaterial({ color: palette.ray, dashSize: 0.06, gapSize: 0.09 });
      const line = new Line(way, material);
      line.computeLineDistances();
      this.changing.add(line);
      if (!hit) continue;
      const out = end.clone().add(new Vector3(normal.x, normal.y, normal.z).multiplyScalar(0.3));
      this.changing.add(
        new Line(new Geometry().setFromPoints([end, out]), new LineBasicMaterial({ color: palette.ray })),
      );
      const spot = new Mesh(new BoxGeometry(0.08, 0.08, 0.08), new MeshLambertMaterial({ color: palette.ray }));
      spot.position.copy(end);
      this.changing.add(spot);
    }
  }

  private addTrail({ points }: Trail, color: string): void {
    const geometry = new Geometry();
    geometry.setAttribute('position', new Float32BufferAttribute(points.filter(Number.isFinite), 3));
    this.changing.add(new Line(geometry, new LineBasicMaterial({ color })));
  }

  private writeNames({ members }: Moment, palette: Palette, width: number, height: number): void {
    const { names, camera } = this;
    const ratio = window.devicePixelRatio || 1;
    names.width = width * ratio;
    names.height = height * ratio;
    const context = names.getContext('2d');
    if (!context || !this.parts.current.names) return;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const pen = new CanvasPen(context);
    for (const one of members) {
      const at = new Vector3(one.readout.x, one.readout.y + one.readout.height + 0.1, one.readout.z).project(camera);
      if (at.z > 1) continue;
      const [x, y] = [((at.x + 1) / 2) * width, ((1 - at.y) / 2) * height];
      pen.text(x, y - 16, one.name, { fill: palette.ink, size: 12, bold: true, anchor: 'middle' });
      pen.text(x, y - 4, wordDoing(one), { fill: palette.soft, size: 11, anchor: 'middle' });
    }
  }
}

function edges(geometry: BufferGeometry, color: string): LineSegments {
  return new LineSegments(new EdgesGeometry(geometry), new LineBasicMaterial({ color }));
}

function meshOf(block: AnyBlock, palette: Palette): Object3D {
  const material = new MeshLambertMaterial({
    color: block.area ? palette.area : palette.solid,
    ...(block.area && { transparent: true, opacity: 0.4 }),
  });
  const group = new Group();
  if ('radius' in block) {
    const from = new Vector3(block.from[0], block.from[1], block.from[2] ?? 0);
    const to = new Vector3(block.to[0], block.to[1], block.to[2] ?? 0);
    const way = to.clone().sub(from);
    group.add(new Mesh(new CapsuleGeometry(block.radius, way.length(), 8, 20), material));
    group.position.copy(from.add(to).multiplyScalar(0.5));
    if (way.lengthSq() > 0)
      group.quaternion.copy(new Quaternion().setFromUnitVectors(new Vector3(0, 1, 0), way.normalize()));
    return group;
  }
  if ('size' in block) {
    const [width, height, depth = DEEP] = block.size;
    const geometry = new BoxGeometry(width, height, depth);
    group.add(new Mesh(geometry, material), edges(geometry, palette.edge));
    group.position.set(block.at[0], block.at[1], block.at[2] ?? 0);
    if (block.turn) group.quaternion.set(...block.turn);
    return group;
  }
  const { x0, x1, y0, y1, z0, z1 } = solidOf(block);
  const isDeep = z1 - z0 > 1e5;
  const geometry = new BoxGeometry(x1 - x0, y1 - y0, isDeep ? DEEP : z1 - z0);
  group.add(new Mesh(geometry, material), edges(geometry, palette.edge));
  group.position.set((x0 + x1) / 2, (y0 + y1) / 2, isDeep ? 0 : (z0 + z1) / 2);
  return group;
}

/** Where it strikes is solid, where it can be struck is dashed, as in the view from the side. */
function wireOf(volume: ShownVolume, palette: Palette): Object3D {
  const color = volume.part === 'hurt' ? palette.hurt : volume.part === 'hit' ? palette.hit : palette.ray;
  const material =
    volume.part === 'hit'
      ? new LineBasicMaterial({ color })
      : new LineDashedMaterial({ color, dashSize: 0.12, gapSize: 0.08 });
  let geometry: BufferGeometry;
  const at = new Vector3();
  const turn = new Quaternion();
  if (volume.shape === 'box') {
    geometry = new EdgesGeometry(new BoxGeometry(volume.width, volume.height, volume.depth));
    at.set(volume.middle.x, volume.middle.y, volume.middle.z);
    turn.setFromAxisAngle(new Vector3(0, 1, 0), Math.atan2(-volume.facing.z, volume.facing.x));
  } else {
    const from = new Vector3(volume.from.x, volume.from.y, volume.from.z);
    const to = new Vector3(volume.to.x, volume.to.y, volume.to.z);
    if (volume.radius === 0) {
      const line = new Line(new Geometry().setFromPoints([from, to]), material);
      line.computeLineDistances();
      return line;
    }
    const way = to.clone().sub(from);
    geometry = new EdgesGeometry(new CapsuleGeometry(volume.radius, way.length(), 3, 8), 1);
    at.copy(from.add(to).multiplyScalar(0.5));
    if (way.lengthSq() > 0) turn.setFromUnitVectors(new Vector3(0, 1, 0), way.normalize());
  }
  const lines = new LineSegments(geometry, material);
  lines.computeLineDistances();
  lines.position.copy(at);
  lines.quaternion.copy(turn);
  return lines;
}

/** Takes everything out of a group, and gives back what the graphics card holds of it. */
function clear(group: Group): void {
  group.traverse((one) => {
    const { geometry, material } = one as Partial<Mesh>;
    geometry?.dispose();
    (material as Material | undefined)?.dispose?.();
  });
  group.clear();
}
