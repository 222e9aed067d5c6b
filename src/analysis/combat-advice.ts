import type { Checked } from '../compile/checked.js';
import { warn } from './tools.js';

/** Events that stun, and so should begin their ability again. */
const STUNS = ['struck', 'guardBroken'];

/** A stun that a second blow does not begin again, since an ability does not break itself unless it is listed. */
export function adviseStuns({ plan, sink }: Checked): void {
  for (const a of plan.abilities) {
    const event = a.triggers.map((trigger) => plan.names.event[trigger.event]).find((name) => STUNS.includes(name));
    if (event && a.breaks !== null && a.breaks[a.index] !== 1)
      warn(sink, 'stun-once', ['abilities', a.name, 'breaks'], { ability: a.name, event });
  }
}

/** A guard of somebody who cannot be struck. */
export function adviseGuards({ plan, parsed, sink }: Checked): void {
  if (plan.hurt !== null || plan.guards.length === 0) return;
  for (const a of plan.abilities) {
    const written = parsed.abilities?.[a.name] ?? {};
    const phase = (written.phases ?? []).findIndex((one: { guard?: unknown } | undefined) => one?.guard !== undefined);
    if (written.guard !== undefined) warn(sink, 'guard-idle', ['abilities', a.name, 'guard'], { ability: a.name });
    else if (phase >= 0) warn(sink, 'guard-idle', ['abilities', a.name, 'phases', phase, 'guard'], { ability: a.name });
  }
}
