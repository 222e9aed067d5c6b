import type { Arena, ArenaEvent, Member } from '../arena/index.js';
import type { LoggiaEvent } from '../report/events.js';

/** What a character looked like after a tick. Plain data. */
export interface Shown {
  /** Its name in the arena. */
  readonly name: string;
  readonly stance: string;
  /** By lane: the ability and its phase, or null. */
  readonly lanes: readonly (string | null)[];
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly vx: number;
  readonly vy: number;
  readonly vz: number;
  /** By pool, in the moveset's order. */
  readonly pools: readonly number[];
  /** Names of those pools. */
  readonly poolNames: readonly string[];
  readonly events: readonly LoggiaEvent[];
}

/** What a tick of a run looked like, after it: the first character, the others, and what happened between them. Plain data. */
export interface Trace extends Shown {
  readonly tick: number;
  readonly others: readonly Shown[];
  readonly meetings: readonly ArenaEvent[];
}

export function takeTrace(arena: Arena, tick: number): Trace {
  const [first, ...others] = [...arena.members, ...arena.departed].map(show);
  return { tick, ...(first ?? NOBODY), others, meetings: arena.eventCount > 0 ? arena.events : [] };
}

/** Where even the first one has left. */
const NOBODY: Shown = {
  name: '',
  stance: '',
  lanes: [],
  x: 0,
  y: 0,
  z: 0,
  vx: 0,
  vy: 0,
  vz: 0,
  pools: [],
  poolNames: [],
  events: [],
};

function show({ name, c }: Member): Shown {
  const { readout, plan } = c;
  return {
    name,
    stance: readout.stance,
    lanes: plan.names.lane.map((lane) => {
      const ability = readout.ability(lane);
      const phase = readout.phase(lane);
      return ability && phase ? `${ability}.${phase}` : ability;
    }),
    x: readout.x,
    y: readout.y,
    z: readout.z,
    vx: readout.vx,
    vy: readout.vy,
    vz: readout.vz,
    pools: plan.names.pool.map((pool) => readout.pool(pool)),
    poolNames: plan.names.pool,
    events: readout.eventCount > 0 ? readout.events : [],
  };
}
