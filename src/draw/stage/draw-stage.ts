import { showProbe } from '../../probes/probe.js';
import { MARK, MARK_SET, MARK_X, X, Y } from '../../record/slots.js';
import type { Moment, Seen, SeenMember } from '../../recording/moment.js';
import type { ShownVolume } from '../../report/shown-volume.js';
import { type AnyBlock, solidOf } from '../../world/blocks.js';
import { FlatGround } from '../../world/flat-ground.js';
import { SolidWorld } from '../../world/solid-world.js';
import { TileWorld } from '../../world/tile-world.js';
import type { World } from '../../world/world.js';
import type { Palette } from '../palette.js';
import type { Ink, Pen } from '../pen.js';

/** What is shown of a world, and how large. */
export interface Camera {
  /** What is in the middle. */
  x: number;
  y: number;
  /** Pixels of one unit of the world. */
  scale: number;
}

/** What can be switched off. */
export interface StageParts {
  readonly volumes: boolean;
  readonly probes: boolean;
  readonly marks: boolean;
  readonly paths: boolean;
  readonly names: boolean;
}

export const ALL_PARTS: StageParts = { volumes: true, probes: true, marks: true, paths: true, names: true };

/** Where somebody was, tick by tick. */
export interface Trail {
  readonly name: string;
  /** x, y, z of each tick; NaN where they were not there. */
  readonly points: readonly number[];
}

export interface StageView {
  readonly width: number;
  readonly height: number;
  readonly camera: Camera;
  readonly palette: Palette;
  readonly parts: StageParts;
  readonly trails?: readonly Trail[];
  /** The same tick of another run: drawn as outlines. */
  readonly ghost?: Moment | null;
  readonly ghostTrails?: readonly Trail[];
  /** What the world looks like, where the moment does not know. */
  readonly scenery?: World | null;
  /** Whose name is set off. */
  readonly selected?: string;
}

type Project = (x: number, y: number) => readonly [x: number, y: number];

export function projection({ width, height, camera }: Pick<StageView, 'width' | 'height' | 'camera'>): Project {
  const { scale } = camera;
  return (x, y) => [width / 2 + (x - camera.x) * scale, height / 2 - (y - camera.y) * scale];
}

/** Draws a moment from the side. */
export function drawStage(pen: Pen, then: Moment, view: StageView): void {
  const { width, height, palette, parts } = view;
  const project = projection(view);
  pen.rect(0, 0, width, height, { fill: palette.page });
  pen.within(0, 0, width, height, () => {
    drawWorld(pen, then, view, project);
    if (parts.paths) {
      for (const trail of view.ghostTrails ?? [])
        drawTrail(pen, trail, project, { stroke: palette.soft, dash: [4, 3], alpha: 0.8 });
      for (const trail of view.trails ?? [])
        drawTrail(pen, trail, project, { stroke: palette.now, width: 1.5, alpha: 0.7 });
    }
    for (const one of view.ghost?.members ?? [])
      drawBody(pen, one, project, { stroke: palette.soft, dash: [4, 3], width: 1.5 }, view);
    const ordered = then.members;
    for (const one of ordered) {
      drawBody(pen, one, project, { fill: palette.band, stroke: palette.ink, width: 2 }, view);
      if (parts.volumes) for (const volume of one.readout.volumes) drawVolume(pen, volume, project, view);
      if (parts.probes) drawProbes(pen, one as Seen, project, view);
      if (parts.marks) drawMarks(pen, one as Seen, project, view);
    }
    if (parts.names) drawNames(pen, ordered, view, project);
    for (const event of then.events) {
      if (event.kind !== 'blow') continue;
      const [x, y] = project(event.at.x, event.at.y);
      for (let i = 0; i < 4; i++) {
        const [dx, dy] = [Math.cos((i * Math.PI) / 4) * 12, Math.sin((i * Math.PI) / 4) * 12];
        pen.line([x - dx, y - dy, x + dx, y + dy], { stroke: palette.hit, width: 2 });
      }
    }
  });
}

/** What somebody does: all that runs, or else the stance. */
export function wordDoing({ plan, readout }: SeenMember): string {
  return plan.names.lane.flatMap((lane) => readout.ability(lane) ?? []).join(', ') || readout.stance;
}

