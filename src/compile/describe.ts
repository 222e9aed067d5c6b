import type { Data } from '../moveset/data.js';
import type { ParsedMoveset } from '../moveset/schema.js';
import type { Direction } from '../moveset/starts/direction.js';
import type { StartKey } from '../moveset/starts/index.js';
import type { NameTypes } from '../moveset/types.js';
import type { Operand } from '../record/frame.js';
import { NEVER } from '../record/slots.js';
import { wantPlan } from '../report/arguments.js';
import type { Says } from '../report/says.js';
import type { AbilityPlan, PhasePlan, Plan, ScopePlan, TriggerPlan } from './plan.js';

/** What the moveset says for the host's own use; empty where it says nothing. */
type HostData = Readonly<Record<string, Data>>;

/** A way to start, as the moveset says it. What does not go with its kind is null. Times are in seconds. */
export interface StartDescription<N extends NameTypes = NameTypes> {
  readonly kind: StartKey;
  /** The input that it waits for; of a sequence, the last one. */
  readonly input: N['input'] | null;
  /** The input that must be held besides. */
  readonly with: N['input'] | null;
  readonly toward: Direction | null;
  /** Directions and inputs, in their order. */
  readonly sequence: readonly string[] | null;
  /** How long it must have been held at least. */
  readonly held: number | null;
  /** How soon it must come. */
  readonly within: number | null;
  readonly event: N['event'] | null;
  readonly after: N['ability'] | null;
}

/** A part of an ability. */
export interface PhaseDescription<N extends NameTypes = NameTypes> {
  /** Its name, or its place from 1 on. */
  readonly name: string;
  /** Seconds; null for one that lasts until something ends it, or as long as a formula says. */
  readonly lasts: number | null;
  /** Seconds from charge 0 to 1; null without a charge. */
  readonly charge: number | null;
  readonly tags: readonly N['tag'][];
  /** Abilities that may follow during it. */
  readonly open: readonly N['ability'][];
  readonly clip: string | null;
}

/** An ability as the moveset declares it. Times are in seconds. */
export interface AbilityDescription<N extends NameTypes = NameTypes> {
  readonly name: N['ability'];
  readonly lane: N['lane'];
  /** None for one that only code starts. */
  readonly starts: readonly StartDescription<N>[];
  /** Stances that it may start in; null for any. */
  readonly from: readonly N['stance'][] | null;
  /** How long after the end of each of these it may still start (0: only while that runs); null for any time, and where a formula says it. */
  readonly follows: Readonly<Partial<Record<N['ability'], number | null>>> | null;
  /** Price by pool; null for a formula: `explain` and `may` know what it comes to now. */
  readonly cost: Readonly<Partial<Record<N['pool'], number | null>>>;
  /** Drained per second while it runs, by pool; null for a formula. */
  readonly upkeep: Readonly<Partial<Record<N['pool'], number | null>>>;
  /** `lasts` is null for a formula; `from` is what it counts from: `start`, `end`, or the event; `shared` are other abilities of its group. */
  readonly cooldown: {
    readonly lasts: number | null;
    readonly from: 'start' | 'end' | N['event'];
    readonly shared: readonly N['ability'][];
  } | null;
  /** `max` is null for a formula, `every` where no fixed time brings them back. */
  readonly charges: { readonly max: number | null; readonly every: number | null } | null;
  readonly phases: readonly PhaseDescription<N>[];
  /** All phases together; null where something else ends it, or a formula says it. */
  readonly lasts: number | null;
  readonly breaks: readonly N['ability'][];
  readonly bars: readonly N['ability'][];
  /** Abilities that may follow at any time of it. */
  readonly open: readonly N['ability'][];
  /** Its own and those of its phases. */
  readonly tags: readonly N['tag'][];
  /** Loadouts that it is part of; null where it is always there. */
  readonly loadouts: readonly N['loadout'][] | null;
  /** It has to be learnt. */
  readonly locked: boolean;
  readonly clip: string | null;
  /** What the moveset says under its `data`. */
  readonly data: Data;
}

