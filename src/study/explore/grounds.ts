import type { Plan } from '../../compile/plan.js';
import type { Parsed } from '../../moveset/read.js';

/**
 * A world with one of everything, as a scenario says it: a floor with a slope, a step, a gap with a floor below, walls with a ledge, a low
 * ceiling, a platform that one drops through, and an area; whatever a probe asks for is there.
 */
export function groundsFor({ view, names }: Plan): Parsed {
  const tags = [...names.surface];
  if (view === 'open')
    return {
      blocks: [
        { from: [-30, -2, -30], to: [30, 0, 30], ...tagged(tags) },
        { from: [6, 0, -30], to: [10, 4, 30], ...tagged(tags) },
        { from: [-30, 0, 6], to: [30, 1, 10], ...tagged(tags) },
        { from: [-8, 1.2, -10], to: [-4, 2, -4], ...tagged(tags) },
      ],
      ...placed(names.place, [0, 0, 0]),
    };
  return {
    rows: [
      '#......................................#',
      '#......................................#',
      '#......................................#',
      '#.........................#####........#',
      '#.........................#............#',
      '#........----.............#............#',
      '#.........................#......~~~...#',
      '#..................####...#......~~~...#',
      '#.....@.......................#..~~~...#',
      '########################....############',
      '#......................................#',
      '########################################',
    ].map((row) => (tags.length > 0 ? row : row.replaceAll('~', '.'))),
    ...(tags.length > 0 && {
      legend: { wall: { letter: '#', tags }, area: { letter: '~', solid: false, tags } },
    }),
    edges: { sides: 'wall', top: 'wall', bottom: 'wall' },
    ...placed(names.place, '@'),
  };
}

function tagged(tags: readonly string[]): Parsed {
  return tags.length > 0 ? { tags } : {};
}

function placed(places: readonly string[], at: string | number[]): Parsed {
  return places.length > 0 ? { places: Object.fromEntries(places.map((place) => [place, at])) } : {};
}
