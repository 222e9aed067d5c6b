import type { Character, TileWorld } from 'loggia';
import { Application, Container, Graphics } from 'pixi.js';
import 'pixi.js/unsafe-eval';

const COLORS = {
  sky: 0x0e1c22,
  plank: 0x7a5c3e,
  stone: 0x31505c,
  edge: 0x4c7380,
  pell: 0xe9d8a6,
  scarf: 0xe0705a,
  dash: 0x9fd8cb,
};
/** How many tiles of height the window shows. */
const ROWS_SHOWN = 12;
const TRAIL = 14;

/** Draws a tile world and a character in it; the view follows the character. */
export class Stage {
  private readonly scene = new Container();
  private readonly pell = new Graphics();
  private readonly trail: Graphics[] = [];
  private next = 0;

  private constructor(
    private readonly app: Application,
    private readonly host: HTMLElement,
    private readonly world: TileWorld,
  ) {
    this.scene.addChild(drawTiles(world));
    for (let i = 0; i < TRAIL; i++) {
      this.trail[i] = new Graphics();
      this.scene.addChild(this.trail[i]);
    }
    this.scene.addChild(this.pell);
    app.stage.addChild(this.scene);
  }

  static async create(host: HTMLElement, world: TileWorld): Promise<Stage> {
    const app = new Application();
    await app.init({ background: COLORS.sky, resizeTo: host, antialias: true, autoStart: false });
    host.append(app.canvas);
    // The panel below grows and shrinks with its text, without the window being resized.
    new ResizeObserver(() => app.resize()).observe(host);
    return new Stage(app, host, world);
  }

  draw(character: Character): void {
    const { readout } = character;
    const tile = this.host.clientHeight / ROWS_SHOWN;
    const shown = this.host.clientWidth / tile;
    const left = Math.max(0, Math.min(readout.x - shown / 2, this.world.width - shown));
    this.scene.scale.set(tile, -tile);
    this.scene.position.set(-left * tile, this.host.clientHeight);

    for (const ghost of this.trail) ghost.alpha *= 0.86;
    if (readout.isRunning('galeDash')) {
      const ghost = this.trail[this.next++ % TRAIL];
      ghost
        .clear()
        .roundRect(-readout.width / 2, 0, readout.width, readout.height, 0.12)
        .fill(COLORS.dash);
      ghost.position.set(readout.x, readout.y);
      ghost.alpha = 0.5;
    }
    const { width, height, facing } = readout;
    this.pell.clear();
    this.pell.roundRect(-width / 2, 0, width, height, 0.12).fill(COLORS.pell);
    this.pell.rect(-width / 2, height * 0.66, width, 0.14).fill(COLORS.scarf);
    this.pell.rect(facing > 0 ? -width / 2 - 0.3 : width / 2, height * 0.62, 0.3, 0.12).fill(COLORS.scarf);
    this.pell.circle(facing * width * 0.25, height * 0.86, 0.06).fill(COLORS.sky);
    this.pell.position.set(readout.x, readout.y);
    this.app.render();
  }
}

function drawTiles(world: TileWorld): Graphics {
  const tiles = new Graphics();
  for (let row = 0; row < world.height; row++)
    for (let column = 0; column < world.width; column++) {
      const tile = world.tileAt(column, row);
      if (!tile) continue;
      if (tile.oneWay) tiles.rect(column, row + 0.75, 1, 0.25).fill(COLORS.plank);
      else {
        tiles.rect(column, row, 1.02, 1.02).fill(COLORS.stone);
        if (!world.tileAt(column, row + 1)) tiles.rect(column, row + 0.9, 1.02, 0.12).fill(COLORS.edge);
      }
    }
  return tiles;
}
