import type { Random } from './random.js';

type Plain = Record<string | number, unknown>;

const ODD: readonly unknown[] = [
  ...[null, true, false, 0, -1, 1, 0.5, 3, 1e9, -1e9, '', 'x', 'KeyQ', 'grounded', '3', '50%', '150%', '0f', '12f'],
  ...['0.2s', '9999s', '3 hours', 'up', [], {}, [[]], [{}], { a: 1 }, ['x', 'x'], { loggia: 1 }, ' 12f ', '1.5f'],
];

/** Changes one value, key or entry somewhere in plain data. */
export function spoil(random: Random, data: Plain): void {
  const places: [owner: Plain, key: string | number][] = [];
  const collect = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    for (const key of Array.isArray(value) ? value.keys() : Object.keys(value)) {
      places.push([value as Plain, key]);
      collect((value as Plain)[key]);
    }
  };
  collect(data);
  const [owner, key] = random.pick(places);
  switch (random.whole(0, 4)) {
    case 0:
      if (Array.isArray(owner)) owner.splice(Number(key), 1);
      else delete owner[key];
      break;
    case 1:
      owner[`${key}x`] = owner[key];
      break;
    case 2:
      owner[key] = [owner[key]];
      break;
    default:
      owner[key] = structuredClone(random.pick(ODD));
  }
}
