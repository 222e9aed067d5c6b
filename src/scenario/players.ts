import { Arena, type Member, type Opponent } from '../arena/index.js';
import { type ParsedOpponent, prepareOpponent } from '../arena/opponent.js';
import { loadProgress } from '../character/progress.js';
import type { Plan } from '../compile/plan.js';
import { type Read, sound } from '../moveset/shape.js';
import type { Path, Sink } from '../report/diagnostic.js';
import type { SolidWorld } from '../world/solid-world.js';
import type { SCENARIO, Scenario } from './shape.js';

/** Who takes part in a scenario: the character that it is about, the others by name, and who may be called. */
export interface Players {
  readonly plan: Plan;
  readonly others: ReadonlyMap<string, Plan>;
  readonly summons: Readonly<Record<string, Plan>>;
  /** @internal What plays them, as it was read: by their names, that of the first one included. */
  readonly plays: ReadonlyMap<string, ParsedOpponent>;
  /** What they have learnt and have when they begin, as it was saved: by their names. */
  readonly progress: ReadonlyMap<string, unknown>;
}

/** The plan of a member that a row is about; undefined for a name that none has. */
export function planOf(players: Players, of: unknown): Plan | undefined {
  if (of === undefined || of === players.plan.name) return players.plan;
  const other = players.others.get(String(of));
  if (other) return other;
  const called = Object.keys(players.summons).find((who) => isNamed(String(of), who));
  return called === undefined ? undefined : players.summons[called];
}

/** Whether a member has a name, or was called by it: those who are called as "skerry" have names like "skerry 3". */
export function isNamed(member: string, name: string): boolean {
  return member === name || (member.startsWith(`${name} `) && /^\d+$/.test(member.slice(name.length + 1)));
}

/** The member of a name, or else the last one that was called by it and is here, or left in this very tick. */
export function findMember(arena: Arena, name: string): Member | undefined {
  const named = arena.find(name);
  if (named) return named;
  const called = [...arena.members, ...arena.departed].filter((member) => isNamed(member.name, name));
  return called.reduce<Member | undefined>((last, one) => (one.id > (last?.id ?? 0) ? one : last), undefined);
}

type Begins = NonNullable<Scenario['start']>;

type Point = [number, number, number];

/** @internal An arena with everybody in it, as they begin. */
export function makeArena(
  players: Players,
  { start = {}, others = {} }: Scenario,
  world: SolidWorld,
  places: ReadonlyMap<string, Point>,
  opponents: ReadonlyMap<string, Opponent>,
  sink: Sink,
): Arena {
  const arena = new Arena({ world, summons: players.summons });
  const join = (name: string, plan: Plan, { facing, team, tags, velocity, pools = {} }: Begins) => {
    const { character } = arena.add(name, plan, {
      at: places.get(name),
      facing: facing === 'left' ? -1 : 1,
      team,
      tags,
      plays: opponents.get(name),
    });
    const progress = players.progress.get(name);
    const path = name === players.plan.name ? ['start'] : ['others', name];
    for (const why of progress === undefined ? [] : loadProgress(character, progress).problems)
      sink.add('lost-progress', [...path, 'progress'], { why }, { severity: 'warning' });
    if (velocity) character.door.velocity(velocity[0], velocity[1], velocity[2] ?? 0);
    for (const [pool, value] of Object.entries(pools)) character.door.pool(pool, value);
  };
  join(players.plan.name, players.plan, start);
  for (const [name, plan] of players.others) join(name, plan, others[name] ?? {});
  return arena;
}

/** Opponents of those who are played; made before the characters. */
export function makeOpponents(players: Players, sink: Sink): Map<string, Opponent> {
  const made = new Map<string, Opponent>();
  for (const [name, parsed] of players.plays)
    made.set(name, prepareOpponent(planOf(players, name) as Plan, parsed, sink));
  return made;
}

/** Somebody who is there from the start, where that is written, and how. */
type Beginner = [Path, Plan, NonNullable<Read<typeof SCENARIO>['start']>];

/** @internal Names that cannot be: two of one name, pools that somebody does not have, tags that nobody has. */
export function checkPlayers(players: Players, { start, others = {} }: Read<typeof SCENARIO>, sink: Sink): void {
  const { name } = players.plan;
  if (players.others.has(name))
    sink.add('name-clash', ['others', name], { name, first: 'first character', second: 'other' }, { on: 'key' });
  const members: Beginner[] = [
    [['start'], players.plan, start ?? {}],
    ...[...players.others].map(([other, plan]): Beginner => [['others', other], plan, others[other] ?? {}]),
  ];
  for (const [path, plan, { pools = {} }] of members) {
    const known = plan.names.pool;
    for (const pool of Object.keys(pools))
      if (!known.includes(pool))
        sink.add('unknown-name', [...path, 'pools', pool], { value: pool, what: 'pool', known }, { on: 'key' });
  }
  const plans = [...new Set([...members.map(([, plan]) => plan), ...Object.values(players.summons)])];
  checkWords(plans, members, sink);
}

/** Words by which strikes, touches, targets and formulas look for others, and that nobody here has. */
function checkWords(plans: readonly Plan[], members: readonly Beginner[], sink: Sink): void {
  const given = members.flatMap(([, , { tags }]) => sound(tags));
  const there = {
    tag: [...new Set([...given, ...plans.flatMap((plan) => [...plan.tags, ...plan.names.tag])])],
    pool: [...new Set(plans.flatMap((plan) => plan.names.pool))],
    stance: [...new Set(plans.flatMap((plan) => plan.names.stance))],
  };
  const told = new Set<string>();
  const look = (by: string, what: keyof typeof there, word: string) => {
    const known = there[what];
    if (known.includes(word) || told.has(`${what} ${word}`)) return;
    told.add(`${what} ${word}`);
    sink.add('unknown-word', ['moveset'], { what, word, by, known }, { severity: 'warning' });
  };
  for (const plan of plans) {
    const { name } = plan;
    const strikes = [...plan.abilities, ...plan.phases].flatMap(({ scope }) => scope.strikes);
    for (const { tagged } of [...strikes.map((strike) => strike.plan), ...plan.targets])
      for (const tag of tagged ?? []) look(name, 'tag', tag);
    for (const { what, name: word } of plan.insights)
      look(name, what === 'tagged' ? 'tag' : what === 'in' ? 'stance' : 'pool', word);
  }
}
