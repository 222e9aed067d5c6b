import type { Sink } from '../moveset/diagnostic.js';
import { NEVER } from '../moveset/slots.js';
import type { Written } from './compile.js';
import type { AbilityPlan, Plan } from './plan.js';

/** Faults that no part of a moveset has by itself. What is faulty in itself is not looked at again. */
export function checkWhole(written: Written, plan: Plan, sink: Sink): void {
  checkStances(written, sink);
  for (const [name, pool] of entries(written.pools)) checkPool(name, pool, sink);
  for (const ability of plan.abilities) {
    const given = written.abilities?.[ability.name];
    if (!given) continue;
    checkPay(ability.name, given, sink);
    checkEnds(ability, plan, sink);
  }
}

function checkStances({ stances }: Written, sink: Sink): void {
  const all = entries(stances);
  if (stances && Object.keys(stances).length === 0) sink.add('too-many', ['stances'], { count: 0, min: 1, max: 999 });
  const last = Object.keys(stances ?? {}).at(-1);
  for (const [stance, { when }] of all) {
    if (stance === last && when) sink.add('stance-last', ['stances', stance, 'when'], { stance }, { on: 'key' });
    if (stance !== last && !when) sink.add('stance-unreachable', ['stances', stance], { stance }, { on: 'key' });
  }
}

function checkPool(name: string, { min, max, start }: Written, sink: Sink): void {
  const [lowest, highest] = [min?.source ?? 0, max?.source];
  if (typeof lowest !== 'number' || typeof highest !== 'number') return;
  if (highest < lowest) sink.add('out-of-range', ['pools', name, 'max'], { value: highest, min: lowest, max: 1e6 });
  if (start !== undefined && (start < lowest || start > highest))
    sink.add('out-of-range', ['pools', name, 'start'], { value: start, min: lowest, max: highest });
}

function checkPay(name: string, { pay, phases = [] }: Written, sink: Sink): void {
  const known = phases.map((phase: Written | undefined, i: number) => phase?.name ?? String(i + 1));
  if (pay !== undefined && !known.includes(pay))
    sink.add('unknown-name', ['abilities', name, 'pay'], { value: pay, what: 'phase', known });
}

function checkEnds({ name: ability, index, end, interrupt, standing, upkeeps }: AbilityPlan, plan: Plan, sink: Sink) {
  const last = plan.phases.findLast((phase) => phase.ability === index);
  const phaseEnds = last && (last.lasts !== NEVER || last.until.length > 0 || last.charge);
  const drains = upkeeps.some((upkeep) => upkeep.perTick > 0);
  if (phaseEnds || drains || end.length > 0 || interrupt.length > 0) return;
  const asks = plan.momentAsks.filter((ask) => ask.ability === index && !ask.latch);
  if (standing.length > 0 && !asks.some((ask) => ask.turn < 2 || ask.button >= 0)) return;
  const why = last ? 'nothing ends its last phase' : 'it has no phases, is not held, and nothing ends it';
  sink.add('never-ends', ['abilities', ability], { ability, why }, { on: 'key' });
}

/** The parts of a map that could be read. */
function entries(map: Written | undefined): [string, Written][] {
  return Object.entries(map ?? {}).filter(([, value]) => value !== undefined);
}
