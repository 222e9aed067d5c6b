import { Character, flatGround } from '../src/index.js';
import { STREAMS } from './streams.js';
import { YardFight } from './yard-fight.js';
import fight from './yard-fight.yaml';

/*
 * The first second of play in a fresh process, of a module or `hand`: prints milliseconds. Loading is not counted, compiling what runs
 * for the first time is.
 */
const stream = STREAMS.real;

function byHand(): (t: number) => void {
  const hand = new YardFight();
  return (t) => {
    for (const { key, down } of stream[t]) hand.key(key, down);
    hand.tick();
  };
}

function byModule(): (t: number) => void {
  const character = new Character(fight, { world: flatGround() });
  return (t) => {
    for (const { input, down } of stream[t]) {
      if (down) character.door.press(input);
      else character.door.release(input);
    }
    character.tick();
  };
}

const step = process.argv[2] === 'hand' ? byHand() : byModule();
const before = process.hrtime.bigint();
for (let t = 0; t < 60; t++) step(t);
console.log(Number(process.hrtime.bigint() - before) / 1e6);
