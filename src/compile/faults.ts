import { heading } from '../moveset/directions/direction.js';
import { point } from '../moveset/directions/point.js';
import { read } from '../moveset/read.js';
import type { ParsedAbility, ParsedMoveset, ParsedPool, ParsedScope } from '../moveset/schema.js';
import { soundEntries } from '../moveset/shape.js';
import { NEVER } from '../record/slots.js';
import type { Path, Sink } from '../report/diagnostic.js';
import { allScopes, clipTicks } from './needs.js';
import type { AbilityPlan, Plan } from './plan.js';

/** Faults that no part of a moveset has by itself. `faulty` are abilities that have errors already. */
export function checkWhole(parsed: ParsedMoveset, plan: Plan, faulty: ReadonlySet<string | number>, sink: Sink): void {
  checkRenamed(parsed, plan, sink);
  checkStances(parsed, sink);
  checkBeats(parsed, sink);
  checkEmitted(parsed, plan, sink);
  for (const [name, pool] of soundEntries(parsed.pools)) checkPool(name, pool, sink);
  for (const ability of plan.abilities) {
    const given = parsed.abilities?.[ability.name];
    if (!given) continue;
    checkPay(ability.name, given, sink);
    if (faulty.has(ability.name) || given.like !== undefined) continue;
    checkEnds(ability, plan, sink);
    checkDistances(ability, given, plan, sink);
  }
}

/** What was renamed is there by its new name, and by its old one no more. */
function checkRenamed({ renamed }: ParsedMoveset, { names }: Plan, sink: Sink): void {
  const known = new Set(Object.values(names).flat());
  for (const [old, now] of soundEntries(renamed)) {
    if (typeof now === 'string' && !known.has(now))
      sink.add('unknown-name', ['renamed', old], { value: now, what: 'name', known: [...known] });
    if (known.has(old))
      sink.add('pointless-key', ['renamed', old], { key: old, why: 'something still has this name' }, { on: 'key' });
  }
}

function checkStances({ stances }: ParsedMoveset, sink: Sink): void {
  const all = soundEntries(stances);
  const last = Object.keys(stances ?? {}).at(-1);
  for (const [stance, { when }] of all) {
    if (stance === last && when) sink.add('stance-last', ['stances', stance, 'when'], { stance }, { on: 'key' });
    if (stance !== last && !when) sink.add('stance-unreachable', ['stances', stance], { stance }, { on: 'key' });
  }
}

/** A beat needs something to do; one at a place of a clip needs a clip, and its length. */
function checkBeats(parsed: ParsedMoveset, sink: Sink): void {
  const check = (scope: ParsedScope, path: Path) => {
    const clip = typeof scope.clip === 'object' ? Object.values(scope.clip)[0] : scope.clip;
    (scope.beats ?? []).forEach((beat, i) => {
      if (beat?.place !== undefined && (clip === undefined || clipTicks(parsed, clip) === undefined))
        sink.add('beat-place', [...path, 'beats', i, 'place'], { clip });
      const key = beat && WHEN.find((at) => beat[at] !== undefined);
      if (key && !ACTS.some((act) => beat[act] !== undefined))
        sink.add(
          'pointless-key',
          [...path, 'beats', i, key],
          { key, why: NO_ACTION },
          { severity: 'warning', on: 'key' },
        );
    });
  };
  for (const group of ['stances', 'loadouts', 'abilities'] as const)
    for (const [name, scope] of soundEntries<ParsedScope>(parsed[group])) {
      check(scope, [group, name]);
      phasesOf(scope).forEach((phase, i) => {
        if (phase) check(phase, [group, name, 'phases', i]);
      });
    }
}

