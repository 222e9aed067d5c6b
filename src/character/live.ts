import { noteOrigin, type OriginData, readOrigin } from '../compile/origin.js';
import type { Living, Plan } from '../compile/plan.js';
import { LAYOUT_ID } from '../record/slots.js';
import { UsageError } from '../report/usage-error.js';
import { rostersOf } from '../tick/roster.js';
import { Character } from './character.js';
import type { Crowd } from './crowd.js';
import { type Swappable, swapMoveset } from './swap.js';

/*
 * While a game is developed, who is made from a moveset is known, so that a changed one can take its place in all of them.
 */

/** How many may have been made since it was last looked who is still there. */
const FEW = 64;

/** Somebody who is made from a moveset. */
type Made = Character | Swappable | Crowd;

/** Everybody who was made from a moveset, as long as somebody else holds them. */
class Live implements Living {
  private refs: WeakRef<Made>[] = [];
  private next = FEW;

  add(one: object): void {
    this.refs.push(new WeakRef(one as Made));
    if (this.refs.length < this.next) return;
    this.refs = this.refs.filter((ref) => ref.deref() !== undefined);
    this.next = Math.max(FEW, 2 * this.refs.length);
  }

  /** Characters by themselves, crowds, and arenas. */
  all(): Set<Made> {
    const found = new Set<Made>();
    for (const ref of this.refs) {
      const one = ref.deref();
      if (one instanceof Character && one.others !== null) found.add(one.others as unknown as Swappable);
      else if (one) found.add(one);
    }
    return found;
  }
}

/** Knows who is made from a moveset from now on. For modules of the development server. */
export function keepLive(plan: Plan, origin?: OriginData): Plan {
  plan.live ??= new Live();
  if (origin) noteOrigin(plan, readOrigin(origin));
  return plan;
}

/**
 * Puts a changed moveset in the place of another one in everybody who was made from it; gives the one that holds from now on. Who
 * cannot take it keeps the old one, and that is told on the console.
 */
export function swapLive(plan: Plan, next: Plan, origin?: OriginData): Plan {
  const live = plan.live as Live | undefined;
  next.live = live;
  keepLive(next, origin);
  const told = new Set<string>();
  for (const one of live?.all() ?? []) {
    try {
      if ('views' in one) swapCrowd(one, plan, next);
      else if (!(one instanceof Character)) swapMoveset(one, next, { of: plan });
      else if (one.plan === plan) swapMoveset(one, next);
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      told.add(error.message);
    }
  }
  for (const message of told) console.warn(`${message} Load the page again to play it.`);
  if (typeof document !== 'undefined')
    for (const overlay of document.querySelectorAll<HTMLElement & { close?(): void }>('vite-error-overlay'))
      overlay.close?.();
  return next;
}

/** The same of all characters in an array who have begun: their numbers stay where they are, so there must be as many. */
function swapCrowd(crowd: Crowd, plan: Plan, next: Plan): void {
  const { world, views, own } = crowd;
  if (crowd.plan !== plan) return;
  if (next.arraySize() !== plan.arraySize())
    throw new UsageError(
      `swapMoveset: ${next.name} needs ${next.arraySize()} numbers for each of a crowd, and its array has ${plan.arraySize()}.`,
      'out-of-range',
    );
  for (let i = 0; i < views.length; i++)
    if (views[i][LAYOUT_ID] === plan.fingerprint)
      swapMoveset(own[i] ?? new Character(plan, { world, into: views[i] }, true), next);
  crowd.plan = next;
  crowd.rosters = rostersOf(next);
  crowd.lent = new Character(next, { world });
}
