import { EFFECTS, type EffectFields } from '../moveset/effects/index.js';
import type { ParsedFormula } from '../moveset/formula.js';
import type { Message } from '../moveset/messages.js';
import type { Names } from '../moveset/read.js';
import type { ParsedAbility, ParsedMoveset, ParsedScope, ParsedStart } from '../moveset/schema.js';
import type { Needs } from '../record/layout.js';
import type { AbilityStart } from './triggers.js';

/** What a moveset needs places in the record for. */
export function countNeeds(
  parsed: ParsedMoveset,
  names: Names,
  starts: readonly AbilityStart[],
  messages: readonly Message[],
): Needs {
  const abilities = names.ability.map((name): ParsedAbility => parsed.abilities?.[name] ?? {});
  const laneOf = (a: ParsedAbility) => Math.max(0, names.lane.indexOf(a.lane ?? ''));
  const byLane = names.lane.map((): ParsedAbility[] => []);
  for (const a of abilities) byLane[laneOf(a)]?.push(a);
  const startsOf = names.ability.map((): AbilityStart[] => []);
  for (const start of starts) startsOf[start.ability].push(start);
  return {
    buttons: names.button,
    sticks: names.stick,
    aims: names.aim,
    choices: names.choice,
    marks: names.mark,
    layers: layersOf(parsed),
    pools: names.pool,
    events: messages.map(({ name, size }) => ({ name, size })),
    lanes: names.lane.map((name, i) => ({
      name,
      abilityOwn: mostOwned(byLane[i]),
      phaseOwn: mostOwned(byLane[i].flatMap((a) => a.phases ?? [])),
    })),
    abilities: names.ability.map((name, i) => {
      const a = abilities[i];
      return {
        name,
        charges: a.charges !== undefined,
        grace: graceOf(a, parsed) > 0,
        restart: Object.values(a.upkeep ?? {}).some((upkeep) => (upkeepOf(upkeep).restart ?? 0) > 0),
        toggle: startsOf[i].some(({ kind }) => kind.key === 'toggle'),
        strikes: writtenScopes(a).some((scope) => scope?.strike !== undefined),
        power: (a.phases ?? []).some((phase) => phase?.charge),
        powerTime: (a.phases ?? []).some((phase) => typeof phase?.charge?.over === 'object'),
        waits: names.event.includes(cooldownOf(a)?.from ?? ''),
        hears: messages.filter(({ name, size }) => size > 0 && startsOf[i].some(({ start }) => start.event === name)),
      };
    }),
    cooldowns: cooldownNames(parsed, names),
    combat: fights(parsed),
    rides: allScopes(parsed).some((scope) => scope?.ride !== undefined),
    summons: names.summon,
    triggers: starts.map(({ kind, start }) => kind.owns(start)),
    stanceOwn: mostOwned(names.stance.map((name) => parsed.stances?.[name])),
    loadoutOwn: mostOwned(names.loadout.map((name) => parsed.loadouts?.[name])),
  };
}

/** An ability and its phases. */
export function writtenScopes(a: ParsedAbility): (ParsedScope | undefined)[] {
  return [a, ...(a.phases ?? [])];
}

/** All that has effects. */
export function allScopes(parsed: ParsedMoveset): (ParsedScope | undefined)[] {
  return [
    ...Object.values(parsed.stances ?? {}),
    ...Object.values(parsed.loadouts ?? {}),
    ...Object.values(parsed.abilities ?? {}).flatMap((a) => writtenScopes(a ?? {})),
  ];
}

/** Whether a moveset strikes, is struck, or meets the bodies of others. */
export function fights(parsed: ParsedMoveset): boolean {
  const scopes = allScopes(parsed);
  const keys = ['strike', 'touch', 'guard', 'immune', 'armour', 'meets', 'bounce', 'summon', 'leave'] as const;
  return (
    parsed.hurt !== undefined ||
    parsed.summons !== undefined ||
    parsed.body?.meets !== undefined ||
    scopes.some((scope) => keys.some((key) => scope?.[key] !== undefined))
  );
}

/** The first layer: that of clips which name none. */
export const BASE = 'base';

/** How long a clip lasts, as the moveset says it. */
export function clipTicks({ clips }: ParsedMoveset, clip: string): number | undefined {
  const said = clips?.[clip];
  return typeof said === 'object' ? said.for : said;
}

/** Layers of clips, the first one included, in the order in which scopes name them. */
export function layersOf(parsed: ParsedMoveset): string[] {
  const abilities = Object.values(parsed.abilities ?? {});
  // Clips of phases come after those of all abilities.
  const scopes: (ParsedScope | undefined)[] = [
    ...Object.values(parsed.stances ?? {}),
    ...Object.values(parsed.loadouts ?? {}),
    ...abilities,
    ...abilities.flatMap((a) => a?.phases ?? []),
  ];
  const layers = scopes.flatMap((scope) => (typeof scope?.clip === 'object' ? Object.keys(scope.clip) : []));
  return scopes.some((scope) => scope?.clip !== undefined) ? [...new Set([BASE, ...layers])] : [];
}

/** How many numbers the effects of a scope own. */
export function countOwned(scope: ParsedScope | undefined): number {
  return EFFECTS.reduce((sum, { key, owns }) => {
    const value = scope?.[key as keyof EffectFields];
    return sum + (value === undefined ? 0 : owns(value));
  }, 0);
}

function mostOwned(scopes: readonly (ParsedScope | undefined)[]): number {
  return scopes.reduce((most, scope) => Math.max(most, countOwned(scope)), 0);
}

/** How long an ability may start after its `from` and `when` last held, in ticks: its own, else its inputs'. */
export function graceOf(a: ParsedAbility, parsed: ParsedMoveset): number {
  const starts = [a.start].flat();
  return a.grace ?? Math.max(0, ...starts.map((start) => parsed.inputs?.[inputOf(start) ?? '']?.grace ?? 0));
}

/** The input whose moment a start waits for last. */
function inputOf(start: ParsedStart | undefined): string | undefined {
  const { press, hold, toggle, release, tap, double, sequence } = start ?? {};
  return press ?? hold ?? toggle ?? release ?? tap ?? double ?? sequence?.at(-1);
}

/** One for each group and for each ability that shares its cooldown with none. */
export function cooldownNames(parsed: ParsedMoveset, names: Names): string[] {
  const all = names.ability.flatMap((name) => cooldownName(name, parsed.abilities?.[name]) ?? []);
  return [...new Set(all)];
}

/** A time in ticks, and the formula that gives it instead; for one that does, and where nothing is written, these ticks. */
export function timeOf(
  time: number | ParsedFormula | undefined,
  varying: number,
  otherwise: number,
): readonly [ticks: number, formula: ParsedFormula | null] {
  return typeof time === 'object' ? [varying, time] : [time ?? otherwise, null];
}

/** An upkeep, also where only its rate is written. */
export function upkeepOf(upkeep: NonNullable<ParsedAbility['upkeep']>[string]) {
  return upkeep && 'source' in upkeep ? { rate: upkeep } : (upkeep ?? {});
}

/** A cooldown, also where only its time is written. */
export function cooldownOf({ cooldown }: ParsedAbility) {
  return typeof cooldown === 'object' && !('source' in cooldown) ? cooldown : { for: cooldown };
}

export function cooldownName(ability: string, a: ParsedAbility | undefined): string | undefined {
  if (a?.cooldown === undefined) return undefined;
  const { group } = cooldownOf(a);
  return group === undefined ? `of ${ability}` : `group ${group}`;
}
