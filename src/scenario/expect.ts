import { type Arena, type ArenaEvent, wordMeeting } from '../arena/index.js';
import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import type { Condition, Reading } from '../compile/readings.js';
import { parseTime } from '../moveset/time.js';
import type { Path, Sink } from '../report/diagnostic.js';
import type { LoggiaEvent } from '../report/events.js';
import { wordEvent } from '../report/story.js';
import { count } from '../report/words.js';
import { findMember, isNamed } from './players.js';
import type { Expectation } from './shape.js';
import { Sightings } from './sightings.js';

/** An expectation that was not met. */
export interface Failure {
  /** Its place in the list, from 0 on. */
  readonly index: number;
  readonly expected: string;
  readonly was: string;
  /** Where it happened instead, or what came nearest; empty when there is nothing to tell. */
  readonly instead: string;
  readonly tick: number;
  /** The member that it is about. */
  readonly of: string;
}

/** One thing that an expectation asks of a tick. */
interface Check {
  readonly text: string;
  holds(c: Character, events: readonly LoggiaEvent[], arena: Arena): boolean;
  /** What there was instead. */
  was(c: Character, events: readonly LoggiaEvent[], arena: Arena): string;
  /** How much like what is expected an event is: 0 for not at all. */
  near?(event: LoggiaEvent): number;
  /** It is not about a character, so that it holds or not where there is none. */
  readonly ofAll?: boolean;
}

export interface Expect {
  look(arena: Arena, tick: number): void;
  judge(): Failure | undefined;
}

/** Keys whose expectation is a moment: without a time, it may come anywhere in the run. */
const MOMENTS = ['started', 'refused', 'ended', 'event', 'landed', 'warped', 'takes', 'fell'] as const;

/** @internal Prepares an expectation of a run of so many ticks; its faults go to `sink`. */
export function prepareExpect(plan: Plan, row: Expectation, index: number, run: number, sink: Sink): Expect {
  const path = ['expect', index];
  const checks = collectChecks(plan, row, path, sink);
  const { from, by } = findWindow(plan, row, run, path, sink);
  const whom = row.of === undefined ? '' : `${row.of}: `;
  const text = whom + checks.map((check) => check.text).join(', ');
  const name = row.of ?? plan.name;
  const sightings = new Sightings();
  let met = 0;
  let missed: { text: string; was: string; tick: number } | undefined;
  return {
    look(arena, tick) {
      const c = findMember(arena, name)?.c;
      const events = c && c.readout.eventCount > 0 ? c.readout.events : [];
      const failed = checks.find((check) => (c || check.ofAll ? !check.holds(c as Character, events, arena) : true));
      if (!failed) sightings.note(tick);
      else
        for (const event of events) {
          const rank = failed.near?.(event) ?? 0;
          if (rank > 0) sightings.noteNear(tick, wordEvent(event), rank, from, by);
        }
      if (tick < from || tick > by) return;
      if (!failed) met++;
      else if (!missed || !row.always) {
        const was = c || failed.ofAll ? failed.was(c as Character, events, arena) : `${name} is not in the arena`;
        missed = { text: whom + failed.text, was, tick };
      }
    },
    judge() {
      const instead = sightings.tell();
      const where = from === by || (from === 0 && by === run - 1) ? '' : ` between ${from}f and ${by}f`;
      const fail = (expected: string, was: string, tick: number) => ({ index, expected, was, instead, tick, of: name });
      if (row.times !== undefined) {
        if (met === row.times) return undefined;
        const expected = `${text}, ${count(row.times, 'time')}${where}`;
        return fail(expected, count(met, 'time'), sightings.nearestTo(from, by) ?? by);
      }
      if (row.always ? met === by - from + 1 : met > 0) return undefined;
      const last = missed as NonNullable<typeof missed>;
      const was = `at ${last.tick}f: ${last.was}`;
      if (row.always) return fail(`${last.text}, always${where}`, was, last.tick);
      if (from === by) return fail(last.text, was, last.tick);
      const isMoment = MOMENTS.some((key) => row[key] !== undefined);
      return fail(text + where, isMoment ? 'never' : `never; ${was}`, sightings.nearestTo(from, by) ?? by);
    },
  };
}

