import type { Character } from '../character/character.js';
import type { MessageInput } from '../tick/presses/values.js';
import type { Input } from './shape.js';

/** What to do to the door of whom. */
export interface Action {
  /** Name of the member; undefined for the first. */
  readonly of: string | undefined;
  run(c: Character): void;
}

/** Scripted inputs as actions by tick: what to do before which tick. */
export function writeScript(inputs: readonly Input[]): Map<number, Action[]> {
  const script = new Map<number, Action[]>();
  for (const row of inputs) {
    const add = (tick: number, run: (c: Character) => void) => {
      const actions = script.get(tick);
      const action = { of: row.of, run };
      if (actions) actions.push(action);
      else script.set(tick, [action]);
    };
    const { at, camera, face, teleport, loadout, reset, end, request, velocity, freeze } = row;
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
    for (const [stick, [x, y]] of Object.entries(row.stick ?? {})) add(at, (c) => c.door.stick(stick, x, y));
    for (const [aim, [x, y, z]] of Object.entries(row.aim ?? {})) add(at, (c) => c.door.aim(aim, x, y, z));
    for (const [aim, [x, y, z]] of Object.entries(row.aimAt ?? {})) add(at, (c) => c.door.aimAt(aim, x, y, z));
    for (const [mark, [x, y, z]] of Object.entries(row.mark ?? {})) add(at, (c) => c.door.mark(mark, x, y, z));
    if (camera) add(at, (c) => c.door.camera(camera[0], camera[1]));
    if (face) add(at, (c) => c.door.face(face[0], face[1]));
    if (teleport) add(at, (c) => c.door.place(teleport[0], teleport[1], teleport[2] ?? 0));
    for (const [pool, value] of Object.entries(row.pool ?? {})) add(at, (c) => c.door.pool(pool, value));
    for (const ability of row.learn ?? []) add(at, (c) => c.door.learn(ability));
    for (const ability of row.forget ?? []) add(at, (c) => c.door.forget(ability));
    if (loadout) add(at, (c) => c.door.loadout(loadout));
    if (reset) add(at, (c) => c.door.reset(reset));
    if (end) add(at, (c) => c.door.end(end));
    for (const [event, values] of eventsOf(row.event)) add(at, (c) => c.door.event(event, values));
    if (request) add(at, (c) => c.door.request(request));
    if (velocity) add(at, (c) => c.door.velocity(velocity[0], velocity[1], velocity[2] ?? 0));
    if (freeze) add(at, (c) => c.door.freeze(freeze));
  }
  return script;
}

/** An event by its name, or events with their values. */
export function eventsOf(event: Input['event']): [string, Record<string, MessageInput> | undefined][] {
  if (event === undefined) return [];
  if (typeof event === 'string') return [[event, undefined]];
  return Object.entries(event).map(([name, given]) => [
    name,
    Object.fromEntries(
      Object.entries(given).map(([key, value]) => [key, (Array.isArray(value) ? value : value.source) as MessageInput]),
    ),
  ]);
}
