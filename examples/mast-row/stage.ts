import type { Character, TileWorld } from 'loggia';
import { Application, Container, Graphics } from 'pixi.js';
import 'pixi.js/unsafe-eval';

const COLORS = {
  sky: 0x1d2a40,
  far: 0x263650,
  wood: 0x4a5d78,
  top: 0x7f97b3,
  rough: 0x8a6a4a,
  plank: 0xb08a5e,
  rungs: 0xd0b27c,
  post: 0xffb454,
  hulk: 0x6d4f5c,
  pell: 0xf0e2c0,
  scarf: 0xea7d63,
  rope: 0xe6cf9a,
  ghost: 0xa5d8d0,
  ray: 0xffe08a,
};
/** How many tiles of height the window shows. */
const ROWS_SHOWN = 13;
/** Probes that are drawn with the rays. */
const RAYS = ['wall', 'grip', 'lip', 'roughHigh', 'roughLow', 'line'] as const;
const TRAIL = 16;

/** Draws the yard, its hulks and Pell; the view follows Pell. */
export class Stage {
  private readonly scene = new Container();
  private readonly hulks = new Graphics();
  private readonly rope = new Graphics();
  private readonly ghost = new Graphics();
  private readonly pell = new Graphics();
  private readonly dust = new Graphics();
  private readonly rays = new Graphics();
  private readonly trail: { x: number; y: number; height: number; age: number }[] = [];
  private puffs: { x: number; y: number; age: number }[] = [];
  private x = 0;
  private y = 0;
  private scale = 1;
  /** Shows what the probes ask, and the body as the world has it. */
  showsRays = false;

  private constructor(
    private readonly app: Application,
    private readonly host: HTMLElement,
    private readonly world: TileWorld,
  ) {
    this.scene.addChild(drawTiles(world), this.hulks, this.dust, this.rope, this.ghost, this.pell, this.rays);
    app.stage.addChild(this.scene);
  }

  static async create(host: HTMLElement, world: TileWorld): Promise<Stage> {
    const app = new Application();
    await app.init({ background: COLORS.sky, resizeTo: host, antialias: true, autoStart: false });
    host.append(app.canvas);
    return new Stage(app, host, world);
  }

  /** Where a spot of the window is in the yard. */
  toWorld(clientX: number, clientY: number): readonly [number, number] {
    return [clientX / this.scale + this.x, (this.host.clientHeight - clientY) / this.scale + this.y];
  }

  puff(x: number, y: number): void {
    this.puffs.push({ x, y, age: 0 });
  }

  draw(character: Character, seconds: number): void {
    const { readout } = character;
    this.follow(readout.x, readout.y + readout.height / 2);
    this.drawHulks();
    this.drawDust(seconds);
    this.drawRope(character);
    this.drawGhost(character);
    this.drawPell(character, seconds);
    this.drawRays(character);
    this.app.render();
  }

  /** How much of the window, from its lower edge on, is covered. */
  covered = 0;

  private follow(x: number, y: number): void {
    const { clientWidth: width, clientHeight: height } = this.host;
    this.scale = height / ROWS_SHOWN;
    const clamp = (n: number, least: number, most: number) => Math.max(least, Math.min(n, most));
    this.x = clamp(x - width / this.scale / 2, 0, this.world.width - width / this.scale);
    this.y = clamp(y - ROWS_SHOWN * 0.45, 1.2 - this.covered / this.scale, this.world.height - ROWS_SHOWN);
    this.scene.scale.set(this.scale, -this.scale);
    this.scene.position.set(-this.x * this.scale, height + this.y * this.scale);
  }

  private drawHulks(): void {
    this.hulks.clear();
    for (const { x0, y0, x1, y1 } of this.world.blocksNow()) {
      this.hulks.roundRect(x0, y0, x1 - x0, y1 - y0, 0.15).fill(COLORS.hulk);
      this.hulks.rect(x0 + 0.05, y1 - 0.12, x1 - x0 - 0.1, 0.12).fill(COLORS.plank);
    }
  }

  private drawDust(seconds: number): void {
    this.dust.clear();
    this.puffs = this.puffs.filter((puff) => puff.age < 0.4);
    for (const puff of this.puffs) {
      puff.age += seconds;
      const part = puff.age / 0.4;
      for (const side of [-1, 1])
        this.dust
          .regularPoly(puff.x + side * (0.15 + part * 0.4), puff.y + 0.08 + part * 0.15, 0.06 + part * 0.1, 20)
          .fill({ color: COLORS.pell, alpha: 0.35 * (1 - part) });
    }
  }

  private drawRope({ readout }: Character): void {
    this.rope.clear();
    const end = readout.mark('hooked') ?? readout.mark('pivot');
    if (end) {
      this.rope.moveTo(readout.x, readout.y + 1.2).lineTo(end.x, end.y);
      this.rope.stroke({ color: COLORS.rope, width: 0.06 });
      this.rope.regularPoly(end.x, end.y, 0.12, 20).fill(COLORS.rope);
    }
    const moored = readout.mark('moored');
    if (moored) this.rope.regularPoly(moored.x, moored.y + 1.6, 0.14, 20).fill(COLORS.post);
  }

