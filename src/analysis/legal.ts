import type { AbilityPlan, PhasePlan, Plan, Predecessor, ScopePlan } from '../compile/plan.js';
import { wantPlan } from '../report/arguments.js';
import type { Path } from '../report/diagnostic.js';
import { phasesOf, secondsText, withinText } from './tools.js';

/** What decides whether an ability may start: the words of a moveset, or that it runs in a lane of its own. */
export type LegalWord = 'lane' | 'open' | 'breaks' | 'bars' | 'follows' | 'from' | 'when' | 'locked' | 'loadout';

/** One rule about whether an ability may start at some moment. */
export interface LegalRule {
  readonly word: LegalWord;
  /** `if`: it does where `text` holds. */
  readonly allows: 'yes' | 'if' | 'no';
  /** What it says, as a part of a sentence: `gaffJab opens to it`; where it allows on a condition, the condition alone. */
  readonly text: string;
  /** Where in the moveset it stands. */
  readonly path: Path;
  /** Where a rule forbids: what would have to change, as a part of a sentence. */
  readonly change?: string;
}

/** When something is asked to start: nothing runs and a stance holds, or an ability is in a phase. */
export interface LegalMoment {
  /** The stance, while nothing runs; else null. */
  readonly stance: string | null;
  /** What runs, or null. */
  readonly ability: string | null;
  /** Its phase; null where it has none. */
  readonly phase: string | null;
  /** The lane of what runs, or null. */
  readonly lane: string | null;
}

/** What a moment is called: a stance, or an ability in a phase. */
export function momentText({ stance, ability, phase }: LegalMoment): string {
  return stance ?? (phase === null ? `${ability}` : `${ability} ${phase}`);
}

/** Whether an ability may start at a moment, and every rule that has a say. */
export interface LegalCell {
  readonly into: string;
  /** `no`: whatever else is so. `if`: where all conditions of its rules hold. `yes`: no rule keeps it; prices and cooldowns are no rules. */
  readonly may: 'yes' | 'if' | 'no';
  /** The word that decides: of `no` the first that forbids, else `lane`, `open` or `breaks` while something runs, `from` while nothing does. */
  readonly by: LegalWord;
  readonly rules: readonly LegalRule[];
}

/** A moment, and for each ability whether it may start then. */
export interface LegalRow extends LegalMoment {
  readonly cells: readonly LegalCell[];
}

/** Who may follow whom in a moveset. Plain data. */
export interface Legal {
  readonly moveset: string;
  /** Its abilities, in their order: the columns. */
  readonly abilities: readonly string[];
  /** First the stances while nothing runs, then each ability with each of its phases. */
  readonly rows: readonly LegalRow[];
}

/**
 * The table of who may follow whom: what `from`, `follows`, `open`, `breaks` and `bars` say of every pair, with tags and stances. Costs, cooldowns,
 * charges and room are no part of it: what it allows may still be refused for these.
 * @param plan What `compileMoveset` or a file gives.
 */
export function legalOf(plan: Plan): Legal {
  wantPlan('legalOf', plan);
  const { abilities, names } = plan;
  const rest = names.stance.map((stance, i) => ({
    stance,
    ability: null,
    phase: null,
    lane: null,
    cells: abilities.map((b) => cellOf(b, [...absence(plan, b), ...follows(plan, b, null), ...standing(plan, b, i)])),
  }));
  const running = abilities.flatMap((a) => {
    const phases: (PhasePlan | null)[] = phasesOf(plan, a);
    if (phases.length === 0) phases.push(null);
    return phases.map((phase, k) => ({
      stance: null,
      ability: a.name,
      phase: phase?.name ?? null,
      lane: names.lane[a.lane],
      cells: abilities.map((b) => cellOf(b, rulesWhile(plan, a, phase, k, b))),
    }));
  });
  return { moveset: plan.name, abilities: names.ability, rows: [...rest, ...running] };
}

