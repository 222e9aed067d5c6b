import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { Character, compileMoveset, flatGround, type Moveset } from '../../src/index.js';
import { plan } from '../support.js';
import { duel, FIGHTER, JAB, jab, ticks } from './duel.js';

const outcomes = (told: readonly string[]) => told.map((line) => line.split(' ').slice(2).join(' '));

/** Pell strikes at nothing but a row of others; what became of the blows, and where the ray ends. */
function beam(strike: string, at: readonly number[], text = FIGHTER + JAB) {
  const { arena, pell } = duel(FIGHTER + jab('', strike).replace('for: 2f, strike', 'for: 20f, strike'), text, {
    apart: at[0],
  });
  at.slice(1).forEach((x, i) => {
    arena.add(`more ${i}`, plan(text), { at: [x, 0], facing: -1 });
  });
  pell.door.press('gaff');
  const told = ticks(arena, 10);
  const [volume] = pell.readout.volumes.filter(({ part }) => part === 'hit');
  return { told, end: volume.shape === 'capsule' ? volume.to.x : Number.NaN, arena };
}
const RAY = 'along: facing, reach: 9, at: [0, 1.2], damage: 1';

test('a ray strikes again whom it has met, and whoever steps in once it may', () => {
  const once = beam(`{ ${RAY}, again: 3f }`, [3]);
  expect(once.told.map((line) => line[0])).toEqual(['3', '6', '9']);
  const { arena, told } = beam(`{ ${RAY}, again: 3f }`, [3]);
  arena.find('sentry')?.character.door.place(20, 0);
  arena.add('mate', plan(FIGHTER + JAB), { at: [2, 0] });
  expect([...told, ...ticks(arena, 3)].at(-1)).toBe('2 pell mate struck 1');
});

test('a ray of several goes through as many as it may and ends at the last of them, in every tick', () => {
  const { told, end } = beam(`{ ${RAY}, most: 2 }`, [3, 5, 7]);
  expect(outcomes(told)).toEqual(['sentry struck 1', 'more 0 struck 1']);
  expect(end).toBeCloseTo(4.7);
});

test('a ray passes who is immune, and a touch touches them all the same', () => {
  const immune = `${FIGHTER}${JAB}loadouts: { own: { abilities: [], immune: true } }\n`;
  const { arena, pell } = duel(FIGHTER + jab('', `{ ${RAY} }`), immune, { apart: 3 });
  arena.add('behind', plan(FIGHTER + JAB), { at: [5, 0] });
  arena.find('sentry')?.character.door.loadout('own');
  pell.door.press('gaff');
  expect(outcomes(ticks(arena, 5))).toEqual(['behind struck 1']);

  const bell = `${FIGHTER}  ring: { start: { press: gaff }, phases: [{ for: 3f, touch: { sphere: 2, tells: struck } }] }\n`;
  const touched = duel(bell, immune);
  touched.sentry.door.loadout('own');
  ticks(touched.arena, 1);
  touched.pell.door.press('gaff');
  ticks(touched.arena, 1);
  expect(touched.arena.events).toMatchObject([{ kind: 'touch', event: 'struck', to: 'sentry' }]);
});

test('strikes that clash do so all at once, whoever joined first', () => {
  const text = plan(FIGHTER + jab('', '{ sphere: 2, damage: 4, clash: 1 }'));
  const arena = new Arena({ world: flatGround() });
  for (const [name, x] of [
    ['one', 0],
    ['two', 0.8],
    ['three', 1.6],
  ] as const)
    arena.add(name, text, { at: [x, 0] });
  for (const { character } of arena.members) character.door.press('gaff');
  expect(ticks(arena, 6)).toEqual(['3 clash one two', '3 clash two one', '3 clash three one']);
});

