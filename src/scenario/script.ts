import type { Character } from '../character/character.js';
import type { MessageInput } from '../tick/presses/values.js';

type Row = Record<string, any>;

/** What to do to the door of whom. */
export interface Action {
  /** Name of the member; undefined for the first. */
  readonly of: string | undefined;
  run(c: Character): void;
}

/** Scripted inputs as actions by tick: what to do before which tick. */
export function writeScript(inputs: readonly Row[]): Map<number, Action[]> {
  const script = new Map<number, Action[]>();
  for (const row of inputs) {
    const add = (tick: number, run: (c: Character) => void) => {
      const actions = script.get(tick);
      const action = { of: row.of, run };
      if (actions) actions.push(action);
      else script.set(tick, [action]);
    };
    const { at } = row;
    for (const input of row.press ?? []) add(at, (c) => c.door.press(input));
    for (const input of row.release ?? []) add(at, (c) => c.door.release(input));
    for (const input of [...(row.tap ?? []), ...(row.hold ?? [])]) {
      add(at, (c) => c.door.press(input));
      const length = row.tap ? 1 : row.for;
      if (length) add(at + length, (c) => c.door.release(input));
    }
    if (row.mash) {
      const { mash, every = 6, times = 5 } = row;
      for (let i = 0; i < times; i++) {
        add(at + i * every, (c) => c.door.press(mash));
        add(at + i * every + Math.floor(every / 2), (c) => c.door.release(mash));
      }
    }
    for (const [stick, [x, y]] of Object.entries((row.stick ?? {}) as Record<string, number[]>))
      add(at, (c) => c.door.stick(stick, x, y));
    for (const [aim, [x, y, z]] of Object.entries((row.aim ?? {}) as Record<string, number[]>))
      add(at, (c) => c.door.aim(aim, x, y, z));
    for (const [aim, [x, y, z]] of Object.entries((row.aimAt ?? {}) as Record<string, number[]>))
      add(at, (c) => c.door.aimAt(aim, x, y, z));
    for (const [mark, [x, y, z]] of Object.entries((row.mark ?? {}) as Record<string, number[]>))
      add(at, (c) => c.door.mark(mark, x, y, z));
    if (row.camera) add(at, (c) => c.door.camera(row.camera[0], row.camera[1]));
    if (row.face) add(at, (c) => c.door.face(row.face[0], row.face[1]));
    if (row.teleport) add(at, (c) => c.door.place(row.teleport[0], row.teleport[1], row.teleport[2] ?? 0));
    for (const [pool, value] of Object.entries((row.pool ?? {}) as Record<string, number>))
      add(at, (c) => c.door.pool(pool, value));
    for (const ability of row.learn ?? []) add(at, (c) => c.door.learn(ability));
    for (const ability of row.forget ?? []) add(at, (c) => c.door.forget(ability));
    if (row.loadout) add(at, (c) => c.door.loadout(row.loadout));
    if (row.reset) add(at, (c) => c.door.reset(row.reset));
    if (row.end) add(at, (c) => c.door.end(row.end));
    for (const [event, values] of eventsOf(row.event)) add(at, (c) => c.door.event(event, values));
    if (row.request) add(at, (c) => c.door.request(row.request));
    if (row.velocity) add(at, (c) => c.door.velocity(row.velocity[0], row.velocity[1], row.velocity[2] ?? 0));
    if (row.freeze) add(at, (c) => c.door.freeze(row.freeze));
  }
  return script;
}

/** An event by its name, or events with their values. */
export function eventsOf(event: undefined | string | Row): [string, Record<string, MessageInput> | undefined][] {
  if (event === undefined) return [];
  if (typeof event === 'string') return [[event, undefined]];
  return Object.entries(event).map(([name, given]) => [
    name,
    Object.fromEntries(
      Object.entries((given ?? {}) as Row).map(([key, value]) => [key, Array.isArray(value) ? value : value?.source]),
    ),
  ]);
}
