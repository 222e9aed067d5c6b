import type { Plan } from '../compile/plan.js';
import type { Path, Sink } from '../report/diagnostic.js';
import { readValues } from '../tick/presses/values.js';
import type { SolidWorld } from '../world/solid-world.js';
import { canTurn } from './make-world.js';
import { type Players, planOf } from './players.js';
import { eventsOf } from './script.js';
import type { Scenario } from './shape.js';

/** How many presses and the like one scenario may script. */
const MOST_ACTIONS = 100_000;

/** Letters of the world that mean nothing, and surface tags that no probe asks for. */
export function checkWorld(
  players: Players,
  { world, start, others = {} }: Scenario,
  tiles: SolidWorld,
  sink: Sink,
): void {
  const meant = new Set(['@', '#', '-', '.', ' ', typeof start?.at === 'string' ? start.at : '@']);
  for (const other of Object.values(others)) if (typeof other.at === 'string') meant.add(other.at);
  const plans = [players.plan, ...players.others.values()];
  const namesOf = (kind: 'surface' | 'place') => [...new Set(plans.flatMap((plan) => plan.names[kind]))];
  for (const place of Object.values(world.places ?? {})) if (typeof place === 'string') meant.add(place);
  for (const { letter } of Object.values(world.legend ?? {})) meant.add(letter);
  const asked = namesOf('surface');
  for (const [name, tile] of Object.entries(world.legend ?? {}))
    tile.tags?.forEach((tag, i) => {
      const path = ['world', 'legend', name, 'tags', i];
      if (!asked.includes(tag)) sink.add('unknown-surface', path, { tag, known: asked }, { severity: 'warning' });
    });
  world.blocks?.forEach((block, i) => {
    block.path?.points.forEach(({ turn }, k) => {
      const path = ['world', 'blocks', i, 'path', 'points', k, 'turn'];
      const why = 'only a box by "at" and "size", without a "turn" of its own, turns on its way';
      if (turn && !canTurn(block)) sink.add('pointless-key', path, { key: 'turn', why });
    });
    block.tags?.forEach((tag, k) => {
      const path = ['world', 'blocks', i, 'tags', k];
      if (!asked.includes(tag)) sink.add('unknown-surface', path, { tag, known: asked }, { severity: 'warning' });
    });
  });
  for (const name of Object.keys(world.places ?? {}))
    if (!namesOf('place').includes(name))
      sink.add(
        'unknown-name',
        ['world', 'places', name],
        { value: name, what: 'place', known: namesOf('place') },
        { on: 'key' },
      );
  const strange = new Set<string>();
  world.rows?.forEach((row, i) => {
    for (const letter of row) {
      if (meant.has(letter) || strange.has(letter) || !tiles.find(letter)) continue;
      strange.add(letter);
      sink.add('unknown-letter', ['world', 'rows', i], { letter, known: [...meant] });
    }
  });
}

/** Keys that belong to another one. */
const OWNED = [
  ['for', 'hold'],
  ['every', 'mash'],
  ['times', 'mash'],
] as const;

/** Inputs that do nothing: after the end, pressed while held, or with a key that belongs to another one. */
export function checkScript(players: Players, { inputs = [], run }: Scenario, sink: Sink): void {
  let actions = 0;
  const presses: { tick: number; down: boolean; input: string; of: string; path: Path }[] = [];
  inputs.forEach((row, i) => {
    const path = ['inputs', i];
    if (row.at >= run)
      sink.add('out-of-range', [...path, 'at'], {
        value: `${row.at}f`,
        min: '0f',
        max: `${run - 1}f, the last tick of the run`,
      });
    for (const [key, owner] of OWNED)
      if (row[key] !== undefined && row[owner] === undefined)
        sink.add('pointless-key', [...path, key], { key, why: `it belongs to "${owner}"` });
    actions += row.mash ? (row.times ?? 5) : 1;
    for (const [event, values] of eventsOf(row.event))
      checkValues(planOf(players, row.of) ?? players.plan, event, values, [...path, 'event'], sink);
    const press = (input: string, key: string, length?: number) => {
      presses.push({ tick: row.at, down: true, input, of: row.of ?? '', path: [...path, key] });
      if (length !== undefined)
        presses.push({ tick: row.at + length, down: false, input, of: row.of ?? '', path: [...path, key] });
    };
    for (const input of row.press ?? []) press(input, 'press');
    for (const input of row.tap ?? []) press(input, 'tap', 1);
    for (const input of row.hold ?? []) press(input, 'hold', row.for);
    for (const input of row.release ?? [])
      presses.push({ tick: row.at, down: false, input, of: row.of ?? '', path: [...path, 'release'] });
  });
  if (actions > MOST_ACTIONS) sink.add('wrong-count', ['inputs'], { count: actions, min: 0, max: MOST_ACTIONS });
  const since = new Map<string, number>();
  for (const { tick, down, input, of, path } of presses.sort((a, b) => a.tick - b.tick)) {
    const key = `${of} ${input}`;
    const held = since.get(key);
    if (down && held !== undefined) sink.add('pressed-twice', path, { input, since: `${held}f` });
    if (down) since.set(key, tick);
    else since.delete(key);
  }
}

/** Values that the event does not have, or that are none. */
function checkValues(
  plan: Plan,
  event: string,
  values: Parameters<typeof readValues>[2] | undefined,
  path: Path,
  sink: Sink,
) {
  if (values === undefined || !plan.names.event.includes(event)) return;
  // In a file, a time is written as everywhere.
  for (const { name, type } of plan.messages[plan.names.event.indexOf(event)].values)
    if (type === 'time' && typeof values[name] === 'number')
      sink.add('wrong-values', [...path, event, name], {
        why: `${name} of ${event} must be a time like 0.2s or 12f, not ${values[name]}.`,
      });
  try {
    readValues(plan, event, values);
  } catch (error) {
    sink.add('wrong-values', [...path, event], { why: (error as Error).message.replace(/^event: /, '') });
  }
}
