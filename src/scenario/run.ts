import type { Plan } from '../compile/plan.js';
import type { Condition, Reading } from '../compile/readings.js';
import type { Parsed, ParsedFormula } from '../moveset/read.js';
import { parseTime } from '../moveset/time.js';
import type { Sink } from '../report/diagnostic.js';
import type { LoggiaEvent } from '../report/events.js';
import { shortNumber } from '../report/reasons.js';
import { wordEvent } from '../report/story.js';
import { Character } from '../runtime/character.js';
import { TileWorld } from '../world/tile-world.js';
import { writeScript } from './script.js';

/** What a tick of a run looked like, after it. */
export interface Trace {
  readonly tick: number;
  readonly stance: string;
  /** By lane: the ability and its phase, or null. */
  readonly lanes: readonly (string | null)[];
  readonly x: number;
  readonly y: number;
  readonly vx: number;
  readonly vy: number;
  readonly pools: readonly number[];
  readonly events: readonly LoggiaEvent[];
}

/** An expectation that was not met. */
export interface Failure {
  /** Its place in the list, from 0 on. */
  readonly index: number;
  readonly expected: string;
  readonly was: string;
  readonly tick: number;
}

export interface RunResult {
  readonly passed: boolean;
  readonly failures: readonly Failure[];
  readonly expectations: number;
  readonly trace: readonly Trace[];
  /** Checksum of the record after the last tick. */
  readonly checksum: number;
}

/** Runs a scenario that was read by its shape. Faults of its own formulas go to `sink`; then nothing runs. */
export function runScenario(plan: Plan, scenario: Parsed, sink: Sink): RunResult | undefined {
  const expects = (scenario.expect as Parsed[]).map((row, i) => prepare(plan, row, i, scenario.run, sink));
  const world = new TileWorld(scenario.world.rows, {
    size: scenario.world.size,
    legend: Object.fromEntries(
      Object.values((scenario.world.legend ?? {}) as Parsed).map((tile) => [tile.letter, tile]),
    ),
  });
  const at = findStart(world, scenario.start?.at ?? '@', sink);
  if (sink.failed || !at) return undefined;

  const { facing, velocity, pools = {} } = scenario.start ?? {};
  const c = new Character(plan, { world, at, facing: facing === 'left' ? -1 : 1 });
  if (velocity) c.door.velocity(velocity[0], velocity[1], velocity[2] ?? 0);
  for (const [pool, value] of Object.entries(pools)) c.door.pool(pool, value as number);

  const script = writeScript(scenario.inputs ?? []);
  const trace: Trace[] = [];
  for (let tick = 0; tick < scenario.run; tick++) {
    for (const deed of script.get(tick) ?? []) deed(c);
    c.tick();
    const row = takeTrace(c, tick);
    trace.push(row);
    for (const expect of expects) expect.look(c, row);
  }
  const failures = expects.flatMap((expect) => expect.judge(trace) ?? []);
  return { passed: failures.length === 0, failures, expectations: expects.length, trace, checksum: c.checksum() };
}

function findStart(world: TileWorld, at: string | number[], sink: Sink): [number, number, number] | undefined {
  if (typeof at !== 'string') return [at[0], at[1], at[2] ?? 0];
  const place = world.find(at);
  if (place) return [place.x, place.y, 0];
  sink.add('unknown-name', ['world', 'rows'], { value: at, what: 'letter', known: [] });
  return undefined;
}

function takeTrace(c: Character, tick: number): Trace {
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
    vx: readout.vx,
    vy: readout.vy,
    pools: plan.names.pool.map((pool) => readout.pool(pool)),
    events: readout.eventCount > 0 ? readout.events : [],
  };
}

interface Check {
  readonly text: string;
  holds(c: Character, row: Trace): boolean;
  was(c: Character, row: Trace): string;
}

interface Expect {
  look(c: Character, row: Trace): void;
  judge(trace: readonly Trace[]): Failure | undefined;
}

function prepare(plan: Plan, row: Parsed, index: number, run: number, sink: Sink): Expect {
  const path = ['expect', index];
  const checks = collectChecks(plan, row, sink);
  if (checks.length === 0)
    sink.add('missing-key', path, { key: 'stance', title: 'an expectation', doc: 'what it expects.' });
  const momentary = row.started || row.refused || row.ended || row.event || row.landed;
  const window = findWindow(plan, row, run, Boolean(momentary), path, sink);
  const { from, by } = window;
  const text = checks.map((check) => check.text).join(', ');
  let met = 0;
  let looked = 0;
  let missed: Failure | undefined;
  return {
    look(c, trace) {
      if (trace.tick < from || trace.tick > by) return;
      looked++;
      const failed = checks.find((check) => !check.holds(c, trace));
      if (!failed) met++;
      else if (!missed || !row.always)
        missed = { index, expected: failed.text, was: failed.was(c, trace), tick: trace.tick };
    },
    judge(trace) {
      const where = from === by ? '' : ` between ${from}f and ${by}f`;
      if (row.times !== undefined) {
        if (met === row.times) return undefined;
        return {
          index,
          expected: `${text}, ${row.times} times${where}`,
          was: `${met} times`,
          tick: Math.min(by, trace.length - 1),
        };
      }
      if (row.always ? met === looked && looked > 0 : met > 0) return undefined;
      if (from === by || row.always) return missed ?? { index, expected: text, was: 'never looked at', tick: from };
      return {
        index,
        expected: `${text}${where}`,
        was: missed ? `never; at last ${missed.was}` : 'never',
        tick: Math.min(by, trace.length - 1),
      };
    },
  };
}