/** A moveset as it is declared, for interfaces, tools and tests. */
export interface Description<N extends NameTypes = NameTypes> {
  readonly name: string;
  /** Ticks per second. */
  readonly rate: number;
  readonly view: 'side' | 'open';
  readonly abilities: Readonly<Record<N['ability'], AbilityDescription<N>>>;
  /** A limit or a rate per second that is a formula is null: `readout.poolLimits` knows what it is now. */
  readonly pools: Readonly<
    Record<
      N['pool'],
      { readonly min: number | null; readonly max: number | null; readonly regen: number | null; readonly data: Data }
    >
  >;
  readonly stances: Readonly<
    Record<N['stance'], { readonly tags: readonly N['tag'][]; readonly clip: string | null; readonly data: Data }>
  >;
  /** Whatever the moveset says under the `data` of these, by their names. */
  readonly inputs: HostData;
  readonly events: HostData;
  readonly loadouts: HostData;
  readonly clips: HostData;
  /** The player's words that the moveset has for its parts, for `wordReason` and `wordRefusal`. */
  readonly says: Says;
}

/** Rooms of a moveset whose parts may have data, and those of which a player reads. */
const ROOMS = ['abilities', 'pools', 'stances', 'inputs', 'events', 'loadouts', 'clips'] as const;
const SAID = ['abilities', 'pools', 'stances', 'loadouts', 'conditions'] as const satisfies readonly (keyof Says)[];

/** What a part may have for the host and the player. */
interface SaidPart {
  readonly data?: string;
  readonly says?: string;
}

/** @internal What the parts of a moveset have for the host and the player, as JSON: `read` gives the data of each as JSON, too. */
export function toldOf(parsed: ParsedMoveset): string {
  const collect = (rooms: readonly (keyof ParsedMoveset)[], textOf: (part: SaidPart) => string | undefined) => {
    const all = rooms.flatMap((room) => {
      const parts = Object.entries((parsed[room] ?? {}) as Record<string, SaidPart | undefined>);
      const own = parts.flatMap(([name, part]) => {
        const text = part && textOf(part);
        return text === undefined ? [] : `${JSON.stringify(name)}:${text}`;
      });
      return own.length === 0 ? [] : `${JSON.stringify(room)}:{${own}}`;
    });
    return `{${all}}`;
  };
  const data = collect(ROOMS, (part) => part.data);
  return `{"data":${data},"says":${collect(SAID, ({ says }) => says && JSON.stringify(says))}}`;
}

/**
 * What a moveset declares, as plain data: how each ability starts, what it costs, how long its phases last, and the
 * `data` that it has for the host. A new object in each call, which is the caller's; so call it once, not in each
 * tick.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @throws {UsageError} for what is no plan.
 */
export function describe<N extends NameTypes>(plan: Plan<N>): Description<N> {
  wantPlan('describe', plan);
  return new Describer(plan).describe() as Description<N>;
}

class Describer {
  private readonly data: Partial<Record<(typeof ROOMS)[number], HostData>>;
  private readonly says: Says;

  constructor(private readonly plan: Plan) {
    ({ data: this.data, says: this.says } = JSON.parse(plan.told));
  }

  describe(): Description {
    const { plan, data } = this;
    return {
      name: plan.name,
      rate: plan.rate,
      view: plan.view,
      abilities: byName(plan.abilities, (a) => this.ability(a)),
      pools: byName(plan.pools, ({ name, min, max, regen }) => ({
        min: this.number(min),
        max: this.number(max),
        regen: this.number(regen),
        data: this.dataOf('pools', name),
      })),
      stances: byName(plan.stances, ({ name, scope }) => ({
        tags: scope.tags,
        clip: this.clip(scope),
        data: this.dataOf('stances', name),
      })),
      inputs: data.inputs ?? {},
      events: data.events ?? {},
      loadouts: data.loadouts ?? {},
      clips: data.clips ?? {},
      says: this.says,
    };
  }

