import { EFFECTS } from '../moveset/effects/index.js';
import type { Message } from '../moveset/messages.js';
import type { Names, Parsed } from '../moveset/read.js';
import type { Needs } from '../record/layout.js';
import type { AbilityStart } from './triggers.js';

/** What a moveset needs places in the record for. */
export function countNeeds(
  parsed: Parsed,
  names: Names,
  starts: readonly AbilityStart[],
  messages: readonly Message[],
): Needs {
  const abilities = names.ability.map((name): Parsed => parsed.abilities?.[name] ?? {});
  const laneOf = (a: Parsed) => Math.max(0, names.lane.indexOf(a.lane));
  const byLane = names.lane.map((): Parsed[] => []);
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
        restart: Object.values(a.upkeep ?? {}).some((upkeep: any) => upkeep?.restart > 0),
        toggle: startsOf[i].some(({ kind }) => kind.key === 'toggle'),
        strikes: scopesOf(a).some((scope) => scope?.strike !== undefined),
        power: (a.phases ?? []).some((phase: Parsed | undefined) => phase?.charge),
        powerTime: (a.phases ?? []).some((phase: Parsed | undefined) => typeof phase?.charge?.over === 'object'),
        waits: names.event.includes(a.cooldown?.from),
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
function scopesOf(a: Parsed): (Parsed | undefined)[] {
  return [a, ...(a.phases ?? [])];
}

/** All that has effects. */
function allScopes(parsed: Parsed): (Parsed | undefined)[] {
  return [
    ...Object.values((parsed.stances ?? {}) as Parsed),
    ...Object.values((parsed.loadouts ?? {}) as Parsed),
    ...(Object.values(parsed.abilities ?? {}) as Parsed[]).flatMap((a) => scopesOf(a ?? {})),
  ];
}

/** Whether a moveset strikes, is struck, or meets the bodies of others. */
export function fights(parsed: Parsed): boolean {
  const scopes = allScopes(parsed);
  const keys = ['strike', 'touch', 'guard', 'immune', 'armour', 'meets', 'bounce', 'summon', 'leave'];
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
export function clipTicks({ clips }: Parsed, clip: string): number | undefined {
  const said: number | { for?: number } | undefined = clips?.[clip];
  return typeof said === 'object' ? said.for : said;
}

/** Layers of clips, the first one included, in the order in which scopes name them. */
export function layersOf(parsed: Parsed): string[] {
  const abilities: (Parsed | undefined)[] = Object.values(parsed.abilities ?? {});
  const scopes: (Parsed | undefined)[] = [
    ...(Object.values(parsed.stances ?? {}) as Parsed[]),
    ...(Object.values(parsed.loadouts ?? {}) as Parsed[]),
    ...abilities,
    ...abilities.flatMap((a) => a?.phases ?? []),
  ];
  const layers = scopes.flatMap((scope) => (typeof scope?.clip === 'object' ? Object.keys(scope.clip) : []));
  return scopes.some((scope) => scope?.clip !== undefined) ? [...new Set([BASE, ...layers])] : [];
}

/** How many numbers the effects of a scope own. */
export function countOwned(scope: Parsed | undefined): number {
  return EFFECTS.reduce((sum, { key, owns }) => sum + (scope?.[key] === undefined ? 0 : owns(scope[key])), 0);
}

function mostOwned(scopes: readonly (Parsed | undefined)[]): number {
  return scopes.reduce((most, scope) => Math.max(most, countOwned(scope)), 0);
}

/** How long an ability may start after its `from` and `when` last held, in ticks: its own, else its inputs'. */
export function graceOf(a: Parsed, parsed: Parsed): number {
  const starts: (Parsed | undefined)[] = [a.start].flat();
  return a.grace ?? Math.max(0, ...starts.map((start) => parsed.inputs?.[inputOf(start) ?? '']?.grace ?? 0));
}

/** The input whose moment a start waits for last. */
function inputOf(start: Parsed | undefined): string | undefined {
  const { press, hold, toggle, release, tap, double, sequence } = start ?? {};
  return press ?? hold ?? toggle ?? release ?? tap ?? double ?? sequence?.at(-1);
}

/** One for each group and for each ability that shares its cooldown with none. */
export function cooldownNames(parsed: Parsed, names: Names): string[] {
  const all = names.ability.flatMap((name) => cooldownName(name, parsed.abilities?.[name]) ?? []);
  return [...new Set(all)];
}

export function cooldownName(ability: string, a: Parsed | undefined): string | undefined {
  const { cooldown } = a ?? {};
  if (cooldown === undefined) return undefined;
  return cooldown.group === undefined ? `of ${ability}` : `group ${cooldown.group}`;
}
