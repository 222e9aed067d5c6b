import { Arena, ArenaTape } from '../arena/index.js';
import { saveProgress } from '../character/progress.js';
import { readText } from '../format/read-text.js';
import { isPlain } from '../moveset/read.js';
import { wantOptions, wantText } from '../report/arguments.js';
import { Sink } from '../report/diagnostic.js';
import { UsageError } from '../report/usage-error.js';
import { Tape } from '../saved/tape.js';
import type { SolidWorld } from '../world/solid-world.js';
import { type RunOptions, readScenarioFile, type ScenarioReport } from './load.js';
import { makeWorld } from './make-world.js';
import type { Players } from './players.js';
import type { RunResult } from './run.js';
import { type Trace, takeTrace } from './trace.js';

/** What a tape says when it is played, or why it cannot be. */
export interface Replay {
  /** The world and the movesets of a scenario, and in `result` what happened. */
  readonly report: ScenarioReport;
  /** A sentence: the tape is no such file, or it is of other movesets. Left out where it was played. */
  readonly fault?: string;
}

/**
 * Plays a tape that was saved as JSON, of a character or an arena, in the world of a scenario file and with the
 * movesets that it names. Nothing that the scenario scripts or expects counts. Never throws for what is wrong with
 * the files.
 * @param tape A path to JSON.
 * @param scenario A path to the scenario with the world that it was recorded in.
 * @param given The root folder, which ticks are kept.
 */
export async function replayFile(
  tape: string,
  scenario: string,
  given: Pick<RunOptions, 'root' | 'movesets' | 'keep'> = {},
): Promise<Replay> {
  wantText('replayFile', 'the file of the tape', tape);
  wantText('replayFile', 'the file of the scenario', scenario);
  wantOptions('replayFile', given, ['root', 'movesets', 'keep']);
  const { report, ready, finish } = await readScenarioFile(scenario, given);
  if (!ready) return { report };
  const text = readText(tape);
  if ('fault' in text) return { report, fault: `${tape} cannot be read: ${text.fault.params.why}.` };
  try {
    const saved: unknown = JSON.parse(text.text);
    const world = makeWorld(ready.players.plan, ready.parsed);
    const keeps = given.keep === 'everything' ? () => true : (trace: Trace) => happens(trace);
    return { report: finish(new Sink(), play(saved, ready.players, world, keeps)) };
  } catch (error) {
    if (error instanceof SyntaxError) return { report, fault: `${tape} is no JSON: ${error.message}.` };
    if (error instanceof UsageError) return { report, fault: `${tape} cannot be played: ${error.message}` };
    throw error;
  }
}

function play(saved: unknown, players: Players, world: SolidWorld, keeps: (trace: Trace) => boolean): RunResult {
  const { plan, others, summons } = players;
  const arena = new Arena({ world, summons });
  const trace: Trace[] = [];
  const run = (end: number, ticks: () => number, feed: () => void) => {
    while (ticks() < end) {
      world.advanceTo(ticks() / plan.rate);
      feed();
      arena.tick();
      const row = takeTrace(arena, ticks());
      if (keeps(row)) trace.push(row);
    }
  };
  let checksum: number;
  if (isPlain(saved) && saved.arenaTape !== undefined) {
    const tape = ArenaTape.from(saved);
    tape.rewindTo(arena, [...new Set([plan, ...others.values(), ...Object.values(summons)])]);
    run(
      tape.end,
      () => arena.tickCount,
      () => tape.feed(arena),
    );
    checksum = arena.checksum();
  } else {
    const tape = Tape.from(saved);
    const { character } = arena.add(plan.name, plan);
    tape.rewindTo(character);
    run(
      tape.end,
      () => character.hostTick,
      () => tape.feed(character),
    );
    checksum = character.checksum();
  }
  const first = arena.members[0]?.character;
  const progress = first ? saveProgress(first) : null;
  return { passed: true, failures: [], expectations: 0, trace, checksum, progress };
}

function happens({ events, others, meetings }: Trace): boolean {
  return events.length > 0 || meetings.length > 0 || others.some((other) => other.events.length > 0);
}
