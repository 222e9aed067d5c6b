import type { LoggiaEvent } from '../report/events.js';
import type { Character } from '../runtime/character.js';

/** What a tick of a run looked like, after it. Plain data. */
export interface Trace {
  readonly tick: number;
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
  readonly events: readonly LoggiaEvent[];
}

export function takeTrace(c: Character, tick: number): Trace {
  const { readout, plan } = c;
  return {
    tick,
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
    events: readout.eventCount > 0 ? readout.events : [],
  };
}
