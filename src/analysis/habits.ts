import type { Checked } from '../compile/checked.js';
import { writtenScopes } from '../compile/needs.js';
import type { AbilityPlan, Plan } from '../compile/plan.js';
import { emitted } from '../moveset/effects/actions.js';
import type { ParsedAbility, ParsedPhase } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import { NEVER } from '../record/slots.js';
import type { Path } from '../report/diagnostic.js';
import { phasesOf, scopesOf, warn } from './tools.js';

/** Starts that nothing can bring about: a direction without a stick, or up and down in the open view. */
export function adviseTriggers({ plan, parsed, sink }: Checked): void {
  for (const { name } of plan.abilities) {
    const { start } = parsed.abilities?.[name] ?? {};
    const starts = [start].flat();
    starts.forEach((one, i) => {
      const path = ['abilities', name, 'start', ...(Array.isArray(start) ? [i] : [])];
      const words = sound<string>([one?.toward, ...(one?.sequence ?? [])]);
      const upright = words.find((word) => word === 'up' || word === 'down');
      const directed = words.find((word) => DIRECTED.has(word));
      if (plan.view === 'open' && upright)
        warn(sink, 'start-never', path, {
          why: `no stick gives "${upright}" in the open view; use "forward" or "back"`,
        });
      else if (directed && plan.sticks.length === 0)
        warn(sink, 'start-never', path, {
          why: `"${directed}" is a direction of a stick, and there is no stick; declare one`,
        });
    });
  }
}

const DIRECTED = new Set(['forward', 'back', 'up', 'down']);

/** Facts that hold for a single tick: a rule that reads one asks once. */
const MOMENTARY = /\b(landed|pressed|released|event)\b/;

/** Rules that start again as soon as they are over. */
export function adviseRules({ plan, parsed, sink }: Checked): void {
  for (const a of plan.abilities) {
    const written: ParsedAbility = parsed.abilities?.[a.name] ?? {};
    const rules = [written.start].flat().flatMap((start) => (start?.rule && !start.once ? start.rule : []));
    if (rules.length === 0 || a.lasts >= NEVER) continue;
    const gates = a.cooldownAt >= 0 || a.charges !== null || a.costs.length > 0 || a.follows;
    const texts = [...rules, ...(written.when ?? [])].map((formula) => String(formula?.source));
    const own = /\b(since|timeIn|running|tagged|cooldown)\(|\b(heldFor|stance\.time|air\.time|ground\.time)\b/;
    if (gates || texts.some((text) => MOMENTARY.test(text) || own.test(text) || text.includes('=>'))) continue;
    warn(sink, 'rule-repeats', ['abilities', a.name, 'start'], { ability: a.name, ticks: a.lasts });
  }
}

/** Tags that are used where nothing that counts there wears them. */
export function adviseTags({ plan, parsed, sink }: Checked): void {
  const worn = {
    ability: new Set(plan.abilities.flatMap(({ scope }) => scope.tags)),
    stance: new Set(plan.stances.flatMap(({ scope }) => scope.tags)),
  };
  const tags = new Set(plan.names.tag);
  const look = (scope: Listing | undefined, path: Path) => {
    for (const [key, kind] of KEYS_OF_TAGS) {
      const listed = scope?.[key] ?? [];
      for (const [i, tag] of listed.entries())
        if (tag !== undefined && tags.has(tag) && !worn[kind].has(tag))
          warn(sink, 'tag-does-nothing', [...path, key, i], { tag, key, kind }, 'value');
    }
  };
  for (const { name } of plan.abilities) {
    const written: ParsedAbility = parsed.abilities?.[name] ?? {};
    look(written, ['abilities', name]);
    (written.phases ?? []).forEach((phase, i) => {
      look(phase, ['abilities', name, 'phases', i]);
    });
  }
}

type Listing = Pick<ParsedAbility, 'open' | 'bars' | 'breaks' | 'from'>;
const KEYS_OF_TAGS = [
  ['open', 'ability'],
  ['bars', 'ability'],
  ['breaks', 'ability'],
  ['from', 'stance'],
] as const;

/** Events that a moveset both emits and waits for: what it emits goes to the host only. */
export function adviseEvents({ plan, parsed, read, sink }: Checked): void {
  const heard = new Set(plan.triggers.flatMap(({ event }) => (event >= 0 ? plan.names.event[event] : [])));
  for (const { cooldownLess } of plan.abilities)
    for (const { event } of cooldownLess) heard.add(plan.names.event[event]);
  for (const key of read ?? []) {
    const event = /^event\((\w+)\)$/.exec(key)?.[1];
    if (event) heard.add(event);
  }
  const told = new Set<string>();
  for (const { name } of plan.abilities) {
    const written: ParsedAbility = parsed.abilities?.[name] ?? {};
    const scopes = writtenScopes(written);
    for (const event of [...scopes, ...scopes.flatMap((scope) => scope?.beats ?? [])].flatMap(emitted)) {
      const index = plan.names.event.indexOf(event);
      if (!heard.has(event) || told.has(event) || plan.messages[index].hearsOwn) continue;
      told.add(event);
      const listed = Array.isArray(parsed.events);
      warn(
        sink,
        'event-unheard',
        ['events', listed ? index : event],
        { event, ability: name },
        listed ? 'value' : 'key',
      );
    }
  }
}

/** Hops that keep their lane until they come down, with nothing that may follow. */
export function adviseLanes({ plan, parsed, sink }: Checked): void {
  for (const a of plan.abilities) {
    const waits = phasesOf(plan, a).findIndex((_, i) => waitsForFall(parsed.abilities?.[a.name]?.phases?.[i]));
    if (waits < 0 || !a.lifts || scopesOf(plan, a).some((scope) => scope.open)) continue;
    const other = plan.abilities.find(
      (b) => b !== a && b.lane === a.lane && isAsked(b) && !b.breaks?.[a.index] && !b.follows,
    );
    if (other)
      warn(sink, 'lane-kept', ['abilities', a.name, 'phases', waits], {
        ability: a.name,
        lane: laneName(plan, a),
        other: other.name,
      });
  }
}

/** Whether a phase lasts until the body falls or lands. */
function waitsForFall(phase: ParsedPhase | undefined): boolean {
  return (phase?.until ?? []).some((formula) => /\b(vy|grounded|landed)\b/.test(String(formula?.source)));
}

const isAsked = ({ triggers }: AbilityPlan): boolean => triggers.some((trigger) => trigger.button >= 0);
const laneName = (plan: Plan, { lane }: AbilityPlan): string => plan.names.lane[lane];
