import type { Plan, ScopePlan } from '../compile/plan.js';
import { isPlain } from '../moveset/read.js';
import { NEVER } from '../record/slots.js';
import { wantObject, wantPlan } from '../report/arguments.js';
import { type Diagnostic, type Path, Sink } from '../report/diagnostic.js';
import { UsageError } from '../report/usage-error.js';

/** Lengths of animation clips in seconds, by name, as an animation tool exports them. */
export type ClipTable = Readonly<Record<string, number>>;

/**
 * Reads a table of clip lengths from JSON text; throws a UsageError for what is no such table.
 * @param text YAML or JSON.
 */
export function parseClipTable(text: string): ClipTable {
  let table: unknown;
  try {
    table = JSON.parse(text);
  } catch {
    throw new UsageError('The table of clips is not JSON.', 'wrong-type');
  }
  if (!isPlain(table) || Object.values(table).some((length) => typeof length !== 'number' || !(length > 0)))
    throw new UsageError(
      'The table of clips must map names to seconds above 0, like { "gaffJab": 0.38 }.',
      'wrong-type',
    );
  return table as ClipTable;
}

/**
 * Clips that are not in the table, and those whose length disagrees with the ability or phase that shows them.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @param table Lengths of clips, by their names.
 */
export function checkClips(plan: Plan, table: ClipTable): Diagnostic[] {
  wantPlan('checkClips', plan);
  wantObject('checkClips', 'the table', table);
  const sink = new Sink();
  const checkOne = (index: number, path: Path, what: string, ticks: number) => {
    const clip = plan.clips[index];
    const length = Object.hasOwn(table, clip) ? table[clip] : undefined;
    if (length === undefined) {
      sink.add('clip-unknown', path, { clip, known: Object.keys(table) });
      return;
    }
    const clipTicks = Math.round(length * plan.rate);
    if (ticks < NEVER && clipTicks !== ticks)
      sink.add('clip-length', path, { clip, clipTicks, what, ticks }, { severity: 'warning' });
  };
  const check = ({ clips }: ScopePlan, path: Path, what: string, ticks: number) => {
    clips.forEach((clip, i) => {
      if (clip >= 0) checkOne(clip, i === 0 ? path : [...path, plan.layers[i]], what, ticks);
    });
  };
  for (const { name, scope } of plan.stances) check(scope, ['stances', name, 'clip'], '', NEVER);
  for (const { name, scope } of plan.loadouts) check(scope, ['loadouts', name, 'clip'], '', NEVER);
  for (const { name, index, scope, lasts, firstPhase } of plan.abilities) {
    check(scope, ['abilities', name, 'clip'], `the ability ${name}`, lasts);
    plan.phases.forEach((phase, i) => {
      if (phase.ability !== index) return;
      const path = ['abilities', name, 'phases', i - firstPhase, 'clip'];
      check(phase.scope, path, `its phase ${phase.name}`, phase.lasts);
    });
  }
  return sink.list;
}