function cellOf({ name }: AbilityPlan, rules: LegalRule[]): LegalCell {
  const against = rules.find(({ allows }) => allows === 'no');
  const enters = rules.find(({ word }) => word === 'lane' || word === 'open' || word === 'breaks');
  return {
    into: name,
    may: against ? 'no' : rules.some(({ allows }) => allows === 'if') ? 'if' : 'yes',
    by: (against ?? enters)?.word ?? 'from',
    rules,
  };
}

/** Everything that has a say in whether `b` may start while `a` runs. */
function rulesWhile(plan: Plan, a: AbilityPlan, phase: PhasePlan | null, k: number, b: AbilityPlan): LegalRule[] {
  return [
    ...absence(plan, b),
    entry(plan, a, phase, k, b),
    ...barring(plan, a, phase, k, b),
    ...follows(plan, b, a),
    ...standing(plan, b, -1),
  ];
}

/** Its name in a list, a tag of it, or `all`, as the list has it. */
function entryOf(list: unknown, b: AbilityPlan): string {
  const entries = [list ?? []].flat().map(String);
  if (entries.includes(b.name)) return b.name;
  const tag = entries.find((entry) => b.scope.tags.includes(entry));
  return tag === undefined ? entries.join(', ') : `${tag}, a tag of ${b.name}`;
}

/** The scopes of what runs: its own and that of its phase, each with where it stands and what it is called. */
function scopes(plan: Plan, a: AbilityPlan, phase: PhasePlan | null, k: number) {
  const own: Path = ['abilities', a.name];
  const parsed = plan.parsed?.abilities?.[a.name];
  const all: { scope: ScopePlan; path: Path; what: string; parsed: Record<string, unknown> | undefined }[] = [
    { scope: a.scope, path: own, what: a.name, parsed },
  ];
  if (phase)
    all.push({
      scope: phase.scope,
      path: [...own, 'phases', k],
      what: `${a.name} in ${phase.name}`,
      parsed: parsed?.phases?.[k],
    });
  return all;
}

/** Whether it gets into its lane. */
function entry(plan: Plan, a: AbilityPlan, phase: PhasePlan | null, k: number, b: AbilityPlan): LegalRule {
  const lane = plan.names.lane[b.lane];
  const path: Path = ['abilities', b.name];
  if (b.breaks?.[a.index] === 1) {
    const listed = entryOf(plan.parsed?.abilities?.[b.name]?.breaks, a);
    return {
      word: 'breaks',
      allows: 'yes',
      text: `${b.name} breaks ${a.name} (breaks: ${listed})`,
      path: [...path, 'breaks'],
    };
  }
  if (a.lane !== b.lane)
    return {
      word: 'lane',
      allows: 'yes',
      text: `${b.name} runs beside it, in the lane "${lane}"`,
      path: [...path, 'lane'],
    };
  const around = scopes(plan, a, phase, k);
  for (const { scope, path, what, parsed } of around)
    if (scope.open?.[b.index] === 1)
      return {
        word: 'open',
        allows: 'yes',
        text: `${what} is open to it (open: ${entryOf(parsed?.open, b)})`,
        path: [...path, 'open'],
      };
  const inner = around[around.length - 1];
  return {
    word: 'open',
    allows: 'no',
    text:
      a === b
        ? `${a.name} runs already, and is not open to itself`
        : `${inner.what} holds the lane "${lane}", is not open to ${b.name}, and ${b.name} does not break it`,
    path: inner.path,
    change: `write "open: ${b.name}" in ${inner.what}, or "breaks: ${a.name}" in ${b.name}`,
  };
}

/** What keeps it from starting in any lane. */
function barring(plan: Plan, a: AbilityPlan, phase: PhasePlan | null, k: number, b: AbilityPlan): LegalRule[] {
  if (b.breaks?.[a.index] === 1) return [];
  return scopes(plan, a, phase, k).flatMap(({ scope, path, what, parsed }) =>
    scope.bars?.[b.index] !== 1
      ? []
      : {
          word: 'bars' as const,
          allows: 'no' as const,
          text: `${what} bars it (bars: ${entryOf(parsed?.bars, b)})`,
          path: [...path, 'bars'],
          change: `take ${b.name} out of "bars" in ${what}, or write "breaks: ${a.name}" in ${b.name}`,
        },
  );
}