/** What each is called, and what it does; of those who stand close, one above the other. */
function drawNames(pen: Pen, members: readonly SeenMember[], { palette, selected }: StageView, project: Project): void {
  const placed: { readonly x: number; readonly y: number }[] = [];
  for (const one of members) {
    const { name, readout } = one;
    const [x, top] = project(readout.x, readout.y + readout.height);
    let y = top;
    while (placed.some((other) => Math.abs(other.x - x) < NAME_WIDTH && Math.abs(other.y - y) < NAME_HEIGHT)) y -= 4;
    placed.push({ x, y });
    pen.text(x, y - 18, name, { fill: palette.ink, size: 12, bold: name === selected, anchor: 'middle' });
    pen.text(x, y - 6, wordDoing(one), { fill: palette.soft, size: 11, anchor: 'middle' });
  }
}

const NAME_WIDTH = 80;
const NAME_HEIGHT = 28;

function drawWorld(pen: Pen, then: Moment, view: StageView, project: Project): void {
  const world = view.scenery ?? then.world;
  const { palette, width, height } = view;
  if (world instanceof FlatGround) {
    const [, y] = project(0, world.y);
    pen.rect(0, y, width, height - y, { fill: palette.solid });
    pen.line([0, y, width, y], { stroke: palette.edge, width: 1.5 });
    return;
  }
  if (world instanceof TileWorld) drawTiles(pen, world, view, project);
  if (world instanceof SolidWorld) {
    const moving = world.blocksNow();
    const resting = world.blocks.filter((block) => !moving.some((one) => one.block === block));
    const shown = [
      ...resting.map((block) => ({ block, bounds: solidOf(block), turned: 0 })),
      ...moving.map(({ block, turned, ...bounds }) => ({ block, bounds, turned })),
    ];
    for (const { block, bounds, turned } of shown) drawBlock(pen, block, bounds, turned, view, project);
    return;
  }
  pen.text(10, height - 10, 'The world is the host’s own: only bodies are shown.', { fill: palette.soft, size: 11 });
}

function drawTiles(pen: Pen, world: TileWorld, { palette, width, height }: StageView, project: Project): void {
  const { size } = world;
  for (let row = 0; row < world.height; row++) {
    for (let column = 0; column < world.width; column++) {
      const tile = world.tileAt(column, row);
      if (!tile) continue;
      const [x, bottom] = project(column * size, row * size);
      // Tiles of a kind that stand side by side are one.
      let many = 1;
      if (!tile.slope) while (column + many < world.width && isLike(tile, world.tileAt(column + many, row))) many++;
      const [right, top] = project((column + many) * size, (row + 1) * size);
      column += many - 1;
      if (right < 0 || x > width || bottom < 0 || top > height) continue;
      const wide = right - x + 0.5;
      if (tile.area) pen.rect(x, top, wide, bottom - top + 0.5, { fill: palette.area });
      else if (tile.oneWay) {
        pen.rect(x, top, wide, (bottom - top) / 4, { fill: palette.solid });
        pen.line([x, top, right, top], { stroke: palette.edge, width: 1.5, dash: [5, 3] });
      } else if (tile.slope) {
        const [left, rise] = tile.slope;
        const tall = bottom - top;
        pen.line(
          [x, bottom, x, bottom - left * tall, right, bottom - rise * tall, right, bottom],
          { fill: palette.solid },
          true,
        );
        pen.line([x, bottom - left * tall, right, bottom - rise * tall], { stroke: palette.edge, width: 1.5 });
      } else {
        pen.rect(x, top, wide, bottom - top + 0.5, { fill: palette.solid });
        if (tile.tags.length > 0)
          for (let at = x + 4; at < right; at += 9)
            pen.line([at, bottom, Math.min(at + 5, right), top], { stroke: palette.edge, alpha: 0.6 });
        if (!isSolid(world.tileAt(column, row + 1)) || many > 1)
          drawTops(pen, world, column - many + 1, column, row, project, palette);
      }
    }
  }
}

type Tile = ReturnType<TileWorld['tileAt']>;

function isSolid(tile: Tile): boolean {
  return tile !== undefined && !tile.area;
}

function isLike(a: NonNullable<Tile>, b: Tile): boolean {
  return b !== undefined && !b.slope && a.area === b.area && a.oneWay === b.oneWay && a.tags.join() === b.tags.join();
}

