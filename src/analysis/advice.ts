import type { Given } from '../compile/check.js';
import type { AbilityPlan, Plan } from '../compile/plan.js';
import type { Node } from '../moveset/formula.js';
import { bindingsOf, kindOf } from '../moveset/inputs/index.js';
import { isPlain, type Parsed, type ParsedFormula } from '../moveset/read.js';
import type { Moveset } from '../moveset/types.js';
import { NEVER } from '../record/slots.js';
import type { Diagnostic, Path, Sink } from '../report/diagnostic.js';

/** What people get wrong, in movesets that are otherwise sound; a new check is a function like these and a name here. */
const CHECKS: readonly ((given: Given) => void)[] = [
  adviseInputs,
  adviseBindings,
  adviseStarts,
  adviseCooldowns,
  adviseUpkeeps,
  advisePresses,
  adviseCharges,
  adviseFollows,
  adviseLoadouts,
];

export function advise(given: Given): void {
  for (const check of CHECKS) check(given);
}

function warn(
  sink: Sink,
  code: Diagnostic['code'],
  path: Path,
  params: Record<string, unknown>,
  on: 'key' | 'value' = 'key',
) {
  sink.add(code, path, params, { severity: 'warning', on });
}

function adviseInputs({ plan, parsed, read, sink }: Given): void {
  if (read === null) return;
  const used = new Set<string>();
  const use = (name: unknown) => used.add(String(name).split('.')[0]);
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
  for (const ability of Object.values((parsed.abilities ?? {}) as Parsed)) {
    visit(ability?.start);
    for (const scope of [ability, ...(ability?.phases ?? [])]) visit(scope?.move?.along);
  }
  for (const name of Object.keys(parsed.inputs ?? {}))
    if (!used.has(name)) warn(sink, 'unread-input', ['inputs', name], { input: name });
}

