/** What a game carries at least that ships a packed moveset: the character, its mover, a world. */
export { Character, flatGround, unpackMoveset } from '../src/index.js';
