export { type Box, BoxWorld } from './box-world.js';
export { flatGround } from './flat-ground.js';
export { type Tile, type TileOptions, TileWorld } from './tile-world.js';
export { Cast, Hit, Room, type World } from './world.js';
