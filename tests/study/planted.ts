import type { FindingKind } from '../../src/study/index.js';

/** A moveset with one fault, and the same without it. */
export interface Planted {
  readonly kind: FindingKind;
  /** What the finding is about. */
  readonly name: string;
  readonly faulty: string;
  readonly mended: string;
  /** Somebody stands before it. */
  readonly duel?: boolean;
}

const HEAD = `loggia: 1
name: Pell
pools: { wind: { max: 20, regen: 5 } }
inputs:
  move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }
  jump: { button: Space }
  gale: { button: KeyF }
  gaff: { button: KeyJ }
  brace: { button: KeyB }
`;
const STANCES = `stances:
  stand: { when: grounded, tags: floor }
  rise: { when: vy > 0, tags: air }
  fall: { tags: air }
`;
const HOP = `  hop: { start: { press: jump }, from: floor, phases: [{ for: 1f, move: { up: 9 } }] }
`;
const moveset = (abilities: string, { head = '', stances = STANCES } = {}) =>
  `${HEAD}${head}${stances}abilities:\n${HOP}${abilities}`;

/** One fault: what is written, and what should be written instead. */
function planted(kind: FindingKind, name: string, text: string, wrong: string, right: string, duel = false): Planted {
  if (!text.includes(wrong)) throw new Error(`${wrong} is not in the moveset of ${name}`);
  return { kind, name, faulty: text, mended: text.replace(wrong, right), ...(duel && { duel }) };
}

const JAB = '  jab: { start: { press: gaff }, from: floor, phases: [{ for: 5f }, { for: 9f }] }\n';

const FIGHT = `hurt: { pool: grit }
kinds: [blunt]
events: { struck: {} }
tags: rigger
`;
/** Somebody who flinches as long as a blow says, and may strike back. */
export const DUMMY = `loggia: 1
name: Dummy
pools: { grit: { max: 1000 } }
inputs: { gaff: { button: KeyJ } }
hurt: { pool: grit }
events: { struck: {} }
stances: { stand: {} }
abilities:
  flinch: { start: { event: struck }, breaks: [all, flinch], bars: all, end: timeIn(flinch) >= struck.stun }
  swat: { start: { press: gaff }, phases: [{ for: 6f, move: { forward: -20 } }, { for: 9f }] }
`;
const fight = (abilities: string) =>
  moveset(abilities, { head: FIGHT.replace('hurt:', 'lanes: [body]\nhurt:') }).replace(
    'wind: { max: 20, regen: 5 }',
    'wind: { max: 20, regen: 5 }, grit: { max: 40 }',
  );

