import { OPPONENT, type ParsedOpponent } from '../arena/opponent.js';
import type { Plan } from '../compile/plan.js';
import { isPlain, read } from '../moveset/read.js';
import type { Path, Sink } from '../report/diagnostic.js';
import { type Players, planOf } from './players.js';

type Data = Record<string, unknown>;

/** Who takes part in a scenario that is data: its movesets are given by what it calls their files. */
export function playersOf(plan: Plan, data: Data, movesets: Readonly<Record<string, Plan>>, sink: Sink): Players {
  const find = (file: unknown, path: Path): Plan | undefined => {
    if (file === undefined) return plan;
    const found = typeof file === 'string' ? movesets[file] : undefined;
    if (!found) sink.add('unknown-name', path, { value: file, what: 'moveset', known: Object.keys(movesets) });
    return found;
  };
  const others = new Map<string, Plan>();
  for (const [name, other] of entries(data.others)) {
    const found = find(isPlain(other) ? other.moveset : undefined, ['others', name, 'moveset']);
    if (found) others.set(name, found);
  }
  const summons: Record<string, Plan> = {};
  for (const [name, file] of entries(data.summons)) {
    const found = find(file, ['summons', name]);
    if (found) summons[name] = found;
  }
  const plays = new Map<string, ParsedOpponent>();
  const players: Players = { plan, others, summons, plays, progress: new Map() };
  const note = (name: string, path: Path, member: unknown) => {
    if (isPlain(member) && member.progress !== undefined)
      sink.add('pointless-key', [...path, 'progress'], {
        key: 'progress',
        why: 'it names a file, and this scenario is none',
      });
    const given = isPlain(member) ? member.plays : undefined;
    const own = planOf(players, name);
    if (!isPlain(given) || !own) return;
    plays.set(name, read(OPPONENT, given, [...path, 'plays'], own.names, own.rate, sink) ?? {});
  };
  note(plan.name, ['start'], data.start);
  for (const [name, other] of entries(data.others)) note(name, ['others', name], other);
  return players;
}

export function entries(map: unknown): [string, unknown][] {
  return isPlain(map) ? Object.entries(map) : [];
}
