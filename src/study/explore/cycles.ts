import type { Way } from './search.js';

/** Ways by the state that they begin in. */
export function waysFrom(ways: readonly Way[]): Map<number, Way[]> {
  const from = new Map<number, Way[]>();
  for (const way of ways) {
    const list = from.get(way.from);
    if (list) list.push(way);
    else from.set(way.from, [way]);
  }
  return from;
}

/** So many circles through starts of one ability. */
const EACH = 100;

/** Circles through certain ways, some through the starts of each ability: the shortest, as the ways from its begin to where it comes back. */
export function* circlesThrough(
  from: ReadonlyMap<number, readonly Way[]>,
  is: (way: Way) => boolean,
): Generator<Way[]> {
  const counts = new Map<number, number>();
  const component = componentsOf(from);
  for (const list of from.values())
    for (const way of list) {
      const count = counts.get(way.started) ?? 0;
      if (!is(way) || count >= EACH) continue;
      const isRound = way.to === way.from;
      if (!isRound && (!component.has(way.to) || component.get(way.to) !== component.get(way.from))) continue;
      counts.set(way.started, count + 1);
      if (isRound) yield [way];
      else {
        const back = shortest(from, component, way.to, way.from);
        if (back) yield [way, ...back];
      }
    }
}

function shortest(
  from: ReadonlyMap<number, readonly Way[]>,
  component: ReadonlyMap<number, number>,
  start: number,
  end: number,
): Way[] | undefined {
  const came = new Map<number, Way>();
  const queue = [start];
  for (const at of queue)
    for (const way of from.get(at) ?? []) {
      if (component.get(way.to) !== component.get(start) || came.has(way.to) || way.to === start) continue;
      came.set(way.to, way);
      if (way.to !== end) {
        queue.push(way.to);
        continue;
      }
      const back: Way[] = [];
      for (let state = end; state !== start; ) {
        const step = came.get(state) as Way;
        back.push(step);
        state = step.from;
      }
      return back.reverse();
    }
  return undefined;
}

/** By state: the number of the strongly connected component that it is in (Tarjan's algorithm, without recursion). */
function componentsOf(from: ReadonlyMap<number, readonly Way[]>): Map<number, number> {
  const order = new Map<number, number>();
  const low = new Map<number, number>();
  const component = new Map<number, number>();
  const stack: number[] = [];
  let next = 0;
  let found = 0;
  for (const root of from.keys()) {
    if (order.has(root)) continue;
    const calls: { state: number; at: number }[] = [{ state: root, at: 0 }];
    while (calls.length > 0) {
      const call = calls[calls.length - 1];
      const { state } = call;
      if (call.at === 0) {
        order.set(state, next);
        low.set(state, next++);
        stack.push(state);
      }
      const ways = from.get(state) ?? [];
      let deeper = false;
      while (call.at < ways.length) {
        const { to } = ways[call.at++];
        if (!order.has(to)) {
          calls.push({ state: to, at: 0 });
          deeper = true;
          break;
        }
        if (!component.has(to)) low.set(state, Math.min(low.get(state) as number, order.get(to) as number));
      }
      if (deeper) continue;
      if (low.get(state) === order.get(state)) {
        for (;;) {
          const member = stack.pop() as number;
          component.set(member, found);
          if (member === state) break;
        }
        found++;
      }
      calls.pop();
      const above = calls.at(-1);
      if (above) low.set(above.state, Math.min(low.get(above.state) as number, low.get(state) as number));
    }
  }
  return component;
}