  private ability(a: AbilityPlan): AbilityDescription {
    const { plan } = this;
    const { names } = plan;
    const phases = plan.phases.filter(({ ability }) => ability === a.index);
    const starts = a.triggers.filter(({ kind }) => kind !== 'code');
    const shared = plan.abilities.filter((other) => other !== a && other.cooldownAt === a.cooldownAt);
    return {
      name: a.name,
      lane: names.lane[a.lane],
      starts: starts.map((trigger) => this.start(trigger)),
      from: this.listed(a.from, names.stance),
      follows:
        a.follows &&
        Object.fromEntries(
          a.follows.map(({ ability, within, time }) => [names.ability[ability], time ? null : this.seconds(within)]),
        ),
      cost: Object.fromEntries(a.costs.map(({ pool, amount }) => [names.pool[pool], this.number(amount)])),
      upkeep: Object.fromEntries(
        a.upkeeps.map(({ pool, perTick, rate }) => [names.pool[pool], rate ? null : perTick * plan.rate]),
      ),
      cooldown:
        a.cooldownAt < 0
          ? null
          : {
              lasts: a.cooldownTime === null ? this.seconds(a.cooldown) : null,
              from:
                a.cooldownFrom === 'start' || a.cooldownFrom === 'end' ? a.cooldownFrom : names.event[a.cooldownEvent],
              shared: shared.map(({ name }) => name),
            },
      charges: a.charges && {
        max: this.number(a.charges),
        every: a.refillEvery?.constant ? this.seconds(this.number(a.refillEvery) ?? 0) : null,
      },
      phases: phases.map((phase) => this.phase(phase)),
      lasts: this.lasting(a.lasts),
      breaks: this.listed(a.breaks, names.ability) ?? [],
      bars: this.listed(a.scope.bars, names.ability) ?? [],
      open: this.listed(a.scope.open, names.ability) ?? [],
      tags: [...new Set([a, ...phases].flatMap(({ scope }) => scope.tags))],
      loadouts: this.listed(a.loadouts, names.loadout),
      locked: a.locked,
      clip: this.clip(a.scope),
      data: this.dataOf('abilities', a.name),
    };
  }

  private phase({ name, lasts, time, charge, scope }: PhasePlan): PhaseDescription {
    return {
      name,
      lasts: time === null ? this.lasting(lasts) : null,
      charge: charge && (charge.time ? null : this.seconds(charge.over)),
      tags: scope.tags,
      open: this.listed(scope.open, this.plan.names.ability) ?? [],
      clip: this.clip(scope),
    };
  }

  private start({ kind, input, wants, event, after }: TriggerPlan): StartDescription {
    const { names } = this.plan;
    const time = (ticks: number | undefined) => (ticks === undefined ? null : this.seconds(ticks));
    return {
      kind: kind as StartKey,
      input,
      with: wants?.with ?? null,
      toward: wants?.toward ?? null,
      sequence: wants?.sequence ?? null,
      held: time(wants?.held),
      within: time(wants?.within),
      event: names.event[event] ?? null,
      after: names.ability[after] ?? null,
    };
  }

  /** The names that a mask has; null for no mask. */
  private listed(mask: Uint8Array | null, names: readonly string[]): string[] | null {
    return mask && names.filter((_, i) => mask[i] === 1);
  }

  private number({ at, constant }: Operand): number | null {
    if (!constant) return null;
    return this.plan.constants.find((one) => one.at === at)?.value ?? 0;
  }

  private seconds(ticks: number): number {
    return ticks / this.plan.rate;
  }

  private lasting(ticks: number): number | null {
    return ticks < NEVER ? this.seconds(ticks) : null;
  }

  private clip({ clips }: ScopePlan): string | null {
    return this.plan.clips[clips[0] ?? -1] ?? null;
  }

  private dataOf(room: (typeof ROOMS)[number], name: string): Data {
    const own = this.data[room];
    return own && Object.hasOwn(own, name) ? own[name] : {};
  }
}

function byName<T extends { readonly name: string }, D>(all: readonly T[], describe: (one: T) => D): Record<string, D> {
  return Object.fromEntries(all.map((one) => [one.name, describe(one)]));
}
