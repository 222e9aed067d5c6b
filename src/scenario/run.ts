import type { Arena } from '../arena/index.js';
import type { Character } from '../character/character.js';
import { type Progress, saveProgress } from '../character/progress.js';
import { Recording } from '../recording/index.js';
import { Sink } from '../report/diagnostic.js';
import type { SolidWorld } from '../world/solid-world.js';
import { checkScript, checkWorld } from './check-scenario.js';
import { type Failure, prepareExpect } from './expect.js';
import { makeWorld } from './make-world.js';
import { findMember, makeArena, makeOpponents, type Players, planOf } from './players.js';
import { writeScript } from './script.js';
import type { Scenario } from './shape.js';
import { type Trace, takeTrace } from './trace.js';

/** What became of a run. Plain data. */
export interface RunResult {
  readonly passed: boolean;
  readonly failures: readonly Failure[];
  readonly expectations: number;
  /** The ticks that were kept. */
  readonly trace: readonly Trace[];
  /** Checksum of all that takes part after the last tick; of one alone, of its record. */
  readonly checksum: number;
  /** What the first character has learnt and has after the last tick; null where nobody is left. */
  readonly progress: Progress | null;
}

/** Which ticks of a run are kept: none, all, or those in which something happens and those around failures. */
export type Keep = 'nothing' | 'story' | 'everything';

/** Ticks kept before and after a failed expectation. */
export const AROUND = 3;
/** Below the lowest row by so many tiles, a body that still falls has left the world. */
const LOST = 20;

type Point = [number, number, number];

/** A scenario that can be run: its world, and where everybody begins. */
export interface Prepared {
  readonly players: Players;
  /** @internal */
  readonly scenario: Scenario;
  readonly world: SolidWorld;
  readonly places: ReadonlyMap<string, Point>;
}

/** Whoever looks at a run. */
export interface Onlooker {
  /** Everybody is there, and nothing has happened. */
  begin?(arena: Arena): void;
  /** After each tick. */
  look(arena: Arena, tick: number): void;
}

/** @internal Checks a scenario that was read by its shape without faults, and makes its world. Faults go to `sink`; then there is none. */
export function prepareRun(players: Players, scenario: Scenario, sink: Sink): Prepared | undefined {
  const world = makeWorld(players.plan, scenario);
  checkWorld(players, scenario, world, sink);
  checkScript(players, scenario, sink);
  const places = findPlaces(players, scenario, world, sink);
  return sink.failed ? undefined : { players, scenario, world, places };
}

/** @internal Everybody where a scenario begins, before its first tick. */
export function beginRun({ players, scenario, world, places }: Prepared, sink: Sink): Arena | undefined {
  const opponents = makeOpponents(players, sink);
  if (sink.failed) return undefined;
  world.advanceTo(0);
  return makeArena(players, scenario, world, places, opponents, sink);
}

/** @internal Runs a scenario from its start to its end. Undefined, and a fault, where somebody is called of whom nothing is known. */
export function playThrough(
  { players, scenario, world, places }: Prepared,
  sink: Sink,
  { begin, look }: Onlooker,
): Arena | undefined {
  const { plan } = players;
  const arena = beginRun({ players, scenario, world, places }, sink);
  if (!arena) return undefined;
  begin?.(arena);
  const script = writeScript(scenario.inputs ?? []);
  for (let tick = 0; tick < scenario.run; tick++) {
    for (const { of = plan.name, run } of script.get(tick) ?? []) {
      const member = findMember(arena, of);
      if (member) run(member.c);
    }
    world.advanceTo(tick / plan.rate);
    if (!tickAll(arena, players, sink)) return undefined;
    look(arena, tick);
  }
  return arena;
}

