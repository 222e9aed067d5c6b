import type { Place, World } from '../world/world.js';
import { copyOfWorld, dataOfWorld, worldOfData } from '../world/world-data.js';
import { AnsweringWorld, AnswerLog, Answers, NotedWorld, type WorldTraits } from './answers.js';
import type { Surroundings } from './moment.js';
import { type FrozenWorld, OF_WORLD, placeKey, type Run } from './run.js';

/** What a run is read or made again in: a world of its own, and answers of its own. */
export interface Again extends Surroundings {
  /** What an engine or a host's world answered; null with a world that can be asked itself. */
  readonly answers: Answers | null;
}

export function surround(run: Run): Again {
  const { world, summons } = run;
  const find = (id: number, place: string): Place | undefined => {
    const at = run.places.get(placeKey(id, place)) ?? run.places.get(placeKey(OF_WORLD, place));
    return at ? { x: at[0], y: at[1], z: at[2] } : undefined;
  };
  if (world.kind === 'ours') {
    const own = world.live === null ? worldOfData(world.data) : copyOfWorld(world.live);
    return { world: own, probes: undefined, places: find, summons, keepsProbes: false, answers: null };
  }
  if (world.kind === 'custom' && world.live !== null) {
    const own = new NotedWorld(world.live, new AnswerLog());
    return { world: own, probes: undefined, places: find, summons, keepsProbes: true, answers: null };
  }
  const answers = new Answers(world.answers);
  return {
    world: world.kind === 'custom' ? new AnsweringWorld(answers, world.traits, () => undefined) : null,
    probes: world.kind === 'engine' ? (cast, hit) => answers.hit(cast.kind, cast, hit) : undefined,
    places: find,
    summons,
    keepsProbes: true,
    answers,
  };
}

/** How a world is kept. */
export function freeze(
  world: World | null,
  traits: () => WorldTraits,
  tags: readonly (readonly string[])[],
): FrozenWorld {
  if (world === null) return { kind: 'engine', answers: tags };
  const data = dataOfWorld(world);
  if (data !== undefined) return { kind: 'ours', data, live: world };
  const asked = world instanceof NotedWorld ? world.inner : world;
  return { kind: 'custom', traits: traits(), answers: tags, live: asked.still === true ? asked : null };
}