export const PLANTED: readonly Planted[] = [
  // Abilities that can never start.
  planted(
    'never-starts',
    'dive',
    moveset('  dive: { start: { press: gale }, when: vy < -30, phases: [{ for: 9f }] }\n'),
    'vy < -30',
    'vy < -3',
  ),
  planted(
    'never-starts',
    'dive',
    moveset('  dive: { start: { press: gale }, from: plunge, phases: [{ for: 9f }] }\n', {
      stances: STANCES.replace('  rise:', '  plunge: { when: vy < -40 }\n  rise:'),
    }).replace('vy < -40', 'vy < -40 and airborne'),
    'vy < -40',
    'vy < -4',
  ),
  planted(
    'never-starts',
    'sweep',
    moveset(
      `${JAB}  sweep: { start: { press: gale }, follows: lunge, phases: [{ for: 9f }] }\n  lunge: { start: { press: brace }, from: floor, phases: [{ for: 9f }, { for: 9f, open: jab }] }\n`,
    ),
    'open: jab }',
    'open: [jab, sweep] }',
  ),
  planted(
    'never-starts',
    'perch',
    moveset('  perch: { start: { rule: y > 40 }, end: grounded }\n'),
    'y > 40',
    'y > 4.2',
  ),
  planted(
    'never-starts',
    'flare',
    moveset(
      '  flare: { start: { press: gale }, from: floor, when: pool.heat >= 5, gain: { heat: 6 }, phases: [{ for: 9f }] }\n',
    ).replace('pools: {', 'pools: { heat: { max: 9, start: 0, regen: 0 }, '),
    'regen: 0 }',
    'regen: 3 }',
  ),
  planted(
    'never-starts',
    'lunge',
    moveset('  lunge: { start: { press: gaff }, from: floor, when: abs(vx) > 9, phases: [{ for: 9f }] }\n'),
    'abs(vx) > 9',
    'abs(vx) > 3',
  ),
  planted(
    'never-starts',
    'counter',
    moveset(
      '  counter: { start: { press: gaff }, when: running(hold), phases: [{ for: 9f }] }\n  hold: { start: { hold: brace }, from: floor }\n',
    ),
    '  hold: { start: { hold: brace }, from: floor }',
    '  hold: { start: { hold: brace }, from: floor, open: counter }',
  ),
  planted(
    'never-starts',
    'double',
    moveset(
      '  double: { start: { press: jump }, from: air, when: air.time > 4s, charges: { max: 1, refill: grounded }, phases: [{ for: 1f, move: { up: 8 } }] }\n',
    ),
    'air.time > 4s',
    'air.time > 0.1s',
  ),

  // Stances that never hold.
  planted(
    'never-reached',
    'soar',
    moveset(JAB, { stances: STANCES.replace('  rise:', '  soar: { when: vy > 14 }\n  rise:') }),
    'vy > 14',
    'vy > 7',
  ),
  planted(
    'never-reached',
    'spent',
    moveset(
      '  dash: { start: { press: gale }, from: floor, when: pool.wind > 12, cost: { wind: 8 }, phases: [{ for: 6f }] }\n',
      {
        stances: STANCES.replace('  stand:', '  spent: { when: grounded and pool.wind < 1 }\n  stand:'),
      },
    ).replace('spent: { when: grounded', 'spent: { tags: floor, when: grounded'),
    'pool.wind > 12',
    'pool.wind > 2',
  ),
  planted(
    'never-reached',
    'wade',
    moveset(JAB, {
      stances: STANCES.replace('  stand:', '  wade: { tags: floor, when: grounded and vy > 2 }\n  stand:'),
    }),
    'vy > 2',
    'abs(vx) > 2',
  ),

  // States from which nothing leads back.
  planted(
    'soft-lock',
    'crouch',
    moveset('  crouch: { start: { press: brace }, from: floor, end: vy > 60 }\n'),
    'vy > 60',
    'timeIn(crouch) > 0.2s',
  ),
  planted(
    'soft-lock',
    'rest',
    moveset('  rest: { start: { press: brace }, from: floor, bars: all, phases: [{ until: pool.wind >= 25 }] }\n'),
    'pool.wind >= 25',
    'pool.wind >= 15',
  ),
  planted(
    'soft-lock',
    'drowned',
    moveset(
      '  sink: { start: { press: brace }, from: floor, phases: [{ for: 5f, mark: { post: feet } }] }\n  surface: { start: { press: gale }, when: vy > 50, phases: [{ for: 5f, mark: { post: none } }] }\n',
      {
        head: 'marks: { post: {} }\n',
        stances: STANCES.replace('  stand:', '  drowned: { when: known(post) }\n  stand:'),
      },
    ),
    'when: vy > 50, ',
    '',
  ),
  planted(
    'soft-lock',
    'faint',
    moveset(
      '  faint: { start: { rule: pool.wind < 4, once: true }, breaks: all, bars: all, end: pool.wind > 21 }\n  dash: { start: { press: gale }, from: floor, cost: { wind: 9 }, phases: [{ for: 6f }] }\n',
    ),
    'pool.wind > 21',
    'pool.wind > 9',
  ),
  planted(
    'soft-lock',
    'pace',
    moveset('  pace: { start: { press: gaff }, from: floor, end: running(hop) }\n'),
    'from: floor, end',
    'from: floor, open: hop, end',
  ),
  planted(
    'soft-lock',
    'hang',
    moveset(
      '  hang: { start: { press: brace }, from: air, gravity: 0, steer: 0, move: { up: 0, keep: 0 }, end: grounded }\n',
    )
      .replace('move: { up: 0, keep: 0 }, ', '')
      .replace('gravity: 0, steer: 0', 'gravity: 0, steer: 0, fall: 0'),
    'end: grounded',
    'end: timeIn(hang) > 0.5s',
  ),
  planted(
    'soft-lock',
    'brood',
    moveset('  brood: { lane: mind, start: { press: gale }, phases: [{ until: pool.oil < 1 }] }\n', {
      head: 'lanes: [body, mind]\n',
    }).replace('pools: {', 'pools: { oil: { max: 9, regen: 1 }, '),
    'until: pool.oil < 1',
    'until: pool.oil > 1',
  ),
  planted(
    'soft-lock',
    'coil',
    moveset(
      '  coil: { start: { press: gaff }, from: floor, walk: { speed: 0 }, bars: all, phases: [{ for: 9f }, { until: abs(vx) > 2 }] }\n',
    ),
    'until: abs(vx) > 2',
    'until: abs(vx) < 2',
  ),

  // Chains that keep it in the air.
  planted(
    'endless-in-the-air',
    'kick',
    moveset('  kick: { start: { press: gaff }, from: air, phases: [{ for: 10f, move: { up: 3 } }] }\n'),
    'from: air, phases',
    'from: air, charges: { max: 2, refill: grounded }, phases',
  ),
  planted(
    'endless-in-the-air',
    'double',
    moveset('  double: { start: { press: jump }, from: air, phases: [{ for: 1f, move: { up: 9 } }] }\n'),
    'from: air,',
    'from: air, charges: { max: 1, refill: grounded },',
  ),
  planted(
    'endless-in-the-air',
    'dash',
    moveset(
      '  dash: { start: { press: gale }, from: air, charges: { max: 1, refill: running(dash) }, phases: [{ for: 12f, gravity: 0, move: { forward: 9, up: 0 } }] }\n',
    ),
    'refill: running(dash)',
    'refill: grounded',
  ),
  planted(
    'endless-in-the-air',
    'flap',
    moveset(
      '  flap: { start: { press: jump }, from: air, cost: { wind: 2 }, phases: [{ for: 6f, move: { up: 4 } }] }\n',
    ).replace('regen: 5', 'regen: 30'),
    'cost: { wind: 2 }',
    'cost: { wind: 2 }, charges: { max: 3, refill: grounded }',
  ),
  planted(
    'endless-in-the-air',
    'float',
    moveset(
      '  float: { start: { press: gale }, from: air, cooldown: { for: 0.1s, from: start }, phases: [{ for: 30f, gravity: 0, move: { up: 0.5 } }] }\n',
    ).replace('cooldown: { for: 0.1s, from: start }, ', 'charges: { max: 1, every: 0.3s }, '),
    'every: 0.3s',
    'refill: grounded',
  ),

  // Chains that pay for themselves.
  planted(
    'endless-at-no-cost',
    'spin',
    moveset(
      '  spin: { start: { press: gaff }, from: floor, cost: { wind: 3 }, gain: { wind: 4 }, open: spin, phases: [{ for: 9f }] }\n',
    ).replace('regen: 5', 'regen: 5, rest: 1s'),
    'gain: { wind: 4 }',
    'gain: { wind: 1 }',
  ),
  planted(
    'endless-at-no-cost',
    'wheel',
    moveset(
      '  wheel: { start: { press: gaff }, from: floor, cost: { wind: 2 }, phases: [{ for: 9f }, { for: 9f, open: wheel }] }\n',
    ).replace('regen: 5', 'regen: 12'),
    'regen: 12',
    'regen: 3, rest: 1s',
  ),

  // Invulnerability without a gap.
  planted(
    'always-immune',
    'duck',
    fight('  duck: { start: { hold: brace }, from: floor, immune: true }\n'),
    'hold: brace }, from: floor, immune: true',
    'hold: brace }, from: floor, immune: true, upkeep: { wind: 9 }',
  ),
  planted(
    'always-immune',
    'roll',
    fight('  roll: { start: { press: gale }, from: floor, phases: [{ for: 12f, immune: true, open: roll }] }\n'),
    'for: 12f, immune: true, open: roll }',
    'for: 12f, immune: true }, { for: 6f }',
  ),
  planted(
    'always-immune',
    // Both by turns, or the right one again and again.
    '(left|right)',
    fight(
      '  left: { start: { press: gale }, from: floor, immune: true, open: right, cooldown: { for: 0.3s, from: end }, phases: [{ for: 12f }] }\n  right: { start: { press: gaff }, from: floor, immune: true, open: left, phases: [{ for: 12f }] }\n',
    ),
    'from: floor, immune: true, open: left, phases: [{ for: 12f }]',
    'from: floor, phases: [{ for: 12f, immune: true }, { for: 6f }]',
  ),

  // Pools that nothing fills.
  planted(
    'only-falls',
    'oil',
    moveset('  flare: { start: { press: gale }, from: floor, cost: { oil: 2 }, phases: [{ for: 9f }] }\n').replace(
      'pools: {',
      'pools: { oil: { max: 9, regen: 0 }, ',
    ),
    'regen: 0',
    'regen: 1',
  ),
  planted(
    'only-falls',
    'oil',
    moveset(
      '  glow: { lane: hands, start: { hold: gale }, upkeep: { oil: 2 } }\n  trim: { start: { press: gaff }, from: floor, when: pool.oil > 9, gain: { oil: 4 }, phases: [{ for: 9f }] }\n',
      { head: 'lanes: [body, hands]\n' },
    ).replace('pools: {', 'pools: { oil: { max: 9 }, '),
    'when: pool.oil > 9',
    'when: pool.oil < 9',
  ),

  // Combos out of which nobody comes.
  planted(
    'endless-stun',
    'jab',
    fight(
      '  jab: { start: { press: gaff }, from: floor, phases: [{ for: 4f }, { for: 3f, strike: { box: [1.6, 1.6], at: [0.8, 0.8], damage: 1, stun: 20f } }, { for: 6f }] }\n',
    ),
    'stun: 20f',
    'stun: 5f',
    true,
  ),
  planted(
    'endless-stun',
    'sweep',
    fight(
      '  jab: { start: { press: gaff }, from: floor, phases: [{ for: 4f }, { for: 3f, strike: { box: [1.6, 1.6], at: [0.8, 0.8], damage: 1, stun: 12f } }, { for: 6f, open: sweep }] }\n  sweep: { start: { press: gale }, from: floor, phases: [{ for: 4f }, { for: 3f, strike: { box: [1.6, 1.6], at: [0.8, 0.8], damage: 1, stun: 12f } }, { for: 6f, open: jab }] }\n',
    ),
    'open: jab }] }\n',
    '}, { for: 20f }] }\n',
    true,
  ),
];
