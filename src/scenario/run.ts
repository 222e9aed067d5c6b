import type { Plan } from '../compile/plan.js';
import type { Parsed } from '../moveset/read.js';
import { Sink } from '../report/diagnostic.js';
import { Character } from '../runtime/character.js';
import type { SolidWorld } from '../world/solid-world.js';
import { checkScript, checkWorld } from './check-scenario.js';
import { type Failure, prepareExpect } from './expect.js';
import { makeWorld } from './make-world.js';
import { writeScript } from './script.js';
import { type Trace, takeTrace } from './trace.js';

/** What became of a run. Plain data. */
export interface RunResult {
  readonly passed: boolean;
  readonly failures: readonly Failure[];
  readonly expectations: number;
  /** The ticks that were kept. */
  readonly trace: readonly Trace[];
  /** Checksum of the record after the last tick. */
  readonly checksum: number;
}

/** Which ticks of a run are kept: none, all, or those in which something happens and those around failures. */
export type Keep = 'nothing' | 'story' | 'everything';

/** Ticks kept before and after a failed expectation. */
export const AROUND = 3;
/** Below the lowest row by so many tiles, a body that still falls has left the world. */
const LOST = 20;

/** Runs a scenario that was read by its shape. Faults go to `sink`; then nothing runs. */
export function runScenario(plan: Plan, scenario: Parsed, sink: Sink, keep: Keep): RunResult | undefined {
  const world = makeWorld(plan, scenario, sink);
  checkWorld(plan, scenario, world, sink);
  checkScript(scenario, sink);
  const at = findStart(world, scenario.start?.at ?? '@', sink);
  if (!at || sink.failed) return undefined;
  // Run once without keeping anything: an hour of ticks does not fit into memory. What is to be shown is run again.
  const first = runOnce(plan, scenario, world, at, sink, () => keep === 'everything');
  if (!first || keep === 'everything' || (keep === 'nothing' && first.passed)) return first;
  const ticks = first.failures.map((failure) => failure.tick);
  const near = (tick: number) => ticks.some((other) => Math.abs(other - tick) <= AROUND);
  return runOnce(plan, scenario, world, at, new Sink(), (tick, happens) => happens || near(tick));
}

function runOnce(
  plan: Plan,
  scenario: Parsed,
  world: SolidWorld,
  at: [number, number, number],
  sink: Sink,
  keeps: (tick: number, happens: boolean) => boolean,
): RunResult | undefined {
  const expects = (scenario.expect as Parsed[]).map((row, i) => prepareExpect(plan, row, i, scenario.run, sink));
  if (sink.failed) return undefined;
  const trace: Trace[] = [];
  const { facing, velocity, pools = {} } = scenario.start ?? {};
  world.advanceTo(0);
  const c = new Character(plan, { world, at, facing: facing === 'left' ? -1 : 1 });
  if (velocity) c.door.velocity(velocity[0], velocity[1], velocity[2] ?? 0);
  for (const [pool, value] of Object.entries(pools)) c.door.pool(pool, value as number);
  const script = writeScript(scenario.inputs ?? []);
  let lost = false;
  for (let tick = 0; tick < scenario.run; tick++) {
    for (const action of script.get(tick) ?? []) action(c);
    world.advanceTo(tick / plan.rate);
    c.tick();
    const events = c.readout.eventCount > 0 ? c.readout.events : [];
    if (keeps(tick, events.length > 0)) trace.push(takeTrace(c, tick));
    for (const expect of expects) expect.look(c, tick, events);
    if (!lost && c.readout.y < -LOST * (scenario.world.size ?? 1)) {
      lost = true;
      sink.add('fell-out', ['world', 'rows'], { at: `${tick}f`, y: Math.round(c.readout.y) }, { severity: 'warning' });
    }
  }
  const failures = expects.flatMap((expect) => expect.judge() ?? []);
  return { passed: failures.length === 0, failures, expectations: expects.length, trace, checksum: c.checksum() };
}

function findStart(world: SolidWorld, at: string | number[], sink: Sink): [number, number, number] | undefined {
  if (typeof at !== 'string') return [at[0], at[1], at[2] ?? 0];
  const place = world.find(at);
  if (place) return [place.x, place.y, place.z ?? 0];
  sink.add('start-missing', ['world', 'rows'], { letter: at });
  return undefined;
}
