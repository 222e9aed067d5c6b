import type { Frame, Test } from '../record/frame.js';
import { L_ABILITY, L_PHASE, LANE, LOADOUT, STANCE } from '../record/slots.js';
import type { PhasePlan, ScopePlan } from './plan.js';

type Scopes = readonly { readonly scope: ScopePlan }[];

/** Scopes that have a tag: by stance, loadout, ability and phase. */
export interface Wearers {
  readonly stances: Uint8Array;
  readonly loadouts: Uint8Array;
  readonly abilities: Uint8Array;
  readonly phases: Uint8Array;
}

/** What may have tags. */
interface Tagging {
  readonly stances: Scopes;
  readonly loadouts: Scopes;
  readonly abilities: Scopes;
  readonly phases: Scopes;
}

interface Tagged extends Tagging {
  readonly names: { readonly tag: readonly string[]; readonly lane: readonly string[] };
  readonly lanesAt: number;
}

export function wearersOf(tag: string, plans: Tagging): Wearers {
  const wearing = (scopes: Scopes) => Uint8Array.from(scopes, ({ scope }) => (scope.tags.includes(tag) ? 1 : 0));
  return {
    stances: wearing(plans.stances),
    loadouts: wearing(plans.loadouts),
    abilities: wearing(plans.abilities),
    phases: wearing(plans.phases),
  };
}

/** Whether anything active has the tag. It is looked up, not noted: so it is true in the very tick in which that begins. */
export function taggedTest(lanes: number, count: number, wearers: () => Wearers): Test {
  let found: Wearers | undefined;
  const end = lanes + count * LANE;
  return ({ r }: Frame) => {
    found ??= wearers();
    if (found.stances[r[STANCE]] === 1 || found.loadouts[r[LOADOUT]] === 1) return true;
    for (let lane = lanes; lane < end; lane += LANE)
      if (found.abilities[r[lane + L_ABILITY]] === 1 || found.phases[r[lane + L_PHASE]] === 1) return true;
    return false;
  };
}

/** The same by name, made once for each; null for what nothing has. */
export function taggedBy(plan: Tagged): (tag: string) => Test | null {
  const tests = new Map<string, Test | null>();
  return (tag: string): Test | null => {
    let test = tests.get(tag);
    if (test === undefined) {
      const { names, lanesAt } = plan;
      test = names.tag.includes(tag) ? taggedTest(lanesAt, names.lane.length, () => wearersOf(tag, plan)) : null;
      tests.set(tag, test);
    }
    return test;
  };
}

/** Whether a phase, if one runs, is one of that name: several phases of an ability may have the same. */
export function isPhase(phase: PhasePlan | undefined, ability: number, name: string): boolean {
  return phase !== undefined && phase.ability === ability && phase.name === name;
}

/** Lists of surfaces by their bits, each made once. */
export function surfacesBy(names: readonly string[]): (bits: number) => readonly string[] | null {
  const known = new Map<number, readonly string[]>();
  return (bits) => {
    if (bits === 0) return null;
    let list = known.get(bits);
    if (!list) {
      list = names.filter((_, i) => bits & (1 << i));
      known.set(bits, list);
    }
    return list;
  };
}
