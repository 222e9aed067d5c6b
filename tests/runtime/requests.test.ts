import { describe, expect, test } from 'vitest';
import { BoxWorld, Character, flatGround, loadProgress, saveProgress } from '../../src/index.js';
import { generated } from '../emit/generated.js';
import { makeCharacter, plan, SMALL, tap, tick } from '../support.js';

const started = (told: string[]) => told.filter((line) => line.startsWith('+'));

describe('what breaks another goes first, and is never lost', () => {
  const STUN = `
events: [hurt, die]
abilities:
  jab: { start: { press: gaff }, tags: attack, phases: [{ for: 9f }] }
  stun: { start: { event: hurt }, breaks: [attack, stun], tags: hit, phases: [{ for: 9f }] }
  death: { start: { event: die }, breaks: [attack, hit], phases: [{ for: 99f }] }`;

  test('a stun in the tick of a press', () => {
    const c = makeCharacter(STUN);
    c.door.press('gaff');
    c.door.event('hurt');
    expect(tick(c)).toEqual(['received hurt', '+stun', 'stun.1', '!jab outranked']);
  });
  test('a death in the tick of a stun, and of a rule', () => {
    const c = makeCharacter(`${STUN}\n  rest: { start: { rule: grounded }, tags: attack }`);
    c.door.event('hurt');
    c.door.event('die');
    tick(c);
    expect(c.readout.ability()).toBe('death');
  });
  test('what breaks itself starts again', () => {
    const c = makeCharacter(STUN);
    c.door.event('hurt');
    tick(c, 5);
    c.door.event('hurt');
    expect(tick(c)).toEqual(['received hurt', '-stun broken', '+stun', 'stun.1']);
    expect(tick(c, 9)).toEqual(['-stun time']);
  });
  test('it goes before bars, too', () => {
    const c = makeCharacter(`
lanes: [body, legs]
events: [hurt]
abilities:
  brace: { start: { press: gale }, bars: [stun], phases: [{ for: 99f, bars: [stun] }] }
  stun: { lane: legs, start: { event: hurt }, breaks: brace, phases: [{ for: 3f }] }`);
    tap(c, 'gale');
    c.door.event('hurt');
    expect(tick(c)).toEqual(['received hurt', '-brace broken', '+stun', 'stun.1']);
  });
});

test('what was judged is what is charged, whatever the start ends', () => {
  const c = makeCharacter(`
pools: { wind: { max: 20, start: 6 } }
abilities:
  calm: { start: { press: gale }, phases: [{ for: 99f }], open: jab }
  jab: { start: { press: gaff }, cost: { wind: "pick(running(calm), 5, 15)" }, phases: [{ for: 3f }] }`);
  tap(c, 'gale');
  expect(started(tap(c, 'gaff'))).toEqual(['+jab']);
  expect(c.readout.pool('wind')).toBe(1);
});

describe('each occurrence of an event counts', () => {
  const TEA = `
pools: { wind: { max: 99, start: 0 } }
events: [tea, hit]
abilities:
  sip: { start: { event: tea }, buffer: 30f, phases: [{ for: 2f, gain: { wind: 5 } }] }
  flinch: { lane: legs, start: { event: hit }, breaks: flinch, phases: [{ for: 9f, gain: { wind: 1 } }] }
lanes: [body, legs]`;
  test('two in one tick', () => {
    const c = makeCharacter(TEA);
    c.door.event('tea');
    c.door.event('tea');
    c.door.event('hit');
    c.door.event('hit');
    tick(c);
    expect(c.readout.pool('wind')).toBe(7);
    tick(c, 5);
    expect(c.readout.pool('wind')).toBe(12);
  });
  test('in several ticks of a freeze, also through a snapshot', () => {
    const c = makeCharacter(TEA);
    c.door.freeze(6);
    for (let i = 0; i < 3; i++) {
      c.door.event('hit');
      tick(c, 2);
    }
    const other = makeCharacter(TEA);
    other.restore(c.snapshot());
    for (const each of [c, other]) {
      tick(each);
      expect(each.readout.pool('wind')).toBe(3);
    }
  });
  test('more than there is room for wait for the next tick', () => {
    const c = makeCharacter(TEA);
    c.door.freeze(3);
    for (let i = 0; i < 40; i++) c.door.event('hit');
    tick(c, 10);
    expect(c.readout.pool('wind')).toBe(40);
  });
});

