import { DEEP, type Solid, TOUCH } from './solid.js';
import { SolidWorld } from './solid-world.js';
import type { Cast, Room } from './world.js';

/** What one letter of a tile world stands for. */
export interface Tile {
  /** Default true. */
  solid?: boolean;
  /** Stops only what comes down on it. Default false. */
  oneWay?: boolean;
  tags?: readonly string[];
}

/** What the letters of a tile world mean, and how large its tiles are. */
export interface TileOptions {
  /** What further letters stand for. `#` is solid, `-` a one-way platform, `.` and space are empty. */
  legend?: Readonly<Record<string, Tile>>;
  /** Length of a tile's side. Default 1. */
  size?: number;
}

const BUILT_IN: Readonly<Record<string, Tile>> = {
  '#': {},
  '-': { oneWay: true },
  '.': { solid: false },
  ' ': { solid: false },
};

/** Letters for the kinds of a grid: those that Unicode leaves to everyone. */
const FIRST_LETTER = 0xe000;
const MOST_KINDS = 6000;

/** One-way platforms are thin: a slab at the top of their tile. */
const PLATFORM = 0.25;
/** In tiles: what is only touched is looked at, too. */
const MARGIN = 1e-3;
/** How many tiles a room reaches beyond its box to each side: enough for some seconds of walking. */
const ROOM_REACH = 8;

/**
 * A world drawn as rows of text, the top row first. The left end of the bottom row's floor is the origin.
 * Letters that are not in the legend are places: `find` tells where they are, and they are empty.
 */
export class TileWorld extends SolidWorld {
  readonly width: number;
  readonly height: number;
  /** Length of a tile's side. */
  readonly size: number;
  private readonly cells: readonly (Solid | undefined)[];
  private readonly places = new Map<string, { x: number; y: number }>();

  constructor(rows: readonly string[], { legend = {}, size = 1 }: TileOptions = {}) {
    super();
    this.size = size;
    this.height = rows.length;
    this.width = rows.reduce((widest, row) => Math.max(widest, row.length), 0);
    const cells: (Solid | undefined)[] = new Array(this.width * this.height);
    rows.forEach((row, fromTop) => {
      [...row].forEach((letter, column) => {
        const up = this.height - 1 - fromTop;
        const tile = Object.hasOwn(legend, letter) ? legend[letter] : BUILT_IN[letter];
        if (!tile) this.places.set(letter, { x: (column + 0.5) * size, y: up * size });
        else if (tile.solid !== false) cells[up * this.width + column] = makeSolid(tile, column, up, size);
      });
    });
    this.cells = cells;
  }

  /**
   * A world from the numbers of an editor's grid: row by row from the top left, 0 for an empty tile. What a number is
   * not given in `tiles` is solid. Throws a RangeError where there are not `width` times `height` whole numbers.
   */
  static fromGrid(
    width: number,
    height: number,
    cells: ArrayLike<number>,
    { tiles = {}, size }: { tiles?: Readonly<Record<number, Tile>>; size?: number } = {},
  ): TileWorld {
    if (cells.length !== width * height)
      throw new RangeError(
        `TileWorld.fromGrid: ${width} times ${height} tiles need ${width * height} numbers, not ${cells.length}.`,
      );
    const letters = new Map<number, string>([[0, '.']]);
    const legend: Record<string, Tile> = {};
    const letterOf = (cell: number): string => {
      const known = letters.get(cell);
      if (known !== undefined) return known;
      if (!Number.isInteger(cell) || letters.size > MOST_KINDS)
        throw new RangeError(
          `TileWorld.fromGrid: tiles must be whole numbers of at most ${MOST_KINDS} kinds; found ${cell}.`,
        );
      const letter = String.fromCharCode(FIRST_LETTER + letters.size);
      letters.set(cell, letter);
      legend[letter] = tiles[cell] ?? {};
      return letter;
    };
    const rows = Array.from({ length: height }, (_, row) =>
      Array.from({ length: width }, (_, column) => letterOf(cells[row * width + column])).join(''),
    );
    return new TileWorld(rows, { legend, size });
  }

  /** The middle of the floor of the tile with this letter, or undefined. */
  find(letter: string): { x: number; y: number } | undefined {
    return this.places.get(letter);
  }

