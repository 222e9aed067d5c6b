import type { Checked } from '../compile/checked.js';
import { writtenScopes } from '../compile/needs.js';
import type { AbilityPlan, Plan } from '../compile/plan.js';
import { type Node, type ParsedFormula, splitAnd } from '../moveset/formula.js';
import { bindingsOf, kindOf } from '../moveset/inputs/index.js';
import { isPlain } from '../moveset/read.js';
import type { ParsedAbility } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import type { Moveset } from '../moveset/types.js';
import { NEVER } from '../record/slots.js';
import { wantObject, wantPlan } from '../report/arguments.js';
import { adviseGuards, adviseStuns } from './combat-advice.js';
import { adviseEvents, adviseLanes, adviseRules, adviseTags, adviseTriggers } from './habits.js';
import { adviseImpossible } from './impossible.js';
import { adviseGrace, advisePresses } from './presses.js';
import { overlap, scopesOf, warn } from './tools.js';
import { adviseOpen, advisePhases } from './windows.js';

/** What people get wrong in movesets that have no errors; a new check is a function like these and a name here. */
const CHECKS: readonly ((checked: Checked) => void)[] = [
  adviseInputs,
  adviseBindings,
  adviseStarts,
  adviseImpossible,
  adviseCooldowns,
  adviseUpkeeps,
  adviseTriggers,
  advisePresses,
  adviseGrace,
  adviseRules,
  adviseTags,
  adviseEvents,
  adviseLanes,
  adviseCharges,
  adviseFollows,
  adviseOpen,
  advisePhases,
  adviseLoadouts,
  adviseStuns,
  adviseGuards,
];

/** Adds warnings about what is unwise to those of `checkMoveset` and `compileMoveset`, which take it as an argument. */
export function advise(checked: Checked): void {
  wantObject('advise', 'what checkMoveset gives it', checked);
  wantPlan('advise: of what checkMoveset gives it', checked.plan);
  for (const check of CHECKS) check(checked);
}

/** Effects somewhere in which there is a direction or a point. */
const HEADED = ['strike', 'touch', 'summon', 'emit'] as const;

function adviseInputs({ plan, parsed, read, sink }: Checked): void {
  if (read === null) return;
  const used = new Set<string>();
  /** A name by itself, with a side or option, or within the parentheses of a direction. */
  const use = (name: unknown) =>
    used.add(
      String(name)
        .replace(/^\w+\((.*)\)$/, '$1')
        .split('.')[0],
    );
  const walking = plan.sticks.find((stick) => stick.at === plan.walkStick);
  if (walking) use(walking.name);
  for (const key of read) {
    use(key);
    use(/\((.*)\)/.exec(key)?.[1] ?? '');
  }
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(visit);
    else if (isPlain(value)) Object.values(value).forEach(visit);
    else use(value);
  };
  for (const ability of Object.values(parsed.abilities ?? {})) {
    visit(ability?.start);
    for (const scope of writtenScopes(ability ?? {}))
      visit([scope?.move?.along, scope?.face, scope?.warp, scope?.mark, ...HEADED.map((key) => scope?.[key])]);
  }
  for (const scope of [...Object.values(parsed.stances ?? {}), ...Object.values(parsed.loadouts ?? {})])
    visit(scope?.face);
  for (const probe of Object.values(parsed.probes ?? {})) visit([probe?.along, probe?.from]);
  for (const name of Object.keys(parsed.inputs ?? {}))
    if (!used.has(name)) warn(sink, 'unread-input', ['inputs', name], { input: name });
}

function adviseBindings({ plan, sink }: Checked): void {
  const bySource = new Map<string, string[]>();
  for (const [name, input] of Object.entries(plan.inputs)) {
    const sources = sourcesOf(name, input);
    if (sources.length === 0) warn(sink, 'unbound-input', ['inputs', name], { input: name });
    for (const source of new Set(sources)) bySource.set(source, [...(bySource.get(source) ?? []), name]);
  }
  for (const [source, inputs] of bySource)
    if (inputs.length > 1 && canAct(plan, inputs[0], inputs[1]))
      warn(sink, 'bound-twice', ['inputs', inputs[1]], { source, inputs });
}

/** Whether two inputs can act at the same time: not if all that they start belongs to different loadouts. */
function canAct(plan: Plan, first: string, second: string): boolean {
  const started = (input: string) =>
    plan.triggers
      .filter((trigger) => trigger.input?.split('.')[0] === input)
      .map((trigger) => plan.abilities[trigger.ability].loadouts);
  const [a, b] = [started(first), started(second)];
  if (a.length === 0 || b.length === 0) return true;
  return a.some((x) => b.some((y) => overlap(x, y)));
}

function sourcesOf(name: string, input: object): string[] {
  const pad = kindOf(input)?.padStick?.(input as never);
  const bound = bindingsOf(name, input).flatMap(([, sources]) => sources);
  return pad ? [...bound, `pad ${pad} stick`] : bound;
}