/** The ticks in which an expectation looks; what can test nothing is a fault. */
function findWindow(plan: Plan, row: Expectation, run: number, path: Path, sink: Sink): { from: number; by: number } {
  const last = run - 1;
  const late = (tick: number, key: string) => {
    if (tick > last)
      sink.add('out-of-range', [...path, key], {
        value: `${tick}f`,
        min: '0f',
        max: `${last}f, the last tick of the run`,
      });
  };
  const { at, from, by, always, times } = row;
  if (at !== undefined) {
    for (const key of ['from', 'by', 'always', 'times'] as const)
      if (row[key] !== undefined)
        sink.add('pointless-key', [...path, key], { key, why: '"at" already says the one tick' });
    if (at === 'end') return { from: last, by: last };
    const ticks = parseTime(at, plan.rate);
    if (ticks === undefined) sink.add('bad-time', [...path, 'at'], { value: at });
    const tick = Math.round(ticks ?? 0);
    late(tick, 'at');
    return { from: tick, by: tick };
  }
  if (from !== undefined) late(from, 'from');
  if (by !== undefined) late(by, 'by');
  if (from !== undefined && by !== undefined && from > by)
    sink.add('pointless-key', [...path, 'from'], { key: 'from', why: `it is after "by", which is ${by}f` });
  if (always && times !== undefined)
    sink.add('pointless-key', [...path, 'times'], { key: 'times', why: '"always" already says every tick' });
  const anywhere =
    from !== undefined ||
    by !== undefined ||
    always ||
    times !== undefined ||
    MOMENTS.some((key) => row[key] !== undefined);
  return anywhere ? { from: from ?? 0, by: by ?? last } : { from: last, by: last };
}

function collectChecks(plan: Plan, row: Expectation, path: Path, sink: Sink): Check[] {
  const checks: Check[] = [];
  const add = (check: Check) => checks.push(check);
  const lanes = (c: Character) =>
    plan.names.lane.flatMap((lane) => wordLane(c, lane) ?? []).join(', ') || 'nothing running';
  const { stance, height } = row;
  if (stance)
    add({
      text: `stance ${stance.join(' or ')}`,
      holds: (c) => stance.includes(c.readout.stance),
      was: (c) => `stance ${c.readout.stance}`,
    });
  for (const ability of row.running ?? [])
    add({
      text: `${ability} running`,
      holds: (c) => c.readout.isRunning(ability),
      was: lanes,
      near: (e) => isOf(e, ability),
    });
  for (const lane of row.idle ?? [])
    add({
      text: `nothing running in ${lane}`,
      holds: (c) => c.readout.ability(lane) === null,
      was: (c) => `${c.readout.ability(lane)} running`,
    });
  if (row.phase !== undefined) {
    const known = [...new Set(plan.phases.map((phase) => phase.name))];
    if (!known.includes(row.phase))
      sink.add('unknown-name', [...path, 'phase'], { value: row.phase, what: 'phase', known });
    add({
      text: `phase ${row.phase}`,
      holds: (c) => plan.names.lane.some((lane) => c.readout.phase(lane) === row.phase),
      was: lanes,
      near: (e) => Number(e.kind === 'phase' && e.phase === row.phase),
    });
  }
  for (const formula of row.that ?? [])
    for (const condition of plan.conditions(formula, sink)) add(conditionCheck(condition));
  if (row.clip !== undefined) {
    if (!plan.clips.includes(row.clip))
      sink.add('unknown-name', [...path, 'clip'], { value: row.clip, what: 'clip', known: plan.clips });
    add({
      text: `clip ${row.clip}`,
      holds: (c) => c.readout.clip === row.clip,
      was: (c) => `clip ${c.readout.clip ?? 'none'}`,
      near: (e) => Number(e.kind === 'clip' && e.clip === row.clip),
    });
  }
  if (row.facing)
    add({
      text: `facing ${row.facing}`,
      holds: (c) => (row.facing === 'left' ? c.readout.facing < 0 : c.readout.facing > 0),
      was: (c) => `facing ${c.readout.facing < 0 ? 'left' : 'right'}`,
    });
  if (row.shape)
    add({
      text: `shape ${row.shape}`,
      holds: (c) => c.readout.shape === row.shape,
      was: (c) => `shape ${c.readout.shape}`,
    });
  if (height !== undefined)
    add({
      text: `height ${height}`,
      holds: (c) => Math.abs(c.readout.height - height) < 1e-9,
      was: (c) => `height ${c.readout.height}`,
    });
  const { within = 0.01 } = row;
  if (row.place) add(placeCheck(row.place, within));
  for (const [name, at] of Object.entries(row.point ?? {})) {
    const readings = ['x', 'y', 'z'].flatMap((axis) => plan.reading(`${name}.${axis}`) ?? []);
    const known = [...plan.names.mark, ...plan.names.aim, ...plan.names.probe];
    if (!known.includes(name))
      sink.add(
        'unknown-name',
        [...path, 'point', name],
        { value: name, what: 'mark, aim or probe', known },
        { on: 'key' },
      );
    else add(pointCheck(name, plan.reading(`known(${name})`) ?? plan.reading(`${name}.hit`), readings, at, within));
  }
  if (!row.place && !row.point && !row.warped && row.within !== undefined)
    pointless(sink, path, 'within', 'it belongs to "place", "point" or "warped"');
  for (const [ability, charge] of Object.entries(row.charge ?? {}))
    add({
      text: `charge of ${ability} ${charge}`,
      holds: (c) => Math.abs(c.readout.charge(ability) - charge) < 1e-9,
      was: (c) => `charge ${exactly(c.readout.charge(ability), [charge])}`,
    });
  if (row.members) add(membersCheck(row.members));
  addMoments(row, path, sink, add);
  if (row.takes) add(takesCheck(row, plan.rate));
  else
    for (const key of ['damage', 'stun', 'other'] as const)
      if (row[key] !== undefined) pointless(sink, path, key, 'it belongs to "takes"');
  return checks;
}

