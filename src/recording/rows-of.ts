import type { Run } from './run.js';
import { TOLD } from './source.js';

/** What came in through the doors of each in a tick, in its order. */
export function rowsOf(run: Run, tick: number): { readonly id: number; readonly rows: number[][] }[] {
  const page = run.frames.pageOf(tick);
  const index = tick - page.first;
  const found = new Map<number, number[][]>();
  const { told, toldEnds } = page;
  for (let at = index === 0 ? 0 : toldEnds[index - 1]; at < toldEnds[index]; at += 2 + told[at + 1]) {
    if (told[at] !== TOLD.rows) continue;
    for (let row = at + 2; row < at + 2 + told[at + 1]; row += 6) {
      const list = found.get(told[row]) ?? [];
      found.set(told[row], list);
      list.push(Array.from(told.subarray(row + 1, row + 6)));
    }
  }
  return [...found].map(([id, rows]) => ({ id, rows }));
}