  /** Where the blink would lead. */
  private drawGhost(character: Character): void {
    this.ghost.clear();
    const seen = character.preview('tideStep');
    if (!seen?.possible) return;
    const { width, height } = character.readout;
    this.ghost
      .roundRect(seen.x - width / 2, seen.y, width, height, 0.14)
      .fill({ color: COLORS.ghost, alpha: 0.22 })
      .stroke({ color: COLORS.ghost, alpha: 0.8, width: 0.04 });
  }

  private drawPell({ readout }: Character, seconds: number): void {
    const { x, y, width, height, facing } = readout;
    this.trail.unshift({ x, y, height, age: 0 });
    if (this.trail.length > TRAIL) this.trail.pop();
    this.pell.clear();
    for (const step of this.trail) step.age += seconds;
    if (readout.isRunning('galeDash') || readout.isRunning('hookLine') || readout.isRunning('boomSlide'))
      for (const step of this.trail)
        this.pell
          .roundRect(step.x - width / 2, step.y, width, step.height, 0.14)
          .fill({ color: COLORS.ghost, alpha: Math.max(0, 0.3 - step.age) });
    this.pell.roundRect(x - width / 2, y, width, height, 0.14).fill(COLORS.pell);
    this.pell.rect(x - width / 2, y + height * 0.66, width, 0.14).fill(COLORS.scarf);
    this.pell.rect(x - (facing > 0 ? width / 2 + 0.3 : -width / 2), y + height * 0.62, 0.3, 0.12).fill(COLORS.scarf);
    this.pell.regularPoly(x + facing * width * 0.25, y + height * 0.86, 0.06, 20).fill(COLORS.sky);
  }

  private drawRays(character: Character): void {
    this.rays.clear();
    if (!this.showsRays) return;
    const { readout, facts } = character;
    const { x, y, width, height } = readout;
    this.rays.rect(x - width / 2, y, width, height).stroke({ color: COLORS.ray, width: 0.03 });
    for (const probe of RAYS) {
      const [px, py] = [facts.fact(`${probe}.x`), facts.fact(`${probe}.y`)];
      const hit = facts.fact(`${probe}.hit`) === 1;
      this.rays
        .regularPoly(px, py, hit ? 0.1 : 0.05, 20)
        .fill({ color: hit ? COLORS.scarf : COLORS.ray, alpha: hit ? 1 : 0.6 });
      if (probe === 'line')
        this.rays
          .moveTo(x, y + height / 2)
          .lineTo(px, py)
          .stroke({ color: COLORS.ray, width: 0.02 });
    }
  }
}

function drawTiles(world: TileWorld): Graphics {
  const tiles = new Graphics();
  // Masts of the ships behind, to give the eye something that stands still.
  for (let i = 0; i < world.width; i += 7) tiles.rect(i + 2, 2, 0.25, 9 + (i % 5)).fill(COLORS.far);
  for (let column = 0; column < world.width; column++)
    if (world.tileAt(column, 0)) tiles.rect(column, -9, 1.02, 9.02).fill(COLORS.wood);
  for (let row = 0; row < world.height; row++)
    for (let column = 0; column < world.width; column++) {
      const tile = world.tileAt(column, row);
      if (!tile) continue;
      if (tile.tags.includes('rungs')) drawRungs(tiles, column, row);
      else if (tile.tags.includes('post')) tiles.roundRect(column + 0.38, row, 0.24, 1.2, 0.1).fill(COLORS.post);
      else if (tile.oneWay) tiles.rect(column, row + 0.75, 1, 0.25).fill(COLORS.plank);
      else if (tile.slope) drawSlope(tiles, column, row, tile.slope);
      else {
        const rough = tile.tags.includes('rough');
        tiles.rect(column, row, 1.02, 1.02).fill(rough ? COLORS.rough : COLORS.wood);
        if (rough)
          for (let k = 0; k < 3; k++) tiles.rect(column + 0.15, row + 0.15 + k * 0.3, 0.7, 0.06).fill(COLORS.plank);
        if (world.tileAt(column, row + 1)?.area !== false && !rough)
          tiles.rect(column, row + 0.88, 1.02, 0.14).fill(COLORS.top);
      }
    }
  for (const block of world.blocks)
    if ('from' in block && !block.path)
      tiles
        .rect(block.from[0], block.from[1], block.to[0] - block.from[0], block.to[1] - block.from[1])
        .fill(COLORS.wood)
        .stroke({ color: COLORS.top, width: 0.05 });
  return tiles;
}

function drawRungs(tiles: Graphics, x: number, y: number): void {
  for (const side of [0.2, 0.72]) tiles.rect(x + side, y, 0.08, 1).fill(COLORS.rungs);
  for (let k = 0; k < 3; k++) tiles.rect(x + 0.2, y + 0.1 + k * 0.34, 0.6, 0.08).fill(COLORS.rungs);
}

function drawSlope(tiles: Graphics, x: number, y: number, [left, right]: readonly [number, number]): void {
  tiles.poly([x, y, x + 1.02, y, x + 1.02, y + right, x, y + left]).fill(COLORS.wood);
  tiles
    .moveTo(x, y + left - 0.06)
    .lineTo(x + 1, y + right - 0.06)
    .stroke({ color: COLORS.top, width: 0.13 });
}
