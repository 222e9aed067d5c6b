export type { AnyBlock, Box, Capsule, Path, PathPoint, TurnedBox } from './blocks.js';
export { BoxWorld, type BoxWorldOptions } from './box-world.js';
export { flatGround } from './flat-ground.js';
export type { SolidWorldOptions } from './solid-world.js';
export { type Tile, type TileOptions, type TileSeen, TileWorld } from './tile-world.js';
export { type AnswerProbe, Cast, type Edges, Hit, type Place, Room, type World } from './world.js';
