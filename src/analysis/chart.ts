import { describe, type StartDescription } from '../compile/describe.js';
import { cooldownOf, upkeepOf } from '../compile/needs.js';
import type { AbilityPlan, PhasePlan, Plan, ScopePlan } from '../compile/plan.js';
import type { ParsedFormula } from '../moveset/formula.js';
import type { ParsedAbility, ParsedScope } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import { NEVER } from '../record/slots.js';
import { want, wantPlan } from '../report/arguments.js';
import { nearestName } from '../report/nearest.js';
import { shortNumber } from '../report/reasons.js';
import { indexOfName } from '../report/usage-error.js';
import { partsOf } from './timing.js';
import { phasesOf, secondsText, withinText } from './tools.js';

/** What a phase is for, as its name, its charge or what it does says. */
export type ChartKind = 'windup' | 'active' | 'recovery' | 'charge' | 'other';

/** A part of an ability. */
export interface ChartPhase {
  readonly name: string;
  /** How long it lasts; null where something else ends it. A formula is read as it is at the start of a character. */
  readonly ticks: number | null;
  readonly kind: ChartKind;
  readonly strikes: boolean;
  readonly guards: boolean;
  /** Whether it lets something into its lane. */
  readonly open: boolean;
}

/** Something about an ability that is not drawn to scale, in few words. */
export interface ChartMark {
  readonly kind: 'cost' | 'upkeep' | 'cooldown' | 'charges' | 'locked' | 'loadout' | 'breaks' | 'bars' | 'open';
  readonly text: string;
}

/** An ability with what a chart says of it. */
export interface ChartAbility {
  readonly name: string;
  readonly lane: string;
  /** How it is started: `gaff up`, `hold pump`; none for one that only code starts. */
  readonly starts: readonly string[];
  /** Stances or tags that it starts from, as they are written; empty for any. */
  readonly from: readonly string[];
  /** The stances that these are. */
  readonly stances: readonly string[];
  /** All phases together, or null. */
  readonly ticks: number | null;
  /** Its phases; none for one that lasts until something ends it. */
  readonly phases: readonly ChartPhase[];
  /** It strikes, or guards, all the time. */
  readonly strikes: boolean;
  readonly guards: boolean;
  readonly tags: readonly string[];
  readonly marks: readonly ChartMark[];
  /** Beside another version: whether only one of them has it, or it is otherwise; null where it is the same. */
  readonly change: 'new' | 'gone' | 'changed' | null;
}

/** What may follow what in a lane, because the moveset names it. */
export interface ChartArrow {
  readonly from: string;
  readonly to: string;
  /** Index of the phase in which `from` is open to it, or -1 for all the time. */
  readonly phase: number;
  /** `to` says that it follows `from`: that long after its end at most, if that is said. */
  readonly follows: boolean;
  readonly within: string | null;
  /** `to` breaks `from`, so that it needs no window. */
  readonly breaks: boolean;
  /** It is meant by a tag or by `all`, or is one of many: a chart of everything gathers these in a mark. */
  readonly gathered: boolean;
  /** Beside another version: whether only one of them has it. */
  readonly change: 'new' | 'gone' | null;
}

/** A moveset as a picture of it needs it. Plain data. */
export interface Chart {
  readonly moveset: string;
  readonly rate: number;
  readonly lanes: readonly string[];
  readonly stances: readonly string[];
  readonly abilities: readonly ChartAbility[];
  readonly arrows: readonly ChartArrow[];
  /** What a word that stands for several means: the tags of `from`, `open`, `breaks` and `bars`, with who has them. */
  readonly groups: readonly { readonly name: string; readonly members: readonly string[] }[];
}

/** What a function says. */
const VARYING = 'varying';
/** More names than these in one list are gathered in a mark. */
const MANY = 4;

/**
 * A moveset as data for a picture: abilities by lane, to scale of time, and what may follow what.
 * @param plan What `compileMoveset` or a file gives.
 */
