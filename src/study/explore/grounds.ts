import type { Plan } from '../../compile/plan.js';

/**
 * A world with one of everything, as a scenario says it: a floor with a slope, a step, a gap with a floor below, walls with a ledge, a low
 * ceiling, a platform that one drops through, and an area; whatever a probe asks for is there. It is closed on all sides.
 */
export function groundsFor({ view, names }: Plan): Record<string, unknown> {
  const tags = [...names.surface];
  if (view === 'open')
    return {
      blocks: [
        { from: [-10, -6, -30], to: [30, 0, 30], ...tagged(tags) },
        { from: [-14, -6, -30], to: [-10, -4, 30], ...tagged(tags) },
        { from: [-30, -6, -30], to: [-14, 0, 30], ...tagged(tags) },
        { from: [6, 0, -30], to: [10, 4, 30], ...tagged(tags) },
        { from: [-30, 0, 6], to: [30, 1, 10], ...tagged(tags) },
        { from: [-8, 1.2, -10], to: [-4, 2, -4], ...tagged(tags) },
        // Nobody falls off its edges.
        { from: [-32, -6, -32], to: [-30, 60, 32] },
        { from: [30, -6, -32], to: [32, 60, 32] },
        { from: [-30, -6, -32], to: [30, 60, -30] },
        { from: [-30, -6, 30], to: [30, 60, 32] },
        { from: [-32, 60, -32], to: [32, 62, 32] },
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

function tagged(tags: readonly string[]): Record<string, unknown> {
  return tags.length > 0 ? { tags } : {};
}

function placed(places: readonly string[], at: string | number[]): Record<string, unknown> {
  return places.length > 0 ? { places: Object.fromEntries(places.map((place) => [place, at])) } : {};
}