/** Points and directions that messages are given: what they may be, the event says. */
function checkEmitted(parsed: ParsedMoveset, { messages, names, rate }: Plan, sink: Sink): void {
  const check = (scope: Pick<ParsedScope, 'emit'> | undefined) => {
    if (!scope?.emit || Array.isArray(scope.emit)) return;
    for (const [event, given] of soundEntries(scope.emit))
      for (const { name, type } of messages.find((message) => message.name === event)?.values ?? []) {
        const value = given[name];
        const shape = type === 'point' ? point : type === 'direction' ? heading : undefined;
        if (value && shape) read(shape, value.source, value.path, names, rate, sink);
      }
  };
  for (const scope of allScopes(parsed)) {
    check(scope);
    for (const beat of scope?.beats ?? []) check(beat);
  }
}

const WHEN = ['at', 'every', 'place', 'moment'] as const;
const ACTS = ['gain', 'emit', 'mark'] as const;
const NO_ACTION = 'this beat has nothing to do; add "emit", "gain" or "mark"';

function checkPool(name: string, { min, max, start }: ParsedPool, sink: Sink): void {
  const [lowest, highest] = [min?.source ?? 0, max?.source];
  if (typeof lowest !== 'number' || typeof highest !== 'number') return;
  if (highest < lowest) sink.add('out-of-range', ['pools', name, 'max'], { value: highest, min: lowest, max: 1e6 });
  if (start !== undefined && (start < lowest || start > highest))
    sink.add('out-of-range', ['pools', name, 'start'], { value: start, min: lowest, max: highest });
}

function checkPay(name: string, { pay, phases = [] }: ParsedAbility, sink: Sink): void {
  const known = phases.map((phase, i) => phase?.name ?? String(i + 1));
  if (pay !== undefined && !known.includes(pay))
    sink.add('unknown-name', ['abilities', name, 'pay'], { value: pay, what: 'phase', known });
}

/** What goes a distance needs a time, and cannot be added to what there is. */
function checkDistances(a: AbilityPlan, given: ParsedAbility, { phases }: Plan, sink: Sink): void {
  const path = ['abilities', a.name];
  const check = (move: ParsedScope['move'], lasts: number, at: Path) => {
    if (move?.distance === undefined) return;
    if (lasts === NEVER) sink.add('missing-key', at, { key: 'for', title: 'what goes a distance', doc: TIME_OF_WAY });
    const why =
      move.speed !== undefined
        ? '"distance" and "speed" say the same in two ways; remove one of them'
        : move.mode === 'add' || move.mode === 'accelerate'
          ? `with "mode: ${move.mode}" nothing is held that would lead so far; leave the mode out`
          : undefined;
    if (why) sink.add('pointless-key', [...at, 'distance'], { key: 'distance', why }, { on: 'key' });
  };
  check(given.move, a.lasts, [...path, 'move']);
  (given.phases ?? []).forEach((phase, i) => {
    const { lasts, time } = phases[a.firstPhase + i];
    check(phase?.move, time ? NEVER : lasts, [...path, 'phases', i, 'move']);
  });
}

const TIME_OF_WAY = 'how long its phase lasts, or each phase of its ability, as a time and no formula.';

function checkEnds(a: AbilityPlan, plan: Plan, sink: Sink): void {
  const { name: ability, end, interrupt, sustained, triggers } = a;
  let last = a.firstPhase < 0 ? undefined : plan.phases[a.firstPhase];
  while (last && last.next >= 0) last = plan.phases[last.next];
  const phaseEnds = last && (last.lasts !== NEVER || last.time || last.until.length > 0 || last.charge);
  const drains = a.upkeeps.some((upkeep) => upkeep.perTick > 0);
  if (phaseEnds || drains || end.length > 0 || interrupt.length > 0) return;
  if (sustained.length > 0 && !triggers.some(({ on, latch }) => on !== null && on !== 'code' && !latch)) return;
  const why = last ? 'nothing ends its last phase' : 'it has no phases, is not held, and nothing ends it';
  sink.add('never-ends', ['abilities', ability], { ability, why }, { on: 'key' });
}

/** The phases of a scope: only abilities have any. */
function phasesOf(scope: ParsedScope | ParsedAbility): (ParsedScope | undefined)[] {
  return ('phases' in scope && scope.phases) || [];
}