/** @internal Runs a scenario that was read by its shape. Faults go to `sink`; then nothing runs. */
export function runScenario(
  players: Players,
  scenario: Scenario,
  sink: Sink,
  keep: Keep,
  record?: (recording: Recording) => void,
): RunResult | undefined {
  const run = prepareRun(players, scenario, sink);
  if (!run) return undefined;
  // Run once without keeping anything: an hour of ticks does not fit into memory. What is to be shown is run again.
  const first = runOnce(run, sink, () => keep === 'everything', record);
  if (!first || keep === 'everything' || (keep === 'nothing' && first.passed)) return first;
  const ticks = first.failures.map((failure) => failure.tick);
  const near = (tick: number) => ticks.some((other) => Math.abs(other - tick) <= AROUND);
  return runOnce(run, new Sink(), (tick, happens) => happens || near(tick));
}

function runOnce(
  run: Prepared,
  sink: Sink,
  keeps: (tick: number, happens: boolean) => boolean,
  record?: (recording: Recording) => void,
): RunResult | undefined {
  const { players, scenario } = run;
  const { plan } = players;
  const expects = scenario.expect.map((row, i) =>
    prepareExpect(planOf(players, row.of) ?? plan, row, i, scenario.run, sink),
  );
  if (sink.failed) return undefined;
  const trace: Trace[] = [];
  const lost = new Set<string>();
  const bottom = -LOST * (scenario.world.size ?? 1);
  let first: Character | undefined;
  let recording: Recording | undefined;
  const arena = playThrough(run, sink, {
    begin(arena) {
      first = arena.members[0].character;
      const seconds = Math.max(1, scenario.run / plan.rate);
      if (record) recording = new Recording(arena, { seconds, megabytes: 4000 });
    },
    look(arena, tick) {
      const happens =
        arena.eventCount > 0 ||
        arena.departed.length > 0 ||
        arena.members.some(({ character }) => character.readout.eventCount > 0);
      if (keeps(tick, happens)) trace.push(takeTrace(arena, tick));
      for (const expect of expects) expect.look(arena, tick);
      for (const { name, character } of arena.members) {
        const { y } = character.readout;
        // What is called, such as a shot, may fly off.
        if (y >= bottom || lost.has(name) || !(name === plan.name || players.others.has(name))) continue;
        lost.add(name);
        const fell = { who: name, at: `${tick}f`, y: Math.round(y) };
        sink.add('fell-out', ['world', 'rows'], fell, { severity: 'warning' });
      }
    },
  });
  if (!arena || !first) return undefined;
  if (recording) {
    recording.stop();
    record?.(recording);
  }
  const failures = expects.flatMap((expect) => expect.judge() ?? []);
  const checksum = players.others.size === 0 && arena.members.length === 1 ? first.checksum() : arena.checksum();
  const progress = saveProgress(first);
  return { passed: failures.length === 0, failures, expectations: expects.length, trace, checksum, progress };
}

/** One tick; somebody who is called, and of whom the scenario does not say who that is, is a fault. */
function tickAll(arena: Arena, players: Players, sink: Sink): boolean {
  try {
    arena.tick();
    return true;
  } catch (error) {
    for (const { c } of arena.members)
      for (const call of c.calls) {
        const who = c.plan.names.summon[c.plan.summonings[call].who];
        if (!players.summons[who]) sink.add('no-summon', ['moveset'], { who, by: c.plan.name });
      }
    if (!sink.failed) throw error;
    return false;
  }
}

/** Where each begins. */
function findPlaces(
  players: Players,
  { start, others = {} }: Scenario,
  world: SolidWorld,
  sink: Sink,
): Map<string, Point> {
  const places = new Map<string, Point>();
  const find = (name: string, at: string | number[] | undefined) => {
    if (at === undefined) return;
    if (typeof at !== 'string') {
      places.set(name, [at[0], at[1], at[2] ?? 0]);
      return;
    }
    const place = world.find(at);
    if (place) places.set(name, [place.x, place.y, place.z ?? 0]);
    else sink.add('start-missing', ['world', 'rows'], { letter: at });
  };
  find(players.plan.name, start?.at ?? '@');
  for (const name of players.others.keys()) find(name, others[name]?.at);
  return places;
}