describe('presses', () => {
  test('kept by its buffer, a press of an ability that is open to itself is not lost', () => {
    const c = makeCharacter(`
abilities: { jab: { start: { press: gaff }, buffer: 10f, phases: [{ for: 5f }, { for: 9f, open: jab }] } }`);
    tap(c, 'gaff');
    expect(tap(c, 'gaff')).toEqual(['!jab running']);
    expect(tick(c, 2)).toEqual(['jab.2', '-jab followed', '+jab', 'jab.1']);
  });
  test('a toggle that is tapped within a freeze latches once, and a sequence wants each of its presses', () => {
    const c = makeCharacter(`
abilities:
  lamp: { lane: legs, start: { toggle: gale } }
  twice: { start: { sequence: [gaff, gaff], within: 20f }, phases: [{ for: 1f }] }
lanes: [body, legs]`);
    c.door.freeze(8);
    c.door.press('gale');
    c.door.press('gaff');
    tick(c, 3);
    c.door.release('gale');
    c.door.release('gaff');
    expect(tick(c, 7)).toEqual(['+lamp']);
    expect(started(tap(c, 'gaff'))).toEqual(['+twice']);
  });
  test('let go and pressed again within one tick, it was held for as long as it was', () => {
    const c = makeCharacter(`
lanes: [a, b, c]
abilities:
  short: { lane: a, start: { tap: gaff }, phases: [{ for: 1f }] }
  long: { lane: b, start: { release: gaff, held: 30f }, phases: [{ for: 1f }] }`);
    c.door.press('gaff');
    tick(c, 40);
    c.door.release('gaff');
    c.door.press('gaff');
    expect(started(tick(c))).toEqual(['+long']);
  });
  test('a hold sees a press that was released between two ticks', () => {
    const c = makeCharacter('abilities: { brace: { start: { hold: gale } } }');
    c.door.press('gale');
    c.door.release('gale');
    expect(tick(c, 3)).toEqual(['+brace', '-brace released']);
  });
  test.each([
    ['jab', 'guard'],
    ['guard', 'jab'],
  ])('one press starts one ability, in whatever order they are declared: first %s', (first, second) => {
    const all: Record<string, string> = {
      jab: '  jab: { start: { press: gaff }, phases: [{ for: 3f }] }\n',
      guard: '  guard: { lane: hands, start: { hold: gaff } }\n',
    };
    const c = makeCharacter(`lanes: [body, hands]\nabilities:\n${all[first]}${all[second]}`);
    c.door.press('gaff');
    expect(started(tick(c, 9))).toEqual([`+${first}`]);
  });
  test('up and right together are up', () => {
    const c = makeCharacter(`
abilities:
  ahead: { start: { press: gaff, toward: forward }, phases: [{ for: 1f }] }
  above: { start: { press: gaff, toward: up }, phases: [{ for: 1f }] }`);
    c.door.press('move.right');
    tick(c, 9);
    c.door.press('move.up');
    tick(c);
    expect(started(tap(c, 'gaff'))).toEqual(['+above']);
  });
  test('four quick presses are two doubles', () => {
    const c = makeCharacter('abilities: { twice: { start: { double: gaff, within: 9f }, phases: [{ for: 1f }] } }');
    const told = Array.from({ length: 4 }, () => tap(c, 'gaff')).flat();
    expect(started(told)).toEqual(['+twice', '+twice']);
  });
  test('a direction pressed with a dash is the one it goes to, and what means back keeps its facing', () => {
    const c = makeCharacter(`
abilities:
  dash: { start: { press: gale }, face: fixed, steer: 0, phases: [{ for: 3f, move: { forward: 9 } }] }
  hopBack: { start: { press: gaff, toward: back }, face: fixed, steer: 0, phases: [{ for: 3f, move: { forward: -9 } }] }`);
    c.door.press('move.left');
    c.door.press('gale');
    tick(c);
    expect([c.readout.vx, c.readout.facing]).toEqual([-9, -1]);
    c.door.releaseAll();
    tick(c, 20);
    c.door.press('gaff'); // the order in which keys of one tick come in does not matter
    c.door.press('move.right');
    tick(c);
    expect([c.readout.ability(), c.readout.vx, c.readout.facing]).toEqual(['hopBack', 9, -1]);
  });
});