export function chartOf(plan: Plan): Chart {
  wantPlan('chartOf', plan);
  const { abilities } = describe(plan);
  const arrows = plan.abilities.flatMap((a) => arrowsOf(plan, a));
  return {
    moveset: plan.name,
    rate: plan.rate,
    lanes: plan.names.lane,
    stances: plan.names.stance,
    abilities: plan.abilities.map((a) => {
      const { starts, from, cost, upkeep, cooldown, charges, tags } = abilities[a.name];
      const parsed: ParsedAbility = plan.parsed?.abilities?.[a.name] ?? {};
      const marks: ChartMark[] = [];
      const add = (kind: ChartMark['kind'], text: string) => marks.push({ kind, text });
      for (const [pool, amount] of Object.entries(cost))
        add('cost', `${amountOf(amount, parsed.cost?.[pool])} ${pool}`);
      for (const [pool, amount] of Object.entries(upkeep))
        add('upkeep', `${amountOf(amount, upkeepOf(parsed.upkeep?.[pool]).rate)} ${pool} a second`);
      if (cooldown) {
        const lasts = cooldown.lasts === null ? amountOf(null, cooldownOf(parsed).for) : secondsText(cooldown.lasts);
        add('cooldown', cooldown.from === 'end' ? lasts : `${lasts} from ${cooldown.from}`);
      }
      if (charges) add('charges', amountOf(charges.max, parsed.charges?.max));
      if (a.locked) add('locked', 'to be learnt');
      const where = abilities[a.name].loadouts;
      if (where && where.length < plan.names.loadout.length) add('loadout', where.join(', '));
      if (a.breaks) add('breaks', wordsOf(parsed.breaks, a.breaks, plan).join(', '));
      const scopes = scopesWritten(plan, a);
      const bars = scopes.flatMap(([, scope, own]) => (scope.bars ? wordsOf(own.bars, scope.bars, plan) : []));
      if (bars.length > 0) add('bars', [...new Set(bars)].join(', '));
      const open = scopes.flatMap(([, scope, own]) => {
        const words = scope.open ? wordsOf(own.open, scope.open, plan) : [];
        return words.length > MANY ? words : words.filter((word) => !isNamed(plan, word));
      });
      if (open.length > 0) add('open', [...new Set(open)].join(', '));
      const phases = phasesFor(plan, a);
      const total = phases.reduce((sum, { ticks }) => sum + (ticks ?? NEVER), 0);
      return {
        name: a.name,
        lane: plan.names.lane[a.lane],
        starts: starts.map(startText),
        from: a.from ? wordsOf(parsed.from, a.from, plan, plan.names.stance) : [],
        stances: from ?? plan.names.stance,
        ticks: phases.length > 0 && total < NEVER ? total : null,
        phases,
        strikes: isStriking(a.scope),
        guards: 'guard' in parsed,
        tags,
        marks,
        change: null,
      };
    }),
    arrows,
    groups: groupsOf(plan),
  };
}

/**
 * The part of a chart about one ability: what leads to it and what it leads to, also by tags.
 * @param chart Of the whole moveset.
 * @param ability Its name.
 * @returns A chart of these, without arrows between the others.
 * @throws {UsageError} for an ability that the moveset does not have.
 */
export function chartAround(chart: Chart, ability: string): Chart {
  const { abilities: all, arrows: ways, lanes } = (chart ?? {}) as Partial<Chart>;
  const isChart = [all, ways, lanes].every(Array.isArray) && (all ?? []).every((one) => typeof one?.name === 'string');
  want(isChart, 'chartAround', 'the first argument', 'what chartOf gives', chart);
  indexOfName(
    'chartAround',
    'ability',
    ability,
    chart.abilities.map(({ name }) => name),
    { nearest: nearestName },
  );
  const arrows = chart.arrows
    .filter(({ from, to }) => from === ability || to === ability)
    .map((arrow) => ({ ...arrow, gathered: false }));
  const near = new Set([ability, ...arrows.flatMap(({ from, to }) => [from, to])]);
  const abilities = chart.abilities.filter(({ name }) => near.has(name));
  return {
    ...chart,
    abilities,
    arrows,
    lanes: chart.lanes.filter((lane) => abilities.some((one) => one.lane === lane)),
  };
}

/** A number, or the text of its formula. */
function amountOf(value: number | null | undefined, formula: ParsedFormula | number | undefined): string {
  if (typeof value === 'number') return shortNumber(value);
  const source = typeof formula === 'object' ? formula.source : undefined;
  return typeof source === 'string' || typeof source === 'number' ? String(source) : VARYING;
}

function isNamed({ names }: Plan, word: string): boolean {
  return names.ability.includes(word);
}