function addMoments(row: Expectation, path: Path, sink: Sink, add: (check: Check) => void): void {
  const moment = (text: string, test: (e: LoggiaEvent) => boolean, near: (e: LoggiaEvent) => number) =>
    add({
      text,
      near,
      holds: (_, events) => events.some(test),
      was: (_, events) => events.map(wordEvent).join('; ') || 'nothing happened',
    });
  const { started, ended, why, refused, because, event } = row;
  if (started)
    moment(
      `${started} starts`,
      (e) => e.kind === 'started' && e.ability === started,
      (e) => (e.kind === 'started' ? 0 : isOf(e, started, 'refused')),
    );
  if (ended)
    moment(
      `${ended} ends${why ? ` (${why})` : ''}`,
      (e) => e.kind === 'ended' && e.ability === ended && (!why || e.why === why),
      (e) => isOf(e, ended, 'ended'),
    );
  else if (why !== undefined) pointless(sink, path, 'why', 'it belongs to "ended"');
  if (refused)
    moment(
      `${refused} refused${because ? ` because ${because.join(', ')}` : ''}`,
      (e) => e.kind === 'refused' && e.ability === refused && sameReasons(e, because),
      (e) => isOf(e, refused, 'refused'),
    );
  else if (because !== undefined) pointless(sink, path, 'because', 'it belongs to "refused"');
  if (event)
    moment(
      `emits ${event}`,
      (e) => e.kind === 'emitted' && e.event === event,
      (e) => Number(e.kind === 'received' && e.event === event),
    );
  const { warped, within = 0.01 } = row;
  if (warped)
    moment(
      `warps to ${warped.join(', ')} within ${within}`,
      (e) => e.kind === 'warped' && apart([e.x, e.y, e.z], warped) <= within,
      (e) => Number(e.kind === 'warped'),
    );
  if (row.fell)
    moment(
      'falls out of the world',
      (e) => e.kind === 'fell',
      () => 0,
    );
  if (row.landed)
    moment(
      'lands',
      (e) => e.kind === 'landed',
      (e) => Number(e.kind === 'airborne'),
    );
}

/** Who is in the arena. */
function membersCheck(members: string[]): Check {
  const now = (arena: Arena) => arena.members.map(({ name }) => name).join(', ') || 'nobody';
  const text = members.join(', ') || 'nobody';
  return {
    text: `${text} in the arena`,
    holds: (_, __, { members: here }) =>
      here.length === members.length && here.every(({ name }, i) => isNamed(name, members[i])),
    was: (_, __, arena) => `${now(arena)} in the arena`,
    ofAll: true,
  };
}