test('a clash tells whose the other strike is, where it is, and what it says besides', () => {
  const text = FIGHTER.replace(
    /events: .*\n/,
    'events: { struck: {}, armoured: {}, clashed: { values: { loud: number, long: time, odd: point } } }\n',
  );
  const strike = '{ sphere: 2, damage: 4, kind: spark, clash: 1, values: { loud: 3 + pool.grit, long: 12f, odd: 2 } }';
  const { arena, pell, sentry } = duel(text + jab('', strike));
  pell.door.press('gaff');
  sentry.door.press('gaff');
  ticks(arena, 5);
  const { facts } = sentry;
  const read = ['by', 'from.x', 'damage', 'loud', 'long', 'odd.x'].map((fact) => facts.fact(`clashed.${fact}`));
  expect(read).toEqual([1, 0, 0, 23, 0.2, 0]);
  expect(facts.fact('clashed.kind(spark)')).toBe(1);
  expect(sentry.record.every((n) => !Number.isNaN(n))).toBe(true);
});

test('times and numbers of a strike arrive as who hears them declares them', () => {
  const bell = `${FIGHTER}  ring: { start: { press: gaff }, phases: [{ for: 1f, touch: { sphere: 2, tells: rung, values: { long: 0.2s, loud: 3 } } }] }\n`;
  const hears = (long: string) =>
    FIGHTER.replace(/events: .*\n/, `events: { struck: {}, rung: { values: { long: ${long}, loud: time } } }\n`);
  for (const [type, value] of [
    ['time', 0.2],
    ['number', 0.2],
  ] as const) {
    const { arena, pell, sentry } = duel(bell, hears(type));
    pell.door.press('gaff');
    ticks(arena, 2);
    expect([sentry.facts.fact('rung.long'), sentry.facts.fact('rung.loud')]).toEqual([value, 3]);
  }
});

test('callerStruck carries what who was struck heard, and is not told of a blow that is blocked', () => {
  const gull = plan(`loggia: 1
name: Gull
kinds: [spark, blunt]
events: [callerStruck]
stances: { rest: {} }
body: { gravity: 0 }
`);
  const caller =
    plan(`${FIGHTER}${JAB}  call: { start: { press: brace }, phases: [{ for: 1f, summon: { who: gull, at: [-9, 0] } }] }
  brace: { start: { code: only }, phases: [{ for: 99f, guard: {} }] }
summons: [gull]
`);
  const struck = (guards: boolean) => {
    const arena = new Arena({ world: flatGround(), summons: { gull } });
    const pell = arena.add('pell', plan(FIGHTER + JAB)).character;
    const sentry = arena.add('sentry', caller, { at: [1.2, 0], facing: -1 }).character;
    sentry.door.press('brace');
    ticks(arena, 2);
    if (guards) sentry.door.request('brace');
    pell.door.press('gaff');
    ticks(arena, 6);
    const { facts } = (arena.find('gull 3') as { character: Character }).character;
    return ['event(callerStruck)', 'callerStruck.by', 'callerStruck.from.x', 'callerStruck.kind(blunt)'].map((fact) =>
      facts.fact(fact),
    );
  };
  expect(struck(true)[0]).toBe(0);
  const [, ...values] = struck(false);
  expect(values).toEqual([1, 0, 1]);
});

test('a stun or a stop that is no number is none', () => {
  const moveset = {
    loggia: 1,
    name: 'Pell',
    inputs: { gaff: { button: 'KeyJ' } },
    events: ['struck'],
    hurt: {},
    stances: { stand: {} },
    abilities: {
      jab: {
        start: { press: 'gaff' },
        phases: [{ for: '2f', strike: { sphere: 2, stun: () => Number.NaN, stop: () => Number.NaN } }],
      },
    },
  };
  const { arena, pell, sentry } = duel(compileMoveset(moveset as Moveset));
  pell.door.press('gaff');
  expect(ticks(arena, 3)).toEqual(['0 pell sentry struck 0']);
  expect(sentry.facts.fact('struck.stun')).toBe(0);
});

const guarding = (guard: string, wind = 10) => {
  const brace = `  brace: { start: { hold: gaff }, guard: ${guard} }\n`;
  const { arena, pell, sentry } = duel(
    FIGHTER + jab('', '{ sphere: 2, damage: 4, kind: spark, push: [8, 0], again: 1f }'),
    FIGHTER + brace,
  );
  sentry.door.pool('wind', wind);
  sentry.door.press('gaff');
  ticks(arena, 8);
  return { arena, pell, sentry };
};

