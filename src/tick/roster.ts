import { isBreaker } from '../compile/breakers.js';
import type { AbilityPlan, Plan, TriggerPlan } from '../compile/plan.js';
import { A_KNOWN, BUTTON, LOADOUT } from '../record/slots.js';
import { bitsOf, wakeAll } from './awake.js';

/**
 * What a character can do with what it has learnt and with its loadout. What it cannot do is not looked at at all.
 * It is derived from the record and shared by all characters of a kind that can do the same.
 */
export interface Roster {
  /** Its number, which stands behind the record: see {@link Rosters}. */
  readonly id: number;
  /** Whose it is: a swap changes that. */
  readonly plan: Plan;
  /** What it follows from: the loadout, and by ability whether it is known. */
  readonly loadout: number;
  readonly known: Uint8Array;
  /** By ability: whether it is known, and in the loadout. */
  readonly here: Uint8Array;
  /** The bits of its triggers, AWAKE_BITS in a number. */
  readonly bits: readonly number[];
  /** In the order in which requests are judged. */
  readonly triggers: readonly TriggerPlan[];
  /** Those of them that request as long as something holds. */
  readonly sustained: readonly TriggerPlan[];
  /** By button: what its press may trigger, and its release. */
  readonly press: readonly (readonly TriggerPlan[])[];
  readonly release: readonly (readonly TriggerPlan[])[];
  /** By button: what waits for its moments. */
  readonly waits: readonly (readonly TriggerPlan[])[];
  /** By button: what no longer waits once it is pressed, and once it is released. */
  readonly pressed: readonly (readonly TriggerPlan[])[];
  readonly released: readonly (readonly TriggerPlan[])[];
  /** What the press of any button may trigger. */
  readonly edges: readonly TriggerPlan[];
  /** What looks in each tick whether its moment has come. */
  readonly ticking: readonly TriggerPlan[];
  /** By ability: what its end may trigger. */
  readonly endings: readonly (readonly TriggerPlan[])[];
  /** By event. */
  readonly events: readonly (readonly TriggerPlan[])[];
  /** What messages start that breaks others. */
  readonly breakers: readonly TriggerPlan[];
  readonly graced: readonly AbilityPlan[];
  /** Of all that is learnt, whatever the loadout: what refills, what waits for events or is shortened by them, what may be latched. */
  readonly charged: readonly AbilityPlan[];
  readonly waiting: readonly AbilityPlan[];
  readonly shortened: readonly AbilityPlan[];
  readonly toggles: readonly TriggerPlan[];
}

/** How many rosters of a plan are kept by what they follow from. */
const KEPT = 64;

/** The rosters of a plan. */
export class Rosters {
  /** Numbers begin anywhere, so that those of an array from another run are not taken for these. */
  private readonly first = Math.floor(Math.random() * 2 ** 40);
  private readonly list: Roster[] = [];
  private readonly known = new Map<string, Roster>();

  constructor(private readonly plan: Plan) {}

  /** That of a record. */
  of(r: Float64Array): Roster {
    const { plan, known } = this;
    const key = `${r[LOADOUT]}:${plan.abilities.map((a) => r[a.at + A_KNOWN]).join('')}`;
    let roster = known.get(key);
    if (!roster) {
      roster = makeRoster(plan, r, this.list.length < MOST ? this.first + this.list.length : -1);
      if (roster.id >= 0) this.list.push(roster);
      if (known.size >= KEPT) known.clear();
      known.set(key, roster);
    }
    return roster;
  }

  /** The same by the number behind the record, if that is known. */
  kept(r: Float64Array): Roster {
    const { rosterAt } = this.plan;
    const at = r[rosterAt] - this.first;
    if (at >= 0 && at < this.list.length) return this.list[at];
    // Numbers of another run: what stands behind the record may be of another kind.
    wakeAll(r, this.plan);
    r[this.plan.freeAt] = 0;
    const roster = this.of(r);
    r[rosterAt] = roster.id;
    return roster;
  }
}

/** How many of them are found by their numbers. */
const MOST = 1024;

const ROSTERS = new WeakMap<Plan, Rosters>();

