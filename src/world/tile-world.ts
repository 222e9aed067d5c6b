import { want, wantList, wantObject, wantOptions, wantText } from '../report/arguments.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import { describe } from '../report/words.js';
import { DEEP, isWhole, makeSolid, type Solid, TOUCH } from './solid.js';
import { SolidWorld, type SolidWorldOptions } from './solid-world.js';
import type { Cast, Place, Room } from './world.js';

/** What one letter of a tile world stands for. */
export interface Tile {
  /** Default true. What is not solid and has tags is an area: only probes that ask for one of its tags find it. */
  solid?: boolean;
  /** Height of its ground at its left and its right end, in parts of the tile: [0, 1] rises to the right. Default [1, 1]. */
  slope?: readonly [left: number, right: number];
  /** Stops only what comes down on it. Default false. */
  oneWay?: boolean;
  tags?: readonly string[];
}

/** What stands in a tile. */
export interface TileSeen {
  readonly oneWay: boolean;
  /** Nothing solid. */
  readonly area: boolean;
  readonly tags: readonly string[];
  /** Height of its ground at its left and its right end, in parts of the tile; null where that is level. */
  readonly slope: readonly [left: number, right: number] | null;
}

/** What the letters of a tile world mean, and how large its tiles are. */
export interface TileOptions extends Omit<SolidWorldOptions, 'places'> {
  /** What further letters stand for. `#` is solid, `-` a one-way platform, `.` and space are empty. */
  legend?: Readonly<Record<string, Tile>>;
  /** Length of a tile's side. Default 1. */
  size?: number;
  /** Names for places: the letter that stands there, or a point. */
  places?: Readonly<Record<string, string | readonly [x: number, y: number, z?: number]>>;
}

