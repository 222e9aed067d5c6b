export { type Box, BoxWorld, flatGround } from './box-world.js';
export { type Tile, type TileOptions, TileWorld } from './tile-world.js';
export { Cast, Hit, type World } from './world.js';
