import type { Plan } from '../compile/plan.js';
import { isPlain, type Names, read } from '../moveset/read.js';
import type { ListShape } from '../moveset/shape.js';
import type { Sink } from '../report/diagnostic.js';
import type { Renamed } from '../tick/take-in/map-rows.js';
import { checkPlayers, type Players, planOf } from './players.js';
import { SCENARIO, type Scenario } from './shape.js';

/** Lists whose rows are about one member each, so that the names of its moveset count. */
const ROWS = ['inputs', 'expect'] as const;

/** A scenario read by its shape, each row with the names of whom it is about; undefined where something is faulty, which `sink` is told. */
export function readScenario(players: Players, source: unknown, sink: Sink): Scenario | undefined {
  const { plan } = players;
  const { fields } = SCENARIO;
  const isRows = (key: string) => (ROWS as readonly string[]).includes(key);
  // The rows are read one by one, and counted, below.
  const rest = {
    ...SCENARIO,
    fields: Object.fromEntries(
      Object.entries(fields).map(([key, field]) => [
        key,
        isRows(key) ? { ...field, shape: { ...(field.shape as ListShape), min: 0 } } : field,
      ]),
    ),
  };
  const without = isPlain(source)
    ? Object.fromEntries(
        Object.entries(source).map(([key, value]) => [
          key,
          isRows(key) && Array.isArray(value) ? [] : withoutPlays(key, value),
        ]),
      )
    : source;
  const parsed = read(rest, without, [], plan.names, plan.rate, sink);
  if (!isPlain(source) || !parsed) return undefined;
  for (const key of ROWS) {
    const given = source[key];
    if (!Array.isArray(given)) continue;
    const { of, min = 0, max = 10_000 } = fields[key].shape as ListShape;
    if (given.length < min || given.length > max) sink.add('wrong-count', [key], { count: given.length, min, max });
    const rows: Record<string, unknown> = parsed;
    rows[key] = given.slice(0, max).map((row, i) => {
      const { names, rate, renamed } = namesOf(players, row, [key, i], sink);
      return read(of, nowNamed(row, names, renamed), [key, i], names, rate, sink);
    });
  }
  checkPlayers(players, parsed, sink);
  return sink.failed ? undefined : (parsed as Scenario);
}

/** What plays somebody is read apart, with the names of its own moveset. */
function withoutPlays(key: string, value: unknown): unknown {
  if (!isPlain(value)) return value;
  if (key === 'others')
    return Object.fromEntries(Object.entries(value).map(([name, other]) => [name, withoutPlays('start', other)]));
  if (key !== 'start' || !isPlain(value.plays)) return value;
  const { plays: _, ...rest } = value;
  return rest;
}

/** What somebody wrote before something was renamed, by the names of now: names by themselves, as keys, and in formulas. */
function nowNamed(row: unknown, names: Names, renamed: Renamed): unknown {
  if (Object.keys(renamed).length === 0) return row;
  const known = new Set(Object.values(names).flat());
  const now = (text: string) =>
    text.replace(/[A-Za-z_]\w*/g, (word) => (known.has(word) || !Object.hasOwn(renamed, word) ? word : renamed[word]));
  const walk = (value: unknown): unknown => {
    if (typeof value === 'string') return now(value);
    if (Array.isArray(value)) return value.map(walk);
    if (!isPlain(value)) return value;
    return Object.fromEntries(
      Object.entries(value).map(([key, item]) => (key === 'of' ? [key, item] : [now(key), walk(item)])),
    );
  };
  return walk(row);
}

function namesOf(
  players: Players,
  row: unknown,
  path: (string | number)[],
  sink: Sink,
): { names: Names; rate: number; renamed: Renamed } {
  const of = isPlain(row) ? row.of : undefined;
  const plan: Plan | undefined = planOf(players, of);
  if (!plan && typeof of === 'string')
    sink.add('unknown-name', [...path, 'of'], {
      value: of,
      what: 'member',
      known: [players.plan.name, ...players.others.keys(), ...Object.keys(players.summons)],
    });
  return plan ?? players.plan;
}