function adviseStarts({ plan, source, parsed, sink }: Checked): void {
  for (const ability of plan.abilities) {
    const why = whyNever(plan, source, ability, parsed.abilities?.[ability.name] ?? {});
    if (why) warn(sink, 'no-start', ['abilities', ability.name], { ability: ability.name, why });
  }
}

function whyNever(plan: Plan, source: Moveset, ability: AbilityPlan, parsed: ParsedAbility): string | undefined {
  const limits = (pool: string) => {
    const { min = 0, max } = source.pools?.[pool] ?? {};
    return typeof min === 'number' && typeof max === 'number' ? { min, max } : undefined;
  };
  for (const [pool, cost] of Object.entries(parsed.cost ?? {})) {
    const range = limits(pool);
    if (range && typeof cost?.source === 'number' && cost.source > range.max - range.min)
      return `it costs ${cost.source} of ${pool}, which never holds more than ${range.max - range.min}; lower the cost or raise the limit`;
  }
  if (ability.from && !ability.from.some((allowed, i) => allowed && canHold(source, plan.names.stance[i])))
    return 'none of the stances it may start in can ever apply; let it start in another';
  const parts = sound(parsed.when).flatMap(conjuncts);
  for (const { text, node } of parts) {
    if (text === 'false') return 'its "when" is false; remove the ability, or give it "locked: true"';
    const bound = poolBound(node);
    const range = bound && limits(bound.pool);
    if (bound && range && (bound.op === '>' ? bound.value >= range.max : bound.value > range.max))
      return `its "when" needs ${text}, but ${bound.pool} never holds more than ${range.max}; lower the number or raise the limit`;
  }
  return undefined;
}

function canHold(moveset: Moveset, stance: string): boolean {
  const { when } = moveset.stances[stance];
  return when !== false && when !== 'false';
}

interface Part {
  text: string;
  node: Node;
}

function conjuncts({ source, node }: ParsedFormula): Part[] {
  if (source === false) return [{ text: 'false', node: { kind: 'truth', value: false, from: 0, to: 0 } }];
  if (typeof source !== 'string' || !node) return [];
  return splitAnd(node).map((node) => ({ node, text: source.slice(node.from, node.to) }));
}

/** `pool.wind >= 9` and the like. */
function poolBound(node: Node): { pool: string; op: '>' | '>='; value: number } | undefined {
  if (node.kind !== 'binary' || (node.op !== '>' && node.op !== '>=')) return undefined;
  const { left, right, op } = node;
  if (left.kind !== 'name' || right.kind !== 'number' || !left.name.startsWith('pool.')) return undefined;
  return { pool: left.name.slice('pool.'.length), op, value: right.value };
}

function adviseCooldowns({ plan, sink }: Checked): void {
  for (const { name, cooldown, cooldownFrom, lasts } of plan.abilities)
    if (cooldownFrom === 'start' && cooldown > 0 && lasts < NEVER && cooldown <= lasts)
      warn(sink, 'short-cooldown', ['abilities', name, 'cooldown'], { ability: name, cooldown, ticks: lasts });
}

function adviseUpkeeps({ plan, source, sink }: Checked): void {
  for (const { name, upkeeps } of plan.abilities)
    for (const { pool, perTick } of upkeeps) {
      const { name: poolName, rest } = plan.pools[pool];
      const { regen = 0 } = source.pools?.[poolName] ?? {};
      const upkeep = perTick * plan.rate;
      if (rest === 0 && typeof regen === 'number' && perTick > 0 && regen >= upkeep)
        warn(sink, 'no-drain', ['abilities', name, 'upkeep', poolName], { upkeep, pool: poolName, regen });
    }
}

function adviseCharges({ plan, sink }: Checked): void {
  plan.phases.forEach(({ ability, charge, until, lasts, time }, i) => {
    if (!charge || until.length > 0 || lasts < NEVER || time !== null) return;
    const { name, firstPhase, triggers } = plan.abilities[ability];
    if (triggers.some((trigger) => !trigger.byCode && trigger.button >= 0)) return;
    warn(sink, 'no-release', ['abilities', name, 'phases', i - firstPhase, 'charge'], { ability: name });
  });
}

function adviseFollows({ plan, sink }: Checked): void {
  for (const a of plan.abilities) {
    a.follows?.forEach(({ ability, within }) => {
      if (within !== 0) return;
      const other = plan.abilities[ability];
      const scopes = scopesOf(plan, other);
      const open = scopes.some((scope) => scope.open?.[a.index] === 1) || a.breaks?.[ability] === 1;
      if (open && other.lane === a.lane) return;
      warn(sink, 'no-follow', ['abilities', a.name, 'follows'], { ability: a.name, other: other.name });
    });
  }
}

function adviseLoadouts({ plan, sink }: Checked): void {
  for (const { name, loadout, loadouts } of plan.abilities)
    if (loadout >= 0 && loadouts && loadouts[loadout] === 0)
      warn(sink, 'lost-loadout', ['abilities', name, 'loadout'], {
        ability: name,
        loadout: plan.names.loadout[loadout],
      });
}