test('an ability that says twice that only code starts it leaves the requests of others alone', () => {
  const c = makeCharacter(`
pools: { wind: { max: 19 } }
abilities:
  one: { start: { press: gaff }, phases: [{ for: 1f }] }
  two: { start: [{ code: only }, { code: only }], when: [pool.wind > 1, stance.time >= 10f], phases: [{ for: 1f }] }`);
  c.door.request('two');
  expect(tick(c, 60)).toEqual(['!two when']);
  expect(started(tap(c, 'gaff'))).toEqual(['+one']);
  tick(c, 3);
  c.door.request('two');
  expect(started(tick(c))).toEqual(['+two']);
});

test('tagged(x) and running(x) agree in the very tick', () => {
  const c = makeCharacter(`
lanes: [body, hands]
abilities:
  glow: { start: { press: gaff }, tags: bright, phases: [{ for: 2f }] }
  see: { lane: hands, start: { press: gale }, when: [tagged(bright), running(glow)], phases: [{ for: 1f }] }`);
  c.door.press('gaff');
  c.door.press('gale');
  expect(started(tick(c))).toEqual(['+glow', '+see']);
});

describe('loadouts', () => {
  const FORMS = `
pools: { wind: { max: 9 } }
events: [ring]
abilities:
  jab: { start: { press: gaff }, cost: { wind: 4 }, phases: [{ for: 9f }] }
  glow: { start: { press: gaff }, phases: [{ for: 9f }] }
  bell: { start: { event: ring }, phases: [{ for: 9f }] }
loadouts: { rigger: { abilities: [jab], tags: dry }, lantern: { abilities: [glow] } }`;
  test('one that code swaps holds for the presses of that tick', () => {
    const c = makeCharacter(FORMS);
    tick(c);
    c.door.loadout('lantern');
    tick(c);
    c.door.loadout('rigger');
    c.door.press('gaff');
    expect(started(tick(c))).toEqual(['+jab']);
    expect(c.readout.pool('wind')).toBe(5);
  });
  test('a tag that only a loadout has is its own', () => {
    const c = makeCharacter(FORMS);
    tick(c);
    expect([c.facts.fact('tagged(dry)'), c.facts.event('ring')]).toEqual([1, false]);
    c.door.loadout('lantern');
    tick(c);
    expect(c.facts.fact('tagged(dry)')).toBe(0);
  });
  test('one with a body comes and goes once there is room: nobody has what one form can in the shape of another', () => {
    const hatch = [
      { from: [-9, -1], to: [9, 0] },
      { from: [1, 1.2], to: [5, 9] },
    ] as const;
    const c = makeCharacter(
      `
body: { shapes: { tall: [0.6, 1.8], ball: [0.6, 0.6], giant: [1, 3] } }
abilities:
  ball: { lane: form, start: { toggle: jump }, loadout: ball }
  grow: { lane: form, start: { toggle: gale }, loadout: giant }
  jab: { start: { press: gaff }, phases: [{ for: 1f }] }
  roll: { start: { press: gaff }, phases: [{ for: 1f }] }
lanes: [body, form]
loadouts: { rigger: { abilities: [jab] }, ball: { abilities: [roll], body: ball }, giant: { abilities: [jab], body: giant } }`,
      { world: new BoxWorld(hatch as never) },
    );
    const later = (ticks: number) => {
      tick(c, ticks);
      return [c.readout.loadout, c.readout.shape];
    };
    tap(c, 'jump');
    expect(later(1)).toEqual(['ball', 'ball']);
    c.door.stick('move', 1, 0);
    later(20);
    c.door.stick('move', 0, 0);
    expect([later(20), c.readout.x > 1]).toEqual([['ball', 'ball'], true]);
    tap(c, 'jump');
    expect([later(9), c.readout.isRunning('ball')]).toEqual([['ball', 'ball'], false]);
    c.door.press('gaff');
    expect(started(tick(c))).toEqual(['+roll']);
    c.door.stick('move', -1, 0);
    expect(later(20)).toEqual(['rigger', 'tall']);
    // Beside the block there is no room for a giant either.
    c.door.place(0.6, 0);
    c.door.velocity(0, 0);
    c.door.stick('move', 0, 0);
    tap(c, 'gale');
    expect([later(9), c.readout.isRunning('grow')]).toEqual([['rigger', 'tall'], true]);
    c.door.place(-1, 0);
    expect(later(2)).toEqual(['giant', 'giant']);
  });
  test('what the body passes through leaves room for one with a body', () => {
    const c = makeCharacter(
      `
surfaces: [mist]
body: { shapes: { tall: [0.6, 1.8], giant: [1, 3] } }
abilities:
  drift: { lane: form, start: { toggle: jump }, passes: mist }
  grow: { start: { toggle: gale }, loadout: giant }
lanes: [body, form]
loadouts: { rigger: { abilities: [grow] }, giant: { abilities: [grow], body: giant } }`,
      {
        world: new BoxWorld([
          { from: [-9, -1], to: [9, 0] },
          { from: [-5, 2], to: [5, 9], tags: ['mist'] },
        ]),
      },
    );
    tap(c, 'gale');
    tick(c, 2);
    expect(c.readout.loadout).toBe('rigger');
    tap(c, 'jump');
    tick(c, 2);
    expect(c.readout.loadout).toBe('giant');
  });
});

