import { expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { BoxWorld, Character, flatGround, Tape } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { brief, makeCharacter, plan, SMALL, sentences, tap, tick } from '../support.js';

/** Codes of what is told of a moveset, but of inputs that a test has no use for. */
const codes = (text: string) =>
  sentences(parseMoveset(text)).flatMap((line) => {
    const [, code, , , input] = line.split(' ');
    return code === 'unbound-input' || (code === 'unread-input' && input !== '"sight"') ? [] : code;
  });

test('a move at no pace holds still, and keeps nothing after it', () => {
  const text = `${SMALL}abilities:
  stop: { start: { press: gaff }, steer: 0, phases: [{ for: 5f, move: { along: facing, speed: pool.wind, live: true, keep: 0 } }] }
  still: { start: { press: gale }, steer: 0, phases: [{ for: 5f, move: { along: [facing], speed: 0 } }] }
pools: { wind: { max: 9, start: 0 } }
`;
  for (const made of [plan(text), generatedWhole(plan(text))]) {
    const c = new Character(made, { world: flatGround() });
    for (const input of ['gaff', 'gale']) {
      c.door.velocity(7, 0);
      tap(c, input);
      tick(c);
      expect([c.readout.vx, c.readout.vy]).toEqual([0, 0]);
      tick(c, 9);
    }
    c.door.pool('wind', 4);
    c.door.press('gaff');
    tick(c);
    expect(c.readout.vx).toBe(4);
    tick(c, 6);
    expect(c.readout.vx).toBe(0);
  }
});

const FORMS = `
loadouts: { rig: { abilities: [jab] }, lamp: { abilities: [glow] } }
lanes: [body, form]
abilities:
  form: { lane: form, start: { press: gale }, loadout: lamp, phases: [{ for: 30f }] }
  jab: { start: { press: gaff }, buffer: 0.2s, phases: [{ for: 10f }] }
  glow: { start: { press: gaff }, phases: [{ for: 10f }] }
`;

test('a press that waits as its loadout goes is refused for that, and does not come back with it', () => {
  const c = makeCharacter(FORMS);
  tap(c, 'gaff');
  tick(c, 5);
  c.door.press('gaff');
  expect(tick(c)).toEqual(['!jab running']);
  c.door.loadout('lamp');
  expect(tick(c)).toEqual(['loadout', '!jab loadout', '-jab unavailable']);
  c.door.loadout('rig');
  expect(tick(c, 3)).toEqual(['loadout']);
  const both = makeCharacter(FORMS);
  tap(both, 'jump');
  both.door.press('gale');
  both.door.press('gaff');
  expect(tick(both)).toEqual(['+form', 'form.1', 'loadout', '!jab loadout']);
});

test('a request that waits for what is forgotten is refused as not learnt', () => {
  const c = makeCharacter(FORMS);
  tap(c, 'gaff');
  tick(c, 5);
  c.door.press('gaff');
  tick(c);
  c.door.forget('jab');
  expect(tick(c)).toEqual(['!jab locked', '-jab unavailable']);
});

test('a snapshot of a moveset with other phases, orders or values is refused', () => {
  const text = (phases: string, more = '') =>
    plan(
      `${SMALL}abilities: { dash: { start: { press: gaff }, phases: ${phases} }, jab: { start: { press: gale }, phases: [{ for: 3f }] } }\n${more}`,
    );
  const one = text('[{ name: wind, for: 3f }, { name: go, for: 9f }]');
  const saved = new Character(one, { world: flatGround() }).snapshot();
  const into = (other: typeof one) => () => new Character(other, { world: flatGround() }).restore(saved);
  expect(into(text('[{ name: wind, for: 99f, gravity: 0 }, { name: go, for: 1f }]'))).not.toThrow();
  for (const other of [
    '[{ name: go, for: 3f }, { name: wind, for: 9f }]',
    '[{ name: wind, for: 3f }]',
    '[{ for: 3f }, { for: 9f }]',
  ])
    expect(into(text(other))).toThrow('this is no snapshot of Pell: its names or their order differ.');
  expect(one.fingerprint).toBe(generatedWhole(one).fingerprint);
  expect(one.fingerprint).toBe(text('[{ name: wind, for: 4f }, { name: go, for: 9f }]').fingerprint);
});

test('with its devices then, a restored character goes the same way by the same calls', () => {
  const c = makeCharacter('abilities: { aim: { start: { hold: gaff } } }\n');
  const run = (from: number) => {
    for (let i = from; i < 20; i++) {
      if (i === 2) c.door.press('gaff');
      if (i === 3) c.door.stick('move', 0.7, 0.1);
      if (i === 9) c.door.press('move.left');
      if (i === 11) c.door.release('move.left');
      if (i === 14) c.door.release('gaff');
      tick(c);
    }
    return [c.checksum(), c.readout.x];
  };
  const start = c.snapshot();
  const first = run(0);
  c.restore(start, { devices: 'then' });
  expect(run(0)).toEqual(first);
  expect(() => c.restore(c.record.slice(), { devices: 'then' })).toThrow('this snapshot holds no devices');
  expect(() => c.restore(start, { devices: 'soon' as 'now' })).toThrow(
    '"devices" must be "now" or "then", not "soon".',
  );
});

test('a tape that is played by the character that recorded it keeps its entries', () => {
  const c = makeCharacter('abilities: { jab: { start: { press: gaff }, phases: [{ for: 3f }] } }\n');
  const tape = new Tape();
  c.tape = tape;
  tick(c, 2);
  tap(c, 'gaff');
  tick(c, 3);
  const sum = c.checksum();
  for (let i = 0; i < 2; i++) {
    tape.rewindTo(c);
    while (c.hostTick < tape.end) {
      tape.feed(c);
      c.tick();
    }
    expect(c.checksum()).toBe(sum);
  }
});

test('a stick that a tape left pushed is at rest once its device says so', () => {
  const tape = new Tape();
  const one = makeCharacter('');
  one.tape = tape;
  one.door.stick('move', 1, 0);
  tick(one, 9);
  const c = makeCharacter('');
  tape.rewindTo(c);
  while (c.hostTick < tape.end) {
    tape.feed(c);
    c.tick();
  }
  expect(c.readout.vx).toBe(5);
  c.door.stick('move', 0, 0);
  tick(c, 30);
  expect(c.readout.vx).toBe(0);
});

test('a press more of what a sequence begins with does not lose it', () => {
  const c = makeCharacter(
    'abilities: { heave: { start: { sequence: [forward, forward, gaff] }, phases: [{ for: 3f }] }, twist: { lane: hands, start: { sequence: [gaff, gale, gaff, gaff] }, phases: [{ for: 3f }] } }\nlanes: [body, hands]\n',
  );
  for (let i = 0; i < 3; i++) tap(c, 'move.right');
  expect(tap(c, 'gaff')).toContain('+heave');
  // gaff gale gaff | gale gaff gaff: the last three of the first four are its beginning, too.
  tick(c, 30);
  const told = ['gaff', 'gale', 'gaff', 'gale', 'gaff', 'gaff'].flatMap((input) => tap(c, input));
  expect(told).toContain('+twist');
});

test('the steps of a sequence that came too early are let go, not those after them', () => {
  const c = makeCharacter(
    'abilities: { heave: { start: { sequence: [gale, gale, gaff], within: 10f }, phases: [{ for: 3f }] } }\n',
  );
  tap(c, 'gale');
  tick(c, 6);
  tap(c, 'gale');
  tick(c, 2);
  tap(c, 'gale');
  expect(tap(c, 'gaff')).toContain('+heave');
});

test.each(['hold', 'tap', 'toggle', 'release', 'double'])('the grace of an input counts for %s as well', (kind) => {
  const text = SMALL.replace('jump: { button: Space }', 'jump: { button: Space, grace: 0.3s }');
  const c = new Character(
    plan(
      `${text}abilities: { hop: { start: { ${kind}: jump }, from: floor${kind === 'hold' || kind === 'toggle' ? '' : ', phases: [{ for: 3f }]'} } }\n`,
    ),
    { world: new BoxWorld([{ from: [-9, -1], to: [0, 0] }]) },
  );
  c.door.press('move.right');
  while (c.readout.grounded) c.tick();
  const told = kind === 'double' ? [...tap(c, 'jump'), ...tap(c, 'jump')] : tap(c, 'jump');
  expect(told).toContain('+hop');
});

test('a press that has started something else latches no toggle', () => {
  const c = makeCharacter(`abilities:
  flare: { start: { press: gale, toward: up }, phases: [{ for: 3f }] }
  lamp: { lane: hands, start: { toggle: gale } }
lanes: [body, hands]
`);
  c.door.press('move.up');
  tick(c);
  expect(tap(c, 'gale')).toEqual(['latched lamp', 'unlatched lamp', '+flare', 'flare.1']);
  tick(c, 9);
  expect(c.readout.isRunning('lamp')).toBe(false);
  c.door.release('move.up');
  expect(tap(c, 'gale')).toEqual(['latched lamp', '+lamp']);
});

test('a cooldown from an event of its own beats does not wait for it after an interruption', () => {
  const c = makeCharacter(`events: [spark]
abilities:
  cast:
    start: { press: gaff }
    cooldown: { for: 5f, from: spark }
    beats: [{ at: 6f, emit: spark }]
    phases: [{ for: 9f, interrupt: pressed(gale) }]
`);
  tap(c, 'gaff');
  c.door.press('gale');
  expect(tick(c)).toEqual(['-cast interrupted']);
  c.door.press('gaff');
  expect(tick(c)).toEqual(['+cast', 'cast.1']);
});

test('a foe is known to who does not fight, and a slam that ends on the floor keeps its lane without a warning', () => {
  expect(
    codes(
      `${SMALL}abilities: { look: { start: { rule: foe.distance < 3 }, face: toward(foe), end: not foe.there } }\n`,
    ),
  ).toEqual([]);
  const slam = (move: string) =>
    codes(`${SMALL}abilities:
  slam: { start: { press: gaff }, from: air, phases: [{ until: grounded, move: ${move} }] }
  gust: { start: { press: gale }, phases: [{ for: 3f }] }
  walk: { lane: legs, start: { hold: jump } }
lanes: [body, legs]
`);
  expect(slam('{ up: -20 }')).toEqual([]);
  expect(slam('{ along: down, speed: 20 }')).toEqual([]);
  expect(slam('{ up: 20 }')).toEqual(['lane-kept']);
});

test('an input that only a strike, a push or a call reads is used, and a warp may leave its press to another', () => {
  const text = (more: string) =>
    `${SMALL}
summons: [bolt]
abilities:
  fire: { start: { press: gaff }, phases: [{ for: 3f, ${more} }] }
  hop: { start: { press: jump }, phases: [{ for: 3f }] }
  gust: { start: { press: gale }, phases: [{ for: 3f }] }
`.replace('inputs:\n', 'inputs:\n  sight: { aim: { pointer: true } }\n');
  for (const more of [
    'strike: { along: sight, reach: 5 }',
    'strike: { sphere: 1, push: { along: sight, speed: 5 } }',
    'summon: { who: bolt, velocity: { along: sight, speed: 5 } }',
  ])
    expect(codes(text(more))).toEqual([]);
  expect(
    codes(`${SMALL}abilities:
  blink: { start: { press: gaff }, phases: [{ for: 3f, warp: { along: facing, by: 3 } }] }
  jab: { start: { press: gaff }, phases: [{ for: 3f }] }
  hop: { start: { press: jump }, phases: [{ for: 3f }] }
  gust: { start: { press: gale }, phases: [{ for: 3f }] }
`),
  ).toEqual([]);
});

test('explain asks what may start next, not what could have in this tick', () => {
  const c = makeCharacter(`abilities:
  dash: { start: { press: gale }, breaks: gust, phases: [{ for: 9f, open: gust }] }
  gust: { start: { press: gaff }, breaks: dash, phases: [{ for: 9f }] }
`);
  c.door.press('gale');
  c.door.press('gaff');
  c.tick();
  expect(c.readout.events.map(brief)).toEqual(['+dash', 'dash.1', '!gust outranked']);
  expect(c.readout.events[2]).toMatchObject({ reasons: [{ code: 'outranked', by: 'dash' }] });
  expect([c.may('gust'), c.explain('gust').text]).toEqual([true, 'gust may start.']);
});