test('a guard holds with exactly enough, also where fractions are summed', () => {
  const { arena, pell, sentry } = guarding('{ cost: { wind: 0.1 } }', 0.3);
  for (const outcome of ['blocked', 'blocked', 'blocked', 'guardBroken']) {
    pell.door.press('gaff');
    const [first] = outcomes(ticks(arena, 4));
    expect(first).toMatch(`sentry ${outcome}`);
    pell.door.release('gaff');
    arena.find('pell')?.character.door.end('jab');
    ticks(arena, 1);
  }
  expect(sentry.readout.pool('wind')).toBe(0);
});

test('shares of a guard and factors of what hurts are formulas, for kinds that it knows and others', () => {
  const told = (guard: string, kinds = '') => {
    const { arena, pell } = guarding(guard + kinds);
    pell.door.press('gaff');
    return outcomes(ticks(arena, 4))[0];
  };
  expect(told('{ absorb: pool.wind / 20 }')).toBe('sentry blocked 2');
  expect(told('{ absorb: 0, kinds: { spark: 1 - pool.wind / 40 } }')).toBe('sentry blocked 1');
  expect(told('{ absorb: 0, kinds: { blunt: 1 } }')).toBe('sentry struck 4');
  const hurt = FIGHTER.replace('hurt: { pool: grit }', 'hurt: { pool: grit, factors: { spark: blow.damage / 2 } }');
  const { arena, pell } = duel(FIGHTER + jab('', '{ sphere: 2, damage: 4, kind: spark }'), hurt);
  pell.door.press('gaff');
  expect(outcomes(ticks(arena, 4))).toEqual(['sentry struck 8']);
});

test('a kind that who is struck does not know counts as any other', () => {
  const text = FIGHTER.replace('kinds: [blunt, spark]', 'kinds: [spark]').replace(
    'hurt: { pool: grit }',
    'hurt: { pool: grit, factors: { spark: 9 } }',
  );
  const { arena, pell, sentry } = duel(
    FIGHTER + jab('', '{ sphere: 2, damage: 4, kind: blunt }'),
    `${text}  brace: { start: { hold: gaff }, guard: { absorb: 50%, kinds: { spark: 0 } } }\n`.replace(
      'kind: blunt',
      '',
    ),
  );
  sentry.door.press('gaff');
  pell.door.press('gaff');
  expect(outcomes(ticks(arena, 4))).toEqual(['sentry blocked 2']);
});

test('a guard all round takes blows from everywhere in the open view', () => {
  const open = (text: string) => plan(text.replace('name: Pell\n', 'name: Pell\nview: open\n'));
  const guard = open(`${FIGHTER}  brace: { start: { rule: true }, guard: { arc: 360 } }\n`);
  const striker = open(FIGHTER + jab('', '{ sphere: 9, damage: 4 }'));
  for (let i = 0; i < 12; i++) {
    const arena = new Arena({ world: flatGround() });
    const [x, z] = [Math.cos(i * 3.3), Math.sin(i * 3.3)];
    arena.add('sentry', guard);
    arena.add('pell', striker, { at: [x * 2, 0, z * 2] }).character.door.press('gaff');
    arena.find('sentry')?.character.door.face(-x, -z);
    expect(outcomes(ticks(arena, 4))).toEqual(['sentry blocked 0']);
  }
});

test('a blow is heard, however much the host has sent in that tick', () => {
  const { arena, pell, sentry } = duel(FIGHTER + JAB);
  pell.door.press('gaff');
  ticks(arena, 3);
  for (let i = 0; i < 12; i++) sentry.door.event('clashed');
  ticks(arena, 1);
  expect(sentry.readout.events.some(({ kind }) => kind === 'lost')).toBe(false);
  ticks(arena, 1);
  expect(sentry.readout.ability()).toBe('flinch');
});

test('a bounce keeps a share by formula', () => {
  const text = `loggia: 1
name: Ball
pools: { air: { max: 1, start: 0.5 } }
stances: { fly: {} }
loadouts: { own: { abilities: [], bounce: pool.air } }
`;
  const ball = new Character(plan(text), { world: flatGround(), at: [0, 5] });
  ball.door.loadout('own');
  let before = 0;
  for (let i = 0; ball.readout.vy <= 0; i++) {
    before = ball.readout.vy;
    ball.tick();
    if (i > 200) throw new Error('it never bounces');
  }
  expect(ball.readout.vy / -before).toBeCloseTo(0.5, 0);
});