test('progress keeps toggles, and an older save unlearns', () => {
  const moveset = `
abilities:
  lamp: { start: { toggle: gale } }
  heave: { lane: hands, locked: true, start: { press: gaff }, phases: [{ for: 1f }] }
lanes: [body, hands]`;
  const c = makeCharacter(moveset);
  const early = saveProgress(c);
  tap(c, 'gale');
  c.door.learn('heave');
  tick(c);
  const late = JSON.parse(JSON.stringify(saveProgress(c)));
  expect(late.latched).toEqual(['lamp']);
  const other = makeCharacter(moveset);
  loadProgress(other, late);
  expect(tick(other)).toEqual(['latched lamp', '+lamp']);
  loadProgress(other, early);
  tick(other);
  expect([other.readout.isKnown('heave'), other.readout.isLatched('lamp')]).toEqual([false, false]);
});

test('what is locked is looked at by nothing: a thousand change no event', () => {
  const locked = Array.from(
    { length: 1000 },
    (_, i) => `  x${i}: { locked: true, start: { press: gaff }, phases: [{ for: 1f }] }\n`,
  );
  const c = new Character(
    plan(`${SMALL}abilities:\n  jab: { start: { press: gaff }, phases: [{ for: 3f }] }\n${locked.join('')}`),
    { world: flatGround() },
  );
  expect(tap(c, 'gaff')).toEqual(['+jab', 'jab.1']);
});

describe('refusals', () => {
  test('of a press that started another ability are not told, and what is kept says how long', () => {
    const c = makeCharacter(`
abilities:
  dash: { start: { press: gale, with: jump }, from: air, phases: [{ for: 1f }] }
  step: { start: { press: gale }, phases: [{ for: 1f }] }
  leap: { start: { press: gaff }, buffer: 12f, from: air, phases: [{ for: 1f }] }`);
    c.door.press('jump');
    tick(c);
    expect(tap(c, 'gale')).toEqual(['+step', 'step.1', '-step time']);
    c.door.press('gaff');
    c.tick();
    expect(c.readout.events).toEqual([
      {
        kind: 'refused',
        ability: 'leap',
        via: 'input',
        input: 'gaff',
        main: { code: 'from', stance: 'stand', allowed: ['air'] },
        reasons: [{ code: 'from', stance: 'stand', allowed: ['air'] }],
        kept: 0.2,
      },
    ]);
    expect(tick(c, 12)).toEqual([]);
    c.door.place(0, 9);
    expect(tick(c)).not.toContain('+leap');
  });
  test('a hold that starts uses its press up', () => {
    const c = makeCharacter(`
lanes: [body, legs]
abilities:
  brace: { start: { hold: gaff } }
  jab: { lane: legs, start: { press: gaff }, buffer: 9f, phases: [{ for: 1f }] }`);
    c.door.press('gaff');
    expect(tick(c, 9)).toEqual(['+brace']);
  });
  test('what is outranked by another than in the tick before is told again', () => {
    const interpreted = plan(`${SMALL.replace('jump: { button: Space }', 'jump: { button: Space, buffer: 0.2s }')}
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 1f }] }
  dash: { start: { press: gale }, phases: [{ for: 1f }] }
  hop: { start: { press: jump }, phases: [{ for: 9f }] }`);
    for (const moveset of [interpreted, generated(interpreted)]) {
      const c = new Character(moveset, { world: flatGround() });
      c.door.press('jump');
      c.door.press('gaff');
      expect(tick(c)).toEqual(['+jab', 'jab.1', '!hop outranked']);
      c.door.press('gale');
      expect(tick(c)).toEqual(['-jab time', '+dash', 'dash.1', '!hop outranked']);
      expect(tick(c)).toEqual(['-dash time', '+hop', 'hop.1']);
    }
  });
  test('a hundred refusals of one press are told, each with its reason and in their order', () => {
    const names = Array.from({ length: 100 }, (_, i) => `ask${i}`);
    const abilities = names.map((name) => `  ${name}: { start: { press: gaff }, from: fall, phases: [{ for: 1f }] }\n`);
    const interpreted = plan(`${SMALL}abilities:\n${abilities.join('')}`);
    for (const moveset of [interpreted, generated(interpreted)]) {
      const c = new Character(moveset, { world: flatGround() });
      c.door.press('gaff');
      expect(tick(c)).toEqual(names.map((name) => `!${name} from`));
      expect(tick(c)).toEqual([]);
    }
  });
  test('more conditions and costs than there are bits for are told one by one', () => {
    const c = makeCharacter(`
pools: { a: { max: 1 }, b: { max: 1 }, c: { max: 1 }, d: { max: 1 }, e: { max: 1 }, f: { max: 9 }, g: { max: 1 }, h: { max: 1 } }
abilities:
  ask:
    start: { press: gaff }
    when: [x > 0, x > 1, x > 2, x > 3, x > 4, x > 5, x > 6, x == 0, x > 8, x > 9]
    cost: { a: 2, b: 2, c: 2, d: 2, e: 2, f: 2, g: 2, h: 2 }
    phases: [{ for: 1f }]`);
    const told = c
      .explain('ask')
      .reasons.map((reason) => (reason.code === 'when' ? reason.text : 'pool' in reason && reason.pool));
    expect(told).toEqual([
      'x > 0',
      'x > 1',
      'x > 2',
      'x > 3',
      'x > 4',
      'x > 5',
      'x > 6',
      'x > 8',
      'x > 9',
      'a',
      'b',
      'c',
      'd',
      'e',
      'g',
      'h',
    ]);
  });
});