  /** What stands in a tile, counted from the bottom left, or undefined. */
  tileAt(column: number, row: number): { oneWay: boolean; tags: readonly string[] } | undefined {
    if (column < 0 || column >= this.width || row < 0 || row >= this.height) return undefined;
    return this.cells[row * this.width + column];
  }

  roomAround(cast: Cast, room: Room): boolean {
    const { size, width, height } = this;
    let x0 = Math.floor((cast.x - cast.hx + TOUCH) / size);
    let x1 = Math.floor((cast.x + cast.hx - TOUCH) / size);
    let y0 = Math.floor((cast.y - cast.hy + TOUCH) / size);
    let y1 = Math.floor((cast.y + cast.hy - TOUCH) / size);
    if (x0 < 0 || y0 < 0 || x1 >= width || !this.isEmpty(x0, x1, y0, y1)) return false;
    for (let i = 0; i < ROOM_REACH && y0 > 0 && this.isEmpty(x0, x1, y0 - 1, y0 - 1); i++) y0--;
    const floor = y0 > 0 && this.isFull(x0, x1, y0 - 1);
    const below = floor ? y0 - 1 : height;
    for (let i = 0; i < ROOM_REACH && x0 > 0 && this.continues(x0 - 1, y0, y1, below); i++) x0--;
    for (let i = 0; i < ROOM_REACH && x1 < width - 1 && this.continues(x1 + 1, y0, y1, below); i++) x1++;
    for (let i = 0; i < ROOM_REACH && y1 < height && this.isEmpty(x0, x1, y1 + 1, y1 + 1); i++) y1++;
    room.x0 = x0 * size;
    room.x1 = (x1 + 1) * size;
    room.y0 = y0 * size;
    room.y1 = y1 < height ? (y1 + 1) * size : DEEP;
    room.z0 = -DEEP;
    room.z1 = DEEP;
    room.floor = floor;
    room.wallX0 = this.wallTop(x0 - 1, y0) * size;
    room.wallX1 = this.wallTop(x1 + 1, y0) * size;
    return true;
  }

  /** How far up a column is solid from a row on, without gaps. */
  private wallTop(x: number, from: number): number {
    let y = from;
    while (this.tileAt(x, y)?.oneWay === false) y++;
    return y;
  }

  /** Whether no tile of these columns and rows has anything in it. */
  private isEmpty(x0: number, x1: number, y0: number, y1: number): boolean {
    for (let y = y0; y <= Math.min(y1, this.height - 1); y++)
      for (let x = x0; x <= x1; x++) if (this.cells[y * this.width + x] !== undefined) return false;
    return true;
  }

  /** Whether a column is as empty as the room beside it, and has the same floor. */
  private continues(x: number, y0: number, y1: number, below: number): boolean {
    return this.isEmpty(x, x, y0, y1) && (below === this.height || this.isFull(x, x, below));
  }

  /** Whether every tile of a row has something to stand on. */
  private isFull(x0: number, x1: number, y: number): boolean {
    for (let x = x0; x <= x1; x++) if (this.cells[y * this.width + x] === undefined) return false;
    return true;
  }

  protected some(cast: Cast, look: (cast: Cast, solid: Solid) => boolean): boolean {
    const { width, size, cells } = this;
    const { x, y, hx, hy, dx, dy } = cast;
    const x0 = this.clampTo(((dx > 0 ? x : x + dx) - hx) / size - MARGIN, width);
    const x1 = this.clampTo(((dx > 0 ? x + dx : x) + hx) / size + MARGIN, width);
    const y0 = this.clampTo(((dy > 0 ? y : y + dy) - hy) / size - MARGIN, this.height);
    const y1 = this.clampTo(((dy > 0 ? y + dy : y) + hy) / size + MARGIN, this.height);
    for (let row = y0; row <= y1; row++)
      for (let column = x0; column <= x1; column++) {
        const solid = cells[row * width + column];
        if (solid !== undefined && look(cast, solid)) return true;
      }
    return false;
  }

  private clampTo(at: number, count: number): number {
    return Math.max(0, Math.min(count - 1, Math.floor(at)));
  }
}

function makeSolid({ oneWay = false, tags = [] }: Tile, column: number, row: number, size: number): Solid {
  const bottom = oneWay ? row + 1 - PLATFORM : row;
  return {
    x0: column * size,
    x1: (column + 1) * size,
    y0: bottom * size,
    y1: (row + 1) * size,
    z0: -DEEP,
    z1: DEEP,
    oneWay,
    tags,
  };
}