/** A blow that it takes, a touch, or a clash of its own strike. */
function takesCheck({ takes, damage, stun, other, of }: Expectation, rate: number): Check {
  const isIt = (event: ArenaEvent, name: string): boolean => {
    const [mine, theirs] = event.kind === 'clash' ? [event.by, event.to] : [event.to, event.by];
    if (!isNamed(mine, name) || (other !== undefined && !isNamed(theirs, other))) return false;
    if (event.kind !== 'blow') return takes === (event.kind === 'clash' ? 'clashed' : 'touched');
    if (event.outcome !== takes) return false;
    return (
      (damage === undefined || Math.abs(event.damage - damage) < 1e-9) &&
      (stun === undefined || Math.round(event.stun * rate) === stun)
    );
  };
  const parts = [
    takes,
    ...(damage === undefined ? [] : [`damage ${damage}`]),
    ...(stun === undefined ? [] : [`stun ${stun}f`]),
    ...(other === undefined ? [] : [`from ${other}`]),
  ];
  return {
    text: `takes ${parts.join(', ')}`,
    holds: (c, _, arena) => arena.eventCount > 0 && arena.events.some((event) => isIt(event, of ?? c.plan.name)),
    was: (_, __, arena) => arena.events.map(wordMeeting).join('; ') || 'nobody met anybody',
  };
}

function pointless(sink: Sink, path: Path, key: string, why: string): void {
  sink.add('pointless-key', [...path, key], { key, why });
}

function placeCheck([x, y, z]: number[], within: number): Check {
  const text = `at ${[x, y, ...(z === undefined ? [] : [z])].join(', ')} within ${within}`;
  const distance = ({ readout }: Character) =>
    Math.sqrt((readout.x - x) ** 2 + (readout.y - y) ** 2 + (z === undefined ? 0 : (readout.z - z) ** 2));
  return {
    text,
    holds: (c) => distance(c) <= within,
    was: ({ readout }) =>
      `at ${[readout.x, readout.y, ...(z === undefined ? [] : [readout.z])].map((n) => exactly(n, [x, y])).join(', ')}`,
  };
}

/** How far two points are apart, along as many axes as the second one names. */
function apart(at: readonly number[], from: readonly number[]): number {
  return Math.sqrt(from.reduce((sum, n, i) => sum + (at[i] - n) ** 2, 0));
}

function pointCheck(
  name: string,
  known: Reading | undefined,
  readings: readonly Reading[],
  at: number[],
  within: number,
): Check {
  const read = (c: Character, reading: Reading) => {
    reading.run?.(c);
    return c.r[reading.at];
  };
  const now = (c: Character) => (known && read(c, known) === 0 ? [] : readings.map((reading) => read(c, reading)));
  return {
    text: `${name} at ${at.join(', ')} within ${within}`,
    holds: (c) => apart(now(c), at) <= within,
    was: (c) => {
      const found = now(c).slice(0, at.length);
      return found.length === 0 ? `${name} is nowhere` : `${name} at ${found.map((n) => exactly(n, at)).join(', ')}`;
    },
  };
}

function conditionCheck({ text, test, readings }: Condition): Check {
  const compared = [...text.matchAll(/\d+(?:\.\d+)?/g)].map(([digits]) => Number(digits));
  return {
    text,
    holds: (c) => test(c),
    was: (c) =>
      readings.map((reading) => `${reading.text} is ${showReading(c, reading, compared)}`).join(', ') || 'false',
  };
}

function showReading(c: Character, { type, run, at }: Reading, compared: readonly number[]): string {
  run?.(c);
  const value = c.r[at];
  if (type === 'truth') return String(value === 1);
  return type === 'time' ? `${exactly(value / c.plan.rate, compared)}s` : exactly(value, compared);
}

/** Two decimals, or as many as it takes to differ from each number that it is compared with and is not. */
function exactly(value: number, compared: readonly number[]): string {
  if (!Number.isFinite(value)) return String(value);
  for (let digits = 2; digits <= 15; digits++) {
    const shown = Number(value.toFixed(digits));
    if (shown === value || compared.every((other) => Math.abs(other) !== Math.abs(shown))) return String(shown + 0);
  }
  return String(value);
}

function isOf(event: LoggiaEvent, ability: string, kind?: LoggiaEvent['kind']): number {
  const known = event.kind === 'started' || event.kind === 'refused' || event.kind === 'ended';
  return known && event.ability === ability ? (event.kind === kind ? 2 : 1) : 0;
}

function sameReasons(
  event: Extract<LoggiaEvent, { kind: 'refused' }>,
  because: readonly string[] | undefined,
): boolean {
  if (!because) return true;
  const codes = new Set(event.reasons.map((reason) => reason.code as string));
  return codes.size === new Set(because).size && because.every((code) => codes.has(code));
}

function wordLane({ readout }: Character, lane: string): string | null {
  const ability = readout.ability(lane);
  const phase = readout.phase(lane);
  return ability && phase ? `${ability}.${phase} running` : ability && `${ability} running`;
}
