import type { Checked } from '../compile/checked.js';
import type { AbilityPlan, Plan } from '../compile/plan.js';
import type { ParsedAbility } from '../moveset/schema.js';
import { NEVER } from '../record/slots.js';
import type { Path } from '../report/diagnostic.js';
import { phasesOf, warn } from './tools.js';

/** Entries of `open` that let nothing in: none of those whom they mean can come in there, whatever else holds. */
export function adviseOpen({ plan, parsed, sink }: Checked): void {
  for (const a of plan.abilities) {
    const written: ParsedAbility = parsed.abilities?.[a.name] ?? {};
    const look = (open: ParsedAbility['open'], path: Path) => {
      const entries = open ?? [];
      for (const [i, entry] of entries.entries()) {
        const meant = plan.abilities.filter(({ name, scope }) => name === entry || scope.tags.includes(entry ?? ''));
        const reasons = meant.map((b) => whyUnused(plan, a, b));
        // A tag that nobody wears is told elsewhere.
        if (entry === undefined || meant.length === 0 || reasons.includes(undefined)) continue;
        const at = entries.length > 1 ? [...path, 'open', i] : [...path, 'open'];
        warn(sink, 'open-unused', at, { ability: a.name, entry, why: reasons[0] }, 'value');
      }
    };
    look(written.open, ['abilities', a.name]);
    (written.phases ?? []).forEach((phase, i) => {
      look(phase?.open, ['abilities', a.name, 'phases', i]);
    });
  }
}

/** Why `b` never comes in through an `open` of `a`; undefined if it may. */
function whyUnused(plan: Plan, a: AbilityPlan, b: AbilityPlan): string | undefined {
  if (b.lane !== a.lane)
    return `"${b.name}" runs in the lane "${plan.names.lane[b.lane]}", beside "${a.name}" in "${plan.names.lane[a.lane]}", so it needs no leave`;
  const { follows } = b;
  if (!follows || follows.some(({ ability, within, time }) => ability === a.index || within > 0 || time !== null))
    return undefined;
  return `"${b.name}" only follows ${follows.map(({ ability }) => `"${plan.names.ability[ability]}"`).join(', ')}`;
}

/** Phases behind one that nothing of its own ends: a window in them is one that no press can hit. */
export function advisePhases({ plan, sink }: Checked): void {
  for (const a of plan.abilities) {
    const phases = phasesOf(plan, a);
    const endless = phases.findIndex(
      ({ lasts, time, until, charge }) => lasts >= NEVER && time === null && until.length === 0 && charge === null,
    );
    if (endless < 0 || endless === phases.length - 1) continue;
    const [before, phase] = [phases[endless].name, phases[endless + 1].name];
    warn(sink, 'phase-unreached', ['abilities', a.name, 'phases', endless + 1], { ability: a.name, before, phase });
  }
}