const BUILT_IN: Readonly<Record<string, Tile>> = {
  '#': {},
  '-': { oneWay: true, tags: ['oneWay'] },
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
  /** Columns. */
  readonly width: number;
  /** Rows. */
  readonly height: number;
  /** Length of a tile's side. */
  readonly size: number;
  /** @internal What it was made of. */
  readonly rows: readonly string[];
  /** @internal */
  readonly given: TileOptions;
  private readonly cells: readonly (Solid | undefined)[];
  private readonly letters = new Map<string, Place>();
  private readonly places: ReadonlyMap<string, string>;

  /**
   * Of rows of letters, the top one first: `#` is solid, `-` a one-way platform, others as the legend says.
   * @param rows All of one length, or filled up with empty tiles.
   * @param given What letters mean, the size of a tile, further blocks, places and edges.
   * @throws {UsageError} for what is none.
   */
  constructor(rows: readonly string[], given: TileOptions = {}) {
    wantOptions('TileWorld', given, ['legend', 'size', 'places', 'blocks', 'edges']);
    wantList('TileWorld', 'its rows', rows);
    for (const row of rows) wantText('TileWorld', 'a row', row);
    const { legend = {}, size = 1, places = {}, ...options } = given;
    checkNumber('TileWorld', 'size', size, 1e-3);
    const width = rows.reduce((widest, row) => Math.max(widest, row.length), 0);
    const points = Object.entries(places).filter(([, place]) => typeof place !== 'string');
    super(
      { ...options, places: Object.fromEntries(points) as SolidWorldOptions['places'] },
      {
        x0: 0,
        y0: 0,
        z0: Number.NEGATIVE_INFINITY,
        x1: width * size,
        // A world without a ceiling goes on above what is drawn.
        y1: options.edges?.top === 'wall' ? rows.length * size : Number.POSITIVE_INFINITY,
        z1: Number.POSITIVE_INFINITY,
      },
    );
    this.rows = rows;
    this.given = given;
    this.size = size;
    this.height = rows.length;
    this.width = width;
    this.places = new Map(
      Object.entries(places).filter((place): place is [string, string] => typeof place[1] === 'string'),
    );
    const cells: (Solid | undefined)[] = new Array(this.width * this.height);
    rows.forEach((row, fromTop) => {
      [...row].forEach((letter, column) => {
        const up = this.height - 1 - fromTop;
        const tile = Object.hasOwn(legend, letter) ? legend[letter] : BUILT_IN[letter];
        if (!tile) this.letters.set(letter, { x: (column + 0.5) * size, y: up * size });
        else if (tile.solid !== false || tile.tags) cells[up * this.width + column] = makeTile(tile, column, up, size);
      });
    });
    this.cells = cells;
  }

  /**
   * A world from the numbers of an editor's grid: row by row from the top left, 0 for an empty tile. What a number is
   * not given in `tiles` is solid.
   * @param width In tiles.
   * @param height In tiles.
   * @param cells Row by row from the top left.
   * @param options What numbers mean, and the size of a tile.
   * @throws {UsageError} where there are not `width` times `height` whole numbers.
   */
  static fromGrid(
    width: number,
    height: number,
    cells: ArrayLike<number>,
    options: { tiles?: Readonly<Record<number, Tile>>; size?: number } = {},
  ): TileWorld {
    const call = 'TileWorld.fromGrid';
    for (const side of [width, height])
      want(Number.isInteger(side) && side >= 0, call, 'its width and height', 'whole numbers', side);
    wantObject(call, 'cells', cells, 'a list of numbers');
    wantOptions(call, options, ['tiles', 'size']);
    const { tiles = {}, size } = options;
    wantObject(call, 'tiles', tiles);
    if (cells.length !== width * height)
      throw new UsageError(
        `${call}: ${width} times ${height} tiles need ${width * height} numbers, not ${cells.length}.`,
        'out-of-range',
      );
    const letters = new Map<number, string>([[0, '.']]);
    const legend: Record<string, Tile> = {};
    const letterOf = (cell: number): string => {
      const known = letters.get(cell);
      if (known !== undefined) return known;
      if (!Number.isInteger(cell) || letters.size > MOST_KINDS)
        throw new UsageError(
          `${call}: tiles must be whole numbers of at most ${MOST_KINDS} kinds; found ${describe(cell)}.`,
          'out-of-range',
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

  /** The middle of the floor of the tile with this letter, or of a place of this name; undefined for none. */
  override find(place: string): Place | undefined {
    return super.find(place) ?? this.letters.get(this.places.get(place) ?? place);
  }

  /**
   * What stands in a tile, counted from the bottom left, or undefined.
   * @param column From 0, the left one.
   * @param row From 0, the lowest one.
   */
  tileAt(column: number, row: number): TileSeen | undefined {
    if (!Number.isInteger(column) || !Number.isInteger(row)) return undefined;
    if (column < 0 || column >= this.width || row < 0 || row >= this.height) return undefined;
    return this.cells[row * this.width + column];
  }

  roomAround(cast: Cast, room: Room): boolean {
    const { size, width, height } = this;
    if (this.blocks.length > 0 || this.edges !== undefined) return false;
    let x0 = Math.floor((cast.x - cast.hx + TOUCH) / size);
    let x1 = Math.floor((cast.x + cast.hx - TOUCH) / size);
    let y0 = Math.floor((cast.y - cast.hy + TOUCH) / size);
    let y1 = Math.floor((cast.y + cast.hy - TOUCH) / size);
    if (x0 < 0 || y0 < 0 || x1 >= width || !this.isEmpty(x0, x1, y0, y1)) return false;
    for (let i = 0; i < ROOM_REACH && y0 > 0 && this.isEmpty(x0, x1, y0 - 1, y0 - 1); i++) y0--;
    const floor = y0 > 0 && this.isFull(x0, x1, y0 - 1);
    const below = floor ? y0 - 1 : height;
    for (let i = 0; i < ROOM_REACH && x0 > 0 && this.continues(x0 - 1, x0, y0, y1, below); i++) x0--;
    for (let i = 0; i < ROOM_REACH && x1 < width - 1 && this.continues(x1 + 1, x1, y0, y1, below); i++) x1++;
    for (let i = 0; i < ROOM_REACH && y1 < height && this.isEmpty(x0, x1, y1 + 1, y1 + 1); i++) y1++;
    room.x0 = x0 * size;
    room.x1 = (x1 + 1) * size;
    room.y0 = y0 * size;
    room.y1 = y1 < height ? (y1 + 1) * size : DEEP;
    room.z0 = -DEEP;
    room.z1 = DEEP;
    room.floor = floor;
    if (floor) room.floorTags = (this.cells[(y0 - 1) * width + x0] as Solid).tags;
    room.wallX0 = this.wallTop(x0 - 1, y0) * size;
    room.wallX1 = this.wallTop(x1 + 1, y0) * size;
    return true;
  }

  /** How far up a column is solid from a row on, without gaps. */
  private wallTop(x: number, from: number): number {
    let y = from;
    while (x >= 0 && x < this.width && y < this.height) {
      const solid = this.cells[y * this.width + x];
      if (solid === undefined || !isWhole(solid) || solid.y1 < (y + 1) * this.size) break;
      y++;
    }
    return y;
  }

  /** Whether no tile of these columns and rows has anything in it. */
  private isEmpty(x0: number, x1: number, y0: number, y1: number): boolean {
    for (let y = y0; y <= Math.min(y1, this.height - 1); y++)
      for (let x = x0; x <= x1; x++) if (this.cells[y * this.width + x]?.area === false) return false;
    return true;
  }

  /** Whether a column is as empty as the room beside it, and has the same floor. */
  private continues(x: number, from: number, y0: number, y1: number, below: number): boolean {
    if (!this.isEmpty(x, x, y0, y1)) return false;
    return below === this.height || this.isFull(x, x, below, this.cells[below * this.width + from]?.tags);
  }

  /** Whether every tile of a row has level ground of the same tags. */
  private isFull(x0: number, x1: number, y: number, tags = this.cells[y * this.width + x0]?.tags): boolean {
    for (let x = x0; x <= x1; x++) {
      const solid = this.cells[y * this.width + x];
      if (solid === undefined || solid.area || solid.axes !== null || solid.tags !== tags) return false;
      if (solid.y1 < (y + 1) * this.size) return false;
    }
    return true;
  }

  protected override some(cast: Cast, look: (cast: Cast, solid: Solid) => boolean): boolean {
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
    return (this.blocks.length > 0 || this.edges !== undefined) && super.some(cast, look);
  }

  private clampTo(at: number, count: number): number {
    return Math.max(0, Math.min(count - 1, Math.floor(at)));
  }
}

function makeTile({ oneWay, solid, tags, slope }: Tile, column: number, row: number, size: number): Solid {
  const [left, right] = slope ?? [1, 1];
  const top = Math.max(left, right);
  const [x0, x1, y0] = [
    column * size,
    (column + 1) * size,
    (oneWay && left === right ? row + 1 - PLATFORM : row) * size,
  ];
  const corners = [x0, y0, -DEEP, x1, slope ? (row + top) * size : (row + 1) * size, DEEP] as const;
  const more = { oneWay, tags, area: solid === false };
  if (left === right) return makeSolid(corners, more);
  const length = Math.sqrt(1 + (right - left) * (right - left));
  const [x, y] = [-(right - left) / length, 1 / length];
  const high = x * x0 + y * (row + left) * size;
  const low = Math.min(x * x0, x * x1) + y * y0;
  return makeSolid(corners, { ...more, axes: [{ x, y, z: 0, low, high }], slope: [left, right] });
}