function findWindow(plan: Plan, row: Parsed, run: number, momentary: boolean, path: (string | number)[], sink: Sink) {
  const last = run - 1;
  const late = (tick: number, key: string) => {
    if (tick > last)
      sink.add('out-of-range', [...path, key], { value: `${tick}f`, min: '0f', max: `${last}f, the end of the run` });
  };
  if (row.at !== undefined && row.at !== 'end') {
    const ticks = parseTime(row.at, plan.rate);
    if (ticks === undefined) sink.add('bad-time', [...path, 'at'], { value: row.at });
    const at = Math.round(ticks ?? 0);
    late(at, 'at');
    return { from: at, by: at };
  }
  if (row.by !== undefined) late(row.by, 'by');
  const wide =
    row.from !== undefined ||
    row.by !== undefined ||
    row.always ||
    row.times !== undefined ||
    (momentary && row.at !== 'end');
  if (!wide) return { from: last, by: last };
  return { from: row.from ?? 0, by: row.by ?? last };
}

function collectChecks(plan: Plan, row: Parsed, sink: Sink): Check[] {
  const checks: Check[] = [];
  const add = (text: string, holds: Check['holds'], was: Check['was']) => checks.push({ text, holds, was });
  if (row.stance)
    add(
      `stance ${row.stance.join(' or ')}`,
      (_, t) => row.stance.includes(t.stance),
      (_, t) => `stance ${t.stance}`,
    );
  for (const ability of row.running ?? [])
    add(
      `${ability} running`,
      (c) => c.readout.isRunning(ability),
      (_, t) => `running ${wordLanes(t)}`,
    );
  for (const lane of row.idle ?? [])
    add(
      `nothing in ${lane}`,
      (c) => c.readout.ability(lane) === null,
      (c) => `${c.readout.ability(lane)} running`,
    );
  if (row.phase)
    add(
      `phase ${row.phase}`,
      (_, t) => t.lanes.some((l) => l?.endsWith(`.${row.phase}`)),
      (_, t) => wordLanes(t),
    );
  for (const formula of (row.that ?? []) as ParsedFormula[])
    for (const condition of plan.conditions(formula, sink)) addCondition(add, condition);
  if (row.clip)
    add(
      `clip ${row.clip}`,
      (c) => c.readout.clip === row.clip,
      (c) => `clip ${c.readout.clip}`,
    );
  for (const [ability, charge] of Object.entries((row.charge ?? {}) as Record<string, number>))
    add(
      `charge of ${ability} ${charge}`,
      (c) => Math.abs(c.readout.charge(ability) - charge) < 1e-9,
      (c) => `charge ${c.readout.charge(ability)}`,
    );
  const events = (t: Trace, test: (e: LoggiaEvent) => boolean) => t.events.some(test);
  const told = (_: Character, t: Trace) => t.events.map(wordEvent).join('; ') || 'nothing happened';
  if (row.started)
    add(`${row.started} starts`, (_, t) => events(t, (e) => e.kind === 'started' && e.ability === row.started), told);
  if (row.ended)
    add(
      `${row.ended} ends${row.why ? ` (${row.why})` : ''}`,
      (_, t) => events(t, (e) => e.kind === 'ended' && e.ability === row.ended && (!row.why || e.why === row.why)),
      told,
    );
  if (row.refused)
    add(
      `${row.refused} refused${row.because ? ` because ${row.because.join(', ')}` : ''}`,
      (_, t) => events(t, (e) => e.kind === 'refused' && e.ability === row.refused && sameReasons(e, row.because)),
      told,
    );
  if (row.event)
    add(`event ${row.event}`, (_, t) => events(t, (e) => e.kind === 'emitted' && e.event === row.event), told);
  if (row.landed) add('lands', (_, t) => events(t, (e) => e.kind === 'landed'), told);
  return checks;
}

function addCondition(
  add: (text: string, holds: Check['holds'], was: Check['was']) => void,
  condition: Condition,
): void {
  add(
    condition.text,
    (c) => condition.test(c),
    (c) => condition.readings.map((reading) => `${reading.text} is ${showReading(c, reading)}`).join(', ') || 'false',
  );
}

function showReading(c: Character, { type, run, at }: Reading): string {
  run?.(c);
  const value = c.r[at];
  if (type === 'truth') return String(value === 1);
  return shortNumber(type === 'time' ? value / c.plan.rate : value);
}

function sameReasons(event: Extract<LoggiaEvent, { kind: 'refused' }>, because: string[] | undefined): boolean {
  if (!because) return true;
  const codes = new Set(event.reasons.map((reason) => reason.code as string));
  return codes.size === new Set(because).size && because.every((code) => codes.has(code));
}

function wordLanes(t: Trace): string {
  return t.lanes.filter(Boolean).join(', ') || 'nothing';
}
