import { type AnswerProbe, Cast, Hit, Room, type World } from '../world/world.js';

/** A world with what bodies ask it by; one for each world, since only one of them asks at a time. */
export interface Mover {
  readonly world: World;
  readonly cast: Cast;
  readonly hit: Hit;
  readonly room: Room;
  /** Answers probes: the world's own ray or sweep. */
  readonly answer: AnswerProbe;
}

const MOVERS = new WeakMap<World, Mover>();

function answerOf(world: World): AnswerProbe {
  return (cast, hit) => {
    if (cast.kind === 'overlap') return world.overlap(cast);
    if (cast.kind === 'nearest') return world.nearest?.(cast, hit) === true;
    return cast.kind === 'ray' ? world.ray(cast, hit) : world.sweep(cast, hit);
  };
}

export function moverOf(world: World): Mover {
  let mover = MOVERS.get(world);
  if (!mover) {
    mover = { world, cast: new Cast(), hit: new Hit(), room: new Room(), answer: answerOf(world) };
    MOVERS.set(world, mover);
  }
  return mover;
}