/** The upper edge of solid tiles, where nothing stands on them. */
function drawTops(
  pen: Pen,
  world: TileWorld,
  from: number,
  to: number,
  row: number,
  project: Project,
  palette: Palette,
) {
  for (let column = from; column <= to; column++) {
    if (isSolid(world.tileAt(column, row + 1))) continue;
    const [x, y] = project(column * world.size, (row + 1) * world.size);
    const [right] = project((column + 1) * world.size, 0);
    pen.line([x, y, right, y], { stroke: palette.edge, width: 1.5 });
  }
}

interface Bounds {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

function drawBlock(
  pen: Pen,
  block: AnyBlock,
  bounds: Bounds,
  turned: number,
  { palette, camera }: StageView,
  project: Project,
): void {
  const { x0, y0, x1, y1 } = bounds;
  const fill = block.area ? palette.area : palette.solid;
  const ink: Ink = { fill, stroke: palette.edge, width: 1.2, ...(block.area && { dash: [4, 3] }) };
  if ('radius' in block) {
    drawCapsule(
      pen,
      project,
      [block.from[0], block.from[1], block.to[0], block.to[1]],
      block.radius,
      camera.scale,
      ink,
    );
    return;
  }
  const angle =
    turned !== 0 || !('size' in block) || !block.turn
      ? turned
      : 2 * Math.atan2(block.turn[2], block.turn[3]) * (180 / Math.PI);
  if ('size' in block && angle !== 0) {
    const middle = [(x0 + x1) / 2, (y0 + y1) / 2];
    const [w, h] = [block.size[0] / 2, block.size[1] / 2];
    const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const corners = [
      [-w, -h],
      [w, -h],
      [w, h],
      [-w, h],
    ].flatMap(([x, y]) => project(middle[0] + x * c - y * s, middle[1] + x * s + y * c));
    pen.line(corners, ink, true);
    return;
  }
  const front = [x0, y0, x1, y0, x1, y1, x0, y1];
  const points: number[] = [];
  for (let i = 0; i < 8; i += 2) points.push(...project(front[i], front[i + 1]));
  pen.line(points, ink, true);
}

/** The outline of a capsule, as it is seen. */
function drawCapsule(
  pen: Pen,
  project: Project,
  [x, y, tx, ty]: readonly number[],
  radius: number,
  scale: number,
  ink: Ink,
) {
  const [ax, ay] = project(x, y);
  const [bx, by] = project(tx, ty);
  const r = radius * scale;
  const length = Math.hypot(bx - ax, by - ay);
  if (length < 0.5) {
    pen.circle(ax, ay, Math.max(1, r), ink);
    return;
  }
  const start = Math.atan2(by - ay, bx - ax);
  const points: number[] = [];
  for (let i = 0; i <= 24; i++) {
    const isFar = i <= 12;
    const angle = start - Math.PI / 2 + (i * Math.PI) / 12 - (isFar ? 0 : Math.PI / 12);
    points.push((isFar ? bx : ax) + Math.cos(angle) * r, (isFar ? by : ay) + Math.sin(angle) * r);
  }
  pen.line(points, ink, true);
}

function drawBody(pen: Pen, { readout }: SeenMember, project: Project, ink: Ink, { palette }: StageView): void {
  const { x, y, width, height, facing } = readout;
  const [left, top] = project(x - width / 2, y + height);
  const [right, bottom] = project(x + width / 2, y);
  pen.rect(left, top, right - left, bottom - top, ink, Math.min(6, (right - left) / 4));
  // Where it looks: a nose at the height of the eyes.
  const [mx, my] = project(x + (facing * width) / 2, y + height * 0.75);
  const [nx, ny] = project(x + facing * (width / 2 + 0.22), y + height * 0.72);
  pen.line([mx, my - 4, nx, ny, mx, my + 4], ink.fill ? { fill: palette.ink } : { stroke: palette.soft }, true);
}

function drawVolume(pen: Pen, volume: ShownVolume, project: Project, { palette, camera }: StageView): void {
  const color = volume.part === 'hurt' ? palette.hurt : volume.part === 'hit' ? palette.hit : palette.ray;
  const ink: Ink = {
    stroke: color,
    width: volume.part === 'hit' ? 2 : 1.2,
    ...(volume.part === 'hurt' && { dash: [4, 3] }),
    ...(volume.part === 'touch' && { dash: [1, 3] }),
  };
  if (volume.shape === 'capsule') {
    const { from, to, radius } = volume;
    if (radius === 0) {
      pen.line([...project(from.x, from.y), ...project(to.x, to.y)], ink);
      return;
    }
    drawCapsule(pen, project, [from.x, from.y, to.x, to.y], radius, camera.scale, ink);
    return;
  }
  const { middle, width, height, facing } = volume;
  const half = width / 2;
  const [ax, ay] = project(middle.x - facing.x * half, middle.y - height / 2);
  const [bx, by] = project(middle.x + facing.x * half, middle.y - height / 2);
  const tall = height * camera.scale;
  pen.line([ax, ay, bx, by, bx, by - tall, ax, ay - tall], ink, true);
  if (volume.part === 'hit')
    pen.line([ax, ay, bx, by, bx, by - tall, ax, ay - tall], { fill: color, alpha: 0.25 }, true);
}

/** A line from where a probe begins, with a round end where it hit, and the way out of what it hit. */
function drawProbes(pen: Pen, { c, plan }: Seen, project: Project, { palette, camera }: StageView): void {
  for (let i = 0; i < plan.probes.length; i++) {
    const shown = showProbe(c, plan, i);
    if (!shown) continue;
    const { from, to, hit, normal, half } = shown;
    const [ax, ay] = project(from.x, from.y);
    const [bx, by] = project(to.x, to.y);
    const ink: Ink = { stroke: palette.ray, width: 1.2, ...(!hit && { dash: [2, 3] }), alpha: hit ? 1 : 0.55 };
    pen.line([ax, ay, bx, by], ink);
    if (half) {
      const [w, h] = [half.x * camera.scale, half.y * camera.scale];
      pen.rect(bx - w, by - h, 2 * w, 2 * h, ink);
    }
    if (!hit) continue;
    pen.circle(bx, by, 3, { fill: palette.ray });
    pen.line([bx, by, bx + normal.x * 12, by - normal.y * 12], { stroke: palette.ray, width: 1.5 });
  }
}

function drawMarks(pen: Pen, { c, plan }: Seen, project: Project, { palette }: StageView): void {
  for (const [i, name] of plan.names.mark.entries()) {
    const at = plan.marksAt + i * MARK;
    if (c.r[at + MARK_SET] === 0) continue;
    const [x, y] = project(c.r[at + MARK_X], c.r[at + MARK_X + 1]);
    pen.line([x, y, x, y - 14], { stroke: palette.ray, width: 1.5 });
    pen.line([x, y - 14, x + 8, y - 11, x, y - 8], { fill: palette.ray }, true);
    pen.text(x + 10, y - 8, name, { fill: palette.soft, size: 10 });
  }
}

function drawTrail(pen: Pen, { points }: Trail, project: Project, ink: Ink): void {
  const line: number[] = [];
  for (let i = 0; i < points.length; i += 3) {
    if (Number.isNaN(points[i])) line.push(Number.NaN, Number.NaN);
    else line.push(...project(points[i], points[i + 1]));
  }
  if (line.length > 2) pen.line(line, ink);
}

/** The camera looks a little above the feet. */
const UP = 1.2;
/** Who is followed stays within this part of the picture. */
const CALM = 0.18;

/** Moves a camera no further than it must to keep somebody in the middle of the picture. */
export function follow(camera: Camera, { record: r }: SeenMember, width: number, height: number): void {
  const [across, up] = [(width * CALM) / camera.scale, (height * CALM) / camera.scale];
  camera.x = Math.max(r[X] - across, Math.min(r[X] + across, camera.x));
  camera.y = Math.max(r[Y] + UP - up, Math.min(r[Y] + UP + up, camera.y));
}

/** A camera that holds everybody, and what is near them. */
export function cameraFor(then: Moment, width: number, height: number): Camera {
  const boxes = then.members.map(({ record: r }) => [r[X], r[Y]] as const);
  if (boxes.length === 0) return { x: 0, y: 2, scale: 40 };
  const low = [0, 1].map((k) => Math.min(...boxes.map((one) => one[k])));
  const high = [0, 1].map((k) => Math.max(...boxes.map((one) => one[k])));
  const wide = high[0] - low[0] + 14;
  const tall = high[1] - low[1] + 9;
  const scale = Math.max(4, Math.min(56, width / wide, height / tall));
  return { x: (low[0] + high[0]) / 2, y: (low[1] + high[1]) / 2 + UP, scale };
}
