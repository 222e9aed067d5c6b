import { TileWorld } from 'loggia';

const ROWS = [
  '#                                                       #',
  '#                                                       #',
  '#                                                       #',
  '#                        ########                       #',
  '#                                                       #',
  '#                                                       #',
  '#                           R                           #',
  '#                           R                           #',
  '#                           R       ####                #',
  '#                           R      H####                #',
  '#                     ###   R      H####        T       #',
  '#                     ###   R ---  H####     ############',
  '#                     ###   R      H####     ############',
  '#                     ###   R      H####                #',
  '#                /#######-- R      H####                #',
  '#       #####   /########   R      H####                #',
  '#S @ P         /#########   R      H####             P  #',
  '#########################################    ############',
  '#########################################    ############',
];

/** Mast Row: a boom to slide under, ledges, a rough mast, planks, a ladder, a beam to swing from, hulks adrift, bulkheads. */
export const yard = new TileWorld(ROWS, {
  legend: {
    R: { tags: ['rough'] },
    H: { solid: false, tags: ['rungs'] },
    P: { solid: false, tags: ['post'] },
    '/': { slope: [0, 1] },
  },
  places: { slip: 'S', mastTop: 'T' },
  blocks: [
    // A hulk that drifts across the gap, and one that rises and sinks beside it.
    {
      from: [41.1, 1.2],
      to: [42.7, 1.9],
      tags: ['hulk'],
      path: {
        points: [
          { at: 0, to: [0, 0] },
          { at: 2.5, to: [2.1, 0] },
        ],
        after: 'back',
      },
    },
    {
      from: [43.2, 4],
      to: [44.8, 4.6],
      tags: ['hulk'],
      path: {
        points: [
          { at: 0, to: [0, 0] },
          { at: 3, to: [0, 3.5] },
        ],
        after: 'back',
      },
    },
    // Bulkheads: two thin ones that a blink passes, and a thick one that it does not.
    { from: [47, 2], to: [47.4, 6] },
    { from: [49, 2], to: [49.4, 6] },
    { from: [51, 2], to: [52.2, 6] },
  ],
  edges: { sides: 'wall', bottom: 'fall' },
});