test('follows: while the other still runs, or soon after; and a start takes the grace of its lane away', () => {
  const c = makeCharacter(`
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 9f, open: sweep }] }
  sweep: { start: { press: gale }, follows: [jab], phases: [{ for: 3f }] }
  hop: { start: { press: jump }, from: floor, grace: 30f, phases: [{ for: 1f }] }
  dive: { start: { press: move.down }, phases: [{ for: 1f }] }`);
  expect(started(tap(c, 'gale'))).toEqual([]);
  tap(c, 'gaff');
  expect(started(tap(c, 'gale'))).toEqual(['+sweep']);
  tick(c, 5);
  expect(started(tap(c, 'gale'))).toEqual([]);
  c.door.place(0, 0.5);
  tick(c, 30);
  c.door.velocity(0, 5);
  tick(c, 3);
  expect([c.readout.grounded, c.may('hop')]).toEqual([false, true]); // it left the ground by no ability
  tap(c, 'move.down');
  tick(c);
  expect(c.may('hop')).toBe(false);
});

test('a refusal says what asked for the ability, and which of its reasons to show', () => {
  const c = makeCharacter(`
events: [ring]
pools: { wind: { max: 9, start: 1 } }
abilities:
  hold: { start: { press: jump }, phases: [{ for: 60f }] }
  jab: { start: [{ press: gaff }, { event: ring }], cost: { wind: 5 }, phases: [{ for: 2f }] }
  warm: { start: { rule: grounded }, cost: { wind: 2 }, when: airborne, phases: [{ for: 2f }] }
  coil: { start: { hold: gaff }, cost: { wind: 3 } }`);
  c.door.press('jump');
  c.door.press('gaff');
  c.door.event('ring');
  c.door.request('jab');
  c.tick();
  const told = c.readout.events.flatMap((e) => (e.kind === 'refused' ? [[e.ability, e.via, e.main.code]] : []));
  expect(told).toEqual([
    ['jab', 'input', 'pool'],
    ['jab', 'event', 'pool'],
    ['jab', 'code', 'pool'],
    ['warm', 'rule', 'when'],
    ['coil', 'input', 'pool'],
  ]);
  expect(c.explain('warm').main).toMatchObject({ code: 'when' });
  expect(c.explain('hold').main).toMatchObject({ code: 'running' });
});
