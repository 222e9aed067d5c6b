import type { MovesetChanges, TimingChange } from '../analysis/changes.js';
import { markdownTable, markdownText } from './markdown.js';

/** A change in a line: `12 -> 16 (+4)`. */
export function changeText({ before, after }: Pick<TimingChange, 'before' | 'after'>): string {
  const more = typeof before === 'number' && typeof after === 'number' ? after - before : undefined;
  const difference = more === undefined ? '' : ` (${more > 0 ? '+' : ''}${short(more)})`;
  return `${short(before)} -> ${short(after)}${difference}`;
}

function short(value: unknown): string {
  if (typeof value === 'number') return String(Math.round(value * 1000) / 1000);
  return value === null ? 'none' : String(value);
}

/** The same of any value. */
export function valueText(before: unknown, after: unknown): string {
  const plain = (value: unknown) =>
    typeof value === 'number' || typeof value === 'string' ? value : value === null ? null : String(value);
  return changeText({ before: plain(before), after: plain(after) });
}

/** What changed, as Markdown for a pull request. */
export function changesMarkdown(moveset: string, { added, removed, timing, legal, values }: MovesetChanges): string {
  const table = (heads: readonly string[], rows: readonly (readonly string[])[]) =>
    rows.length === 0 ? [] : [...markdownTable(heads, rows), ''];
  const lines = [
    `### ${markdownText(moveset)}: what changed`,
    '',
    ...(added.length > 0 ? [`New: ${added.join(', ')}`, ''] : []),
    ...(removed.length > 0 ? [`Gone: ${removed.join(', ')}`, ''] : []),
    ...table(
      ['ability', 'what', 'change'],
      timing.map((one) => [one.ability, one.what, changeText(one)]),
    ),
    ...table(
      ['while', 'may follow', 'before', 'after'],
      legal.map(({ moment, into, before, after }) => [moment, into, mayText(before), mayText(after)]),
    ),
    ...table(
      ['value', 'change'],
      values.map(({ path, before, after }) => [path, valueText(before, after)]),
    ),
  ];
  return lines.length === 2 ? `${lines[0]}\n\nNothing.\n` : `${lines.join('\n').trimEnd()}\n`;
}

/** Whether something may follow, in words. */
export function mayText(cell: { readonly may: 'yes' | 'if' | 'no' } | null): string {
  return cell === null ? 'none' : { yes: 'may', if: 'may on conditions', no: 'may not' }[cell.may];
}