/** A list as it is written; of what has no text any more, the names that it means. */
function wordsOf(
  list: ParsedAbility['open'],
  mask: Uint8Array,
  plan: Plan,
  names: readonly string[] = plan.names.ability,
): string[] {
  const words = sound(list);
  return words.length > 0 ? words : names.filter((_, i) => mask[i] === 1);
}

function isStriking({ strikes }: ScopePlan): boolean {
  return strikes.some(({ plan }) => plan.tells === null);
}

function phasesFor(plan: Plan, a: AbilityPlan): ChartPhase[] {
  const parsed = plan.parsed?.abilities?.[a.name]?.phases ?? [];
  return partsOf(plan, a).map(({ phase, ticks }, k) => ({
    name: phase.name,
    ticks: ticks < NEVER ? ticks : null,
    kind: kindOf(phase),
    strikes: isStriking(phase.scope),
    guards: parsed[k]?.guard !== undefined,
    open: phase.scope.open !== null || a.scope.open !== null,
  }));
}

function kindOf({ name, charge, scope }: PhasePlan): ChartKind {
  if (charge) return 'charge';
  if (name === 'windup' || name === 'active' || name === 'recovery') return name;
  return isStriking(scope) ? 'active' : 'other';
}

/** Its scope (-1) and those of its phases, by their places, with what is written of them. */
function scopesWritten(plan: Plan, a: AbilityPlan): [phase: number, scope: ScopePlan, written: ParsedScope][] {
  const written: ParsedAbility = plan.parsed?.abilities?.[a.name] ?? {};
  return [
    [-1, a.scope, written],
    ...phasesOf(plan, a).map(({ scope }, k): [number, ScopePlan, ParsedScope] => [k, scope, written.phases?.[k] ?? {}]),
  ];
}

/** What it is open to in its lane: what the moveset names, and what it means by tags. */
function arrowsOf(plan: Plan, a: AbilityPlan): ChartArrow[] {
  const arrows: ChartArrow[] = [];
  const scopes = scopesWritten(plan, a);
  for (const b of plan.abilities) {
    const follows = b.follows?.find(({ ability }) => ability === a.index);
    const isLate = follows !== undefined && (follows.within > 0 || follows.time !== null);
    const within = isLate ? (withinText(plan, b, follows) ?? VARYING) : null;
    const to = {
      from: a.name,
      to: b.name,
      follows: follows !== undefined,
      within,
      breaks: b.breaks?.[a.index] === 1,
      change: null,
    };
    let isOpen = false;
    for (const [phase, { open }, written] of scopes) {
      if (b.lane !== a.lane || open?.[b.index] !== 1) continue;
      const words = wordsOf(written.open, open, plan);
      arrows.push({ ...to, phase, gathered: !words.includes(b.name) || words.length > MANY });
      isOpen = true;
    }
    if (follows && !isOpen) arrows.push({ ...to, phase: -1, gathered: false });
  }
  return arrows;
}

/** Keys that list abilities or stances by their names or tags. */
const LISTS = ['from', 'open', 'breaks', 'bars'] as const;

function groupsOf(plan: Plan): { name: string; members: string[] }[] {
  const { names } = plan;
  const { abilities = {} } = plan.parsed ?? {};
  const words = new Set<string>();
  for (const ability of Object.values(abilities)) {
    const scopes: (Pick<ParsedAbility, (typeof LISTS)[number]> | undefined)[] = [ability, ...(ability?.phases ?? [])];
    for (const scope of scopes)
      for (const key of LISTS)
        for (const word of scope?.[key] ?? []) words.add(String(word).replace(/^not\((.*)\)$/, '$1'));
  }
  return names.tag
    .filter((tag) => words.has(tag))
    .map((name) => ({
      name,
      members: [...plan.stances, ...plan.abilities]
        .filter(({ scope }) => scope.tags.includes(name))
        .map((one) => one.name),
    }));
}

function startText({ kind, input, with: held, toward, sequence, held: time, event, after }: StartDescription): string {
  const what = sequence?.join(' ') ?? input ?? event ?? (after === null ? '' : after);
  const verb = kind === 'press' || kind === 'sequence' ? '' : kind === 'double' ? 'twice ' : `${kind} `;
  return [`${verb}${what}`.trim(), toward, held && `with ${held}`, time && secondsText(time)].filter(Boolean).join(' ');
}