/** Whether it comes out of what it must come out of; `a` is what runs. */
function follows(plan: Plan, b: AbilityPlan, a: AbilityPlan | null): LegalRule[] {
  if (b.follows === null) return [];
  const path: Path = ['abilities', b.name, 'follows'];
  const names = b.follows.map(({ ability }) => plan.names.ability[ability]);
  const inLane = a !== null && a.lane === b.lane;
  if (inLane && names.includes(a.name))
    return [{ word: 'follows', allows: 'yes', text: `${b.name} follows ${a.name}`, path }];
  const late = b.follows.filter((one) => one.time !== null || one.within > 0);
  const ways = late.map((one) => soonAfter(plan, b, one));
  // What it follows may run in its own lane, beside this one.
  if (a !== null && !inLane) ways.unshift(`it comes out of ${names.join(' or ')}`);
  if (ways.length > 0) return [{ word: 'follows', allows: 'if', text: ways.join(', or '), path }];
  return [
    {
      word: 'follows',
      allows: 'no',
      text: `${b.name} only follows ${names.join(', ')}`,
      path,
      change: a ? `add ${a.name} to "follows" of ${b.name}` : `give "follows" of ${b.name} a time`,
    },
  ];
}

function soonAfter(plan: Plan, b: AbilityPlan, predecessor: Predecessor): string {
  const within = withinText(plan, b, predecessor);
  const name = plan.names.ability[predecessor.ability];
  return within === null ? `${name} has ended not too long ago` : `${name} ended at most ${within} ago`;
}

/** Its stances and conditions; `stance` is the one that holds, or -1 where that may be any. */
function standing(plan: Plan, b: AbilityPlan, stance: number): LegalRule[] {
  const path: Path = ['abilities', b.name];
  const rules: LegalRule[] = [];
  const grace = b.grace > 0 ? `up to ${secondsText(b.grace / plan.rate)} ago` : '';
  const { from } = b;
  if (from) {
    const allowed = plan.names.stance.filter((_, i) => from[i] === 1);
    const is = `the stance is ${allowed.join(' or ') || 'none that there is'}`;
    const here = stance >= 0 && from[stance] === 1;
    const never = allowed.length === 0 || (stance >= 0 && !here && !grace);
    if (never)
      rules.push({
        word: 'from',
        allows: 'no',
        text: `${b.name} only starts where ${is}`,
        path: [...path, 'from'],
        change: stance >= 0 ? `add ${plan.names.stance[stance]} to "from" of ${b.name}` : `add a stance to "from"`,
      });
    else if (here) rules.push({ word: 'from', allows: 'yes', text: `${b.name} starts here`, path: [...path, 'from'] });
    else if (allowed.length < from.length)
      rules.push({ word: 'from', allows: 'if', text: grace ? `${is}, or was ${grace}` : is, path: [...path, 'from'] });
  }
  for (const { text } of b.when)
    rules.push({
      word: 'when',
      allows: 'if',
      text: grace ? `${text}, or was so ${grace}` : text,
      path: [...path, 'when'],
    });
  return rules;
}

/** Whether it is there at all. */
function absence({ names }: Plan, b: AbilityPlan): LegalRule[] {
  const path: Path = ['abilities', b.name];
  const rules: LegalRule[] = [];
  if (b.locked) rules.push({ word: 'locked', allows: 'if', text: 'it is learnt', path: [...path, 'locked'] });
  const { loadouts } = b;
  if (loadouts) {
    const where = names.loadout.filter((_, i) => loadouts[i] === 1);
    if (where.length < names.loadout.length)
      rules.push({
        word: 'loadout',
        allows: 'if',
        text: `the loadout is ${where.join(' or ')}`,
        path: ['loadouts', where[0], 'abilities'],
      });
  }
  return rules;
}
