import type { Plan } from '../compile/plan.js';
import { type Diagnostic, type Path, Sink } from '../moveset/diagnostic.js';
import { nearestName } from '../moveset/nearest.js';
import { isPlain } from '../moveset/read.js';
import { NEVER } from '../moveset/slots.js';

/** Lengths of animation clips in seconds, by name, as an animation tool exports them. */
export type ClipTable = Readonly<Record<string, number>>;

/** Reads a table of clip lengths from JSON text; throws a plain sentence for what is no such table. */
export function parseClipTable(text: string): ClipTable {
  let table: unknown;
  try {
    table = JSON.parse(text);
  } catch {
    throw new Error('The table of clips is not JSON.');
  }
  if (!isPlain(table) || Object.values(table).some((length) => typeof length !== 'number' || !(length > 0)))
    throw new Error('The table of clips must map names to seconds above 0, like { "gaffJab": 0.38 }.');
  return table as ClipTable;
}

/** Clips that are not in the table, and those whose length disagrees with the ability or phase that shows them. */
export function checkClips(plan: Plan, table: ClipTable): Diagnostic[] {
  const sink = new Sink();
  const check = (clip: string | undefined, path: Path, what: string, ticks: number) => {
    if (clip === undefined) return;
    const length = Object.hasOwn(table, clip) ? table[clip] : undefined;
    if (length === undefined) {
      sink.add('clip-unknown', path, { clip, nearest: nearestName(clip, Object.keys(table)) });
      return;
    }
    const clipTicks = Math.round(length * plan.rate);
    if (ticks < NEVER && clipTicks !== ticks)
      sink.add('clip-length', path, { clip, clipTicks, what, ticks }, { severity: 'warning' });
  };
  for (const [name, stance] of Object.entries(plan.moveset.stances))
    check(stance.clip, ['stances', name, 'clip'], '', NEVER);
  for (const [name, loadout] of Object.entries(plan.moveset.loadouts ?? {}))
    check(loadout.clip, ['loadouts', name, 'clip'], '', NEVER);
  for (const ability of plan.abilities) {
    const { clip, phases = [] } = plan.moveset.abilities?.[ability.name] ?? {};
    check(clip, ['abilities', ability.name, 'clip'], `the ability ${ability.name}`, ability.lasts);
    phases.forEach((phase, i) => {
      const path = ['abilities', ability.name, 'phases', i, 'clip'];
      const { lasts, name } = plan.phases[ability.firstPhase + i];
      check(phase.clip, path, `its phase ${name}`, lasts);
    });
  }
  return sink.list;
}