function adviseBindings({ plan, sink }: Given): void {
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

function adviseStarts({ plan, source, parsed, sink }: Given): void {
  for (const ability of plan.abilities) {
    const why = whyNever(plan, source, ability, parsed.abilities?.[ability.name] ?? {});
    if (why) warn(sink, 'no-start', ['abilities', ability.name], { ability: ability.name, why });
  }
}

function whyNever(plan: Plan, source: Moveset, ability: AbilityPlan, parsed: Parsed): string | undefined {
  const limits = (pool: string) => {
    const { min = 0, max } = source.pools?.[pool] ?? {};
    return typeof min === 'number' && typeof max === 'number' ? { min, max } : undefined;
  };
  for (const [pool, cost] of Object.entries((parsed.cost ?? {}) as Parsed)) {
    const range = limits(pool);
    if (range && typeof cost?.source === 'number' && cost.source > range.max - range.min)
      return `it costs ${cost.source} of ${pool}, which never holds more than ${range.max - range.min}; lower the cost or raise the limit`;
  }
  const away = plan.view === 'open' && [parsed.start].flat().find((start) => wantsUpright(start));
  if (away)
    return 'a start wants "up" or "down", which no stick gives in the open view; use "forward", "back" or "neutral"';
  if (ability.from && !ability.from.some((allowed, i) => allowed && canHold(source, plan.names.stance[i])))
    return 'none of the stances it may start in can ever hold; let it start elsewhere';
  const parts = (parsed.when ?? []).flatMap((w: ParsedFormula) => conjuncts(w));
  const texts = new Set<string>(parts.map((part: Part) => part.text));
  for (const { text, node } of parts as Part[]) {
    if (text === 'false') return '"when" is false; take the ability out, or lock it';
    if (texts.has(`not ${text}`)) return `"when" wants both ${text} and not ${text}; drop one of them`;
    if (text === 'airborne' && texts.has('grounded'))
      return '"when" wants both grounded and airborne; drop one of them';
    const bound = poolBound(node);
    const range = bound && limits(bound.pool);
    if (bound && range && (bound.op === '>' ? bound.value >= range.max : bound.value > range.max))
      return `"when" wants ${text}, but ${bound.pool} never holds more than ${range.max}; want less or raise the limit`;
  }
  return undefined;
}

function wantsUpright(start: Parsed | undefined): boolean {
  return [start?.toward, ...(start?.sequence ?? [])].some((word) => word === 'up' || word === 'down');
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
  const split = (node: Node): Node[] =>
    node.kind === 'binary' && node.op === 'and' ? [...split(node.left), ...split(node.right)] : [node];
  return split(node).map((node) => ({ node, text: source.slice(node.from, node.to) }));
}

/** `pool.wind >= 9` and the like. */
function poolBound(node: Node): { pool: string; op: '>' | '>='; value: number } | undefined {
  if (node.kind !== 'binary' || (node.op !== '>' && node.op !== '>=')) return undefined;
  const { left, right, op } = node;
  if (left.kind !== 'name' || right.kind !== 'number' || !left.name.startsWith('pool.')) return undefined;
  return { pool: left.name.slice('pool.'.length), op, value: right.value };
}

function adviseCooldowns({ plan, sink }: Given): void {
  for (const { name, cooldown, cooldownFrom, lasts } of plan.abilities)
    if (cooldownFrom === 'start' && cooldown > 0 && lasts < NEVER && cooldown <= lasts)
      warn(sink, 'short-cooldown', ['abilities', name, 'cooldown'], { ability: name, cooldown, ticks: lasts });
}

function adviseUpkeeps({ plan, source, sink }: Given): void {
  for (const { name, upkeeps } of plan.abilities)
    for (const { pool, perTick } of upkeeps) {
      const { name: poolName, rest } = plan.pools[pool];
      const { regen = 0 } = source.pools?.[poolName] ?? {};
      const upkeep = perTick * plan.rate;
      if (rest === 0 && typeof regen === 'number' && perTick > 0 && regen >= upkeep)
        warn(sink, 'no-drain', ['abilities', name, 'upkeep', poolName], { upkeep, pool: poolName, regen });
    }
}

function advisePresses({ plan, parsed, sink }: Given): void {
  const presses = plan.triggers.filter((trigger) => trigger.on !== null && trigger.button >= 0);
  presses.forEach((second, i) => {
    const other = presses
      .slice(0, i)
      .find((first) => first.sign === second.sign && collide(first.ability, second.ability));
    if (!other) return;
    const [first, later] = [other.ability, second.ability].map((index) => plan.names.ability[index]);
    warn(sink, 'same-press', ['abilities', later], { first, second: later });
  });
  function collide(i: number, k: number): boolean {
    const [a, b] = [plan.abilities[i], plan.abilities[k]];
    if (i === k || a.lane !== b.lane || a.follows || b.follows) return false;
    if (!overlap(a.from, b.from) || !overlap(a.loadouts, b.loadouts)) return false;
    const conditions = ({ name }: AbilityPlan) =>
      JSON.stringify((parsed.abilities[name]?.when ?? []).map((w: Parsed) => String(w?.source)));
    return conditions(a) === conditions(b);
  }
}

/** Whether two tables allow something in common; no table allows all. */
function overlap(a: Uint8Array | null, b: Uint8Array | null): boolean {
  return !a || !b || a.some((allowed, i) => allowed === 1 && b[i] === 1);
}

function adviseCharges({ plan, sink }: Given): void {
  for (const { index, name, firstPhase } of plan.abilities) {
    const declared = plan.abilities[index].triggers.filter((trigger) => !trigger.byCode);
    plan.phases.forEach(({ ability, charge, until, lasts }, i) => {
      if (
        ability !== index ||
        !charge ||
        until.length > 0 ||
        lasts < NEVER ||
        declared.some((trigger) => trigger.button >= 0)
      )
        return;
      warn(sink, 'no-release', ['abilities', name, 'phases', i - firstPhase, 'charge'], { ability: name });
    });
  }
}

function adviseFollows({ plan, sink }: Given): void {
  for (const a of plan.abilities) {
    a.follows?.forEach(({ ability, within }) => {
      if (within !== 0) return;
      const other = plan.abilities[ability];
      const phases = plan.phases.filter((phase) => phase.ability === ability);
      const scopes = [other.scope, ...phases.map((phase) => phase.scope)];
      const open = scopes.some((scope) => scope.open?.[a.index] === 1) || a.breaks?.[ability] === 1;
      if (open && other.lane === a.lane) return;
      warn(sink, 'no-follow', ['abilities', a.name, 'follows'], { ability: a.name, other: other.name });
    });
  }
}

function adviseLoadouts({ plan, sink }: Given): void {
  for (const { name, loadout, loadouts } of plan.abilities)
    if (loadout >= 0 && loadouts && loadouts[loadout] === 0)
      warn(sink, 'lost-loadout', ['abilities', name, 'loadout'], {
        ability: name,
        loadout: plan.names.loadout[loadout],
      });
}