export function rostersOf(plan: Plan): Rosters {
  let rosters = ROSTERS.get(plan);
  if (!rosters) {
    rosters = new Rosters(plan);
    ROSTERS.set(plan, rosters);
  }
  return rosters;
}

/** Whether what it requests at a moment is kept for its buffer. */
export function isKept({ on, latch }: TriggerPlan): boolean {
  return on !== null && !latch;
}

export function isAvailable(r: Float64Array, a: AbilityPlan): boolean {
  return r[a.at + A_KNOWN] === 1 && (a.loadouts === null || a.loadouts[r[LOADOUT]] === 1);
}

/** Whether a roster is that of a record. */
export function isRosterOf({ plan: own, loadout, known }: Roster, plan: Plan, r: Float64Array): boolean {
  if (own !== plan) return false;
  const { abilities } = plan;
  if (loadout !== r[LOADOUT]) return false;
  for (let i = 0; i < abilities.length; i++) if (known[i] !== r[abilities[i].at + A_KNOWN]) return false;
  return true;
}

function makeRoster(plan: Plan, r: Float64Array, id: number): Roster {
  const here = Uint8Array.from(plan.abilities, (a) => (isAvailable(r, a) ? 1 : 0));
  const learnt = plan.abilities.filter((a) => r[a.at + A_KNOWN] === 1);
  const triggers = plan.triggers.filter((trigger) => here[trigger.ability] === 1);
  const { button, event } = plan.names;
  const by = (count: number, pick: (trigger: TriggerPlan) => number): TriggerPlan[][] => {
    const lists = Array.from({ length: count }, (): TriggerPlan[] => []);
    for (const trigger of triggers) lists[pick(trigger)]?.push(trigger);
    return lists;
  };
  const buttonOf = ({ button: at }: TriggerPlan) => (at - plan.layout.buttons) / BUTTON;
  /** Of each button that may trigger something (`moment`): what waits for the same lanes, where only the last press does; its `own` as well or not. */
  const replaced = (moment: (trigger: TriggerPlan) => boolean, own: boolean) =>
    button.map((_, i) => {
      const lanes = triggers.filter((trigger) => buttonOf(trigger) === i && moment(trigger)).map(laneOf);
      return triggers.filter(
        (trigger) =>
          trigger.button >= 0 &&
          (own || buttonOf(trigger) !== i) &&
          plan.waitsLast[laneOf(trigger)] === 1 &&
          lanes.includes(laneOf(trigger)),
      );
    });
  const laneOf = ({ ability }: TriggerPlan) => plan.abilities[ability].lane;
  return {
    id,
    plan,
    loadout: r[LOADOUT],
    known: Uint8Array.from(plan.abilities, (a) => r[a.at + A_KNOWN]),
    here,
    bits: bitsOf(plan, triggers),
    triggers,
    sustained: triggers.filter((trigger) => trigger.sustained !== null),
    press: by(button.length, (trigger) => (trigger.on === 'press' ? buttonOf(trigger) : -1)),
    release: by(button.length, (trigger) => (trigger.on === 'release' ? buttonOf(trigger) : -1)),
    waits: by(button.length, (trigger) => (isKept(trigger) ? buttonOf(trigger) : -1)),
    pressed: replaced(({ on }) => on !== 'release', true),
    // The release of a button does not replace its own press.
    released: replaced(({ on }) => on === 'release', false),
    edges: triggers.filter((trigger) => trigger.on === 'edge'),
    ticking: triggers.filter((trigger) => trigger.on === 'tick'),
    endings: by(plan.abilities.length, (trigger) => trigger.after),
    events: by(event.length, (trigger) => trigger.event),
    breakers: triggers.filter((trigger) => isBreaker(plan, trigger)),
    graced: plan.abilities.filter((a, i) => here[i] === 1 && a.eligibleAt >= 0),
    charged: learnt.filter((a) => a.chargesAt >= 0),
    waiting: learnt.filter((a) => a.waitsAt >= 0),
    shortened: learnt.filter((a) => a.cooldownLess.length > 0),
    toggles: plan.triggers.filter((trigger) => trigger.latch && r[plan.abilities[trigger.ability].at + A_KNOWN] === 1),
  };
}
