import type { Plan } from '../../compile/plan.js';
import { LONGEST_SECONDS, parseTime } from '../../moveset/time.js';
import { indexOfName, UsageError } from '../../report/usage-error.js';

/** A value of a message as code gives it; a time as `0.2s`, `12f`, or in seconds. */
export type MessageInput = number | string | readonly [x: number, y: number, z?: number];

/** The values of an event as the record keeps them. Throws a UsageError for what is none of them, and changes nothing. */
export function readValues(
  plan: Plan,
  event: string,
  given: Readonly<Record<string, MessageInput | undefined>>,
): number[] {
  const { values, size } = plan.messages[plan.names.event.indexOf(event)];
  const numbers: number[] = new Array(size).fill(0);
  const known = values.map(({ name }) => name);
  for (const name of Object.keys(given)) indexOfName('event', 'value', name, known, plan.code);
  for (const { name, type, words, at } of values) {
    const value = given[name];
    if (type === 'word')
      numbers[at] = value === undefined ? -1 : indexOfName('event', 'word', String(value), words, plan.code);
    if (type === 'word' || value === undefined) continue;
    const ticks = type === 'time' && typeof value === 'string' ? parseTime(value, plan.rate) : undefined;
    const parts = Array.isArray(value) ? value : [ticks === undefined ? value : ticks / plan.rate];
    const vector = type === 'point' || type === 'direction';
    const fits = vector ? Array.isArray(value) && value.length >= 2 && value.length <= 3 : !Array.isArray(value);
    if (!fits || !parts.every((part) => typeof part === 'number' && Number.isFinite(part)))
      throw new UsageError(
        `event: ${name} of ${event} must be ${vector ? 'a list [x, y] or [x, y, z]' : type === 'time' ? 'a time like 0.2s or 12f, or a number of seconds' : 'a number'}, not ${JSON.stringify(value)}.`,
        'wrong-type',
      );
    parts.forEach((part, i) => {
      numbers[at + i] =
        type === 'time'
          ? Math.round(Math.min(Math.max(0, part as number), LONGEST_SECONDS) * plan.rate)
          : (part as number);
    });
  }
  return numbers;
}
