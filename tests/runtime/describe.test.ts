import { expect, test } from 'vitest';
import {
  Character,
  checkMoveset,
  describe,
  flatGround,
  packMoveset,
  REASON_TEXTS,
  type Reason,
  type ReasonText,
  type Says,
  unpackMoveset,
  wordReason,
  wordRefusal,
} from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { plan } from '../support.js';

const BOAT = `
loggia: 1
name: Pell
inputs:
  move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }
  gaff: { button: KeyJ, data: { label: Gaff } }
  gale: { button: KeyF }
pools:
  wind: { max: 24, regen: 1.5, data: { icon: wind.png, order: [1, { path: [a], percent: true }] } }
  oil: { max: "10 + charges(sweep)" }
events: { hurt: { data: { sound: ow } } }
clips: { jabClip: { for: 23f, data: { file: jab.glb } } }
lanes: [body, legs]
stances: { stand: { when: grounded, tags: floor, data: { label: Standing }, says: the ground }, fall: {} }
conditions: { rested: { when: pool.wind > 20, says: You are out of breath. }, wet: pool.wind < 5 }
abilities:
  jab:
    start: [{ press: gaff, toward: up, with: gale }, { event: hurt }]
    clip: jabClip
    cooldown: { for: 0.5s, group: arms }
    phases: [{ name: windup, for: 6f }, { name: active, for: 5f, tags: sharp, open: sweep }, { for: 12f, open: [sweep, poke] }]
    data: { label: Gaff jab, __proto__: 1 }
    says: Jab
  sweep:
    start: { within: 0.1s, tap: gaff }
    follows: { jab: 0.1s }
    from: stand
    when: rested
    cost: { wind: 9, oil: "1 + 1" }
    charges: { max: 2, every: 5s }
    cooldown: { for: 1s, from: hurt, group: arms }
    phases: [{ for: 20f }]
  poke: { start: { code: only }, follows: jab, phases: [{ for: 2f }] }
  sprint: { lane: legs, start: { code: only }, upkeep: { wind: 4 }, bars: sweep, end: airborne, locked: true }
`;

test('describe tells what a moveset declares, the same of a plan, a pack and a module', () => {
  const pell = plan(BOAT);
  const { abilities, ...rest } = describe(pell);
  const nothing = { with: null, toward: null, sequence: null, held: null, within: null, event: null, after: null };
  expect(abilities.jab).toEqual({
    name: 'jab',
    lane: 'body',
    starts: [
      { ...nothing, kind: 'press', input: 'gaff', with: 'gale', toward: 'up' },
      { ...nothing, kind: 'event', input: null, event: 'hurt' },
    ],
    from: null,
    follows: null,
    cost: {},
    upkeep: {},
    cooldown: { lasts: 0.5, from: 'end', shared: ['sweep'] },
    charges: null,
    phases: [
      { name: 'windup', lasts: 0.1, charge: null, tags: [], open: [], clip: null },
      { name: 'active', lasts: 5 / 60, charge: null, tags: ['sharp'], open: ['sweep'], clip: null },
      { name: '3', lasts: 0.2, charge: null, tags: [], open: ['sweep', 'poke'], clip: null },
    ],
    lasts: 23 / 60,
    breaks: [],
    bars: [],
    open: [],
    tags: ['sharp'],
    loadouts: null,
    locked: false,
    clip: 'jabClip',
    data: JSON.parse('{ "label": "Gaff jab", "__proto__": 1 }'),
  });
  expect(abilities.sweep).toMatchObject({
    starts: [{ kind: 'tap', input: 'gaff', within: 0.1 }],
    from: ['stand'],
    follows: { jab: 0.1 },
    cost: { wind: 9, oil: 2 },
    charges: { max: 2, every: 5 },
    cooldown: { lasts: 1, from: 'hurt', shared: ['jab'] },
    data: {},
  });
  expect(abilities.sprint).toMatchObject({
    starts: [],
    upkeep: { wind: 4 },
    bars: ['sweep'],
    locked: true,
    lasts: null,
  });
  expect(rest).toEqual({
    name: 'Pell',
    rate: 60,
    view: 'side',
    pools: {
      wind: { min: 0, max: 24, regen: 1.5, data: { icon: 'wind.png', order: [1, { path: ['a'], percent: true }] } },
      oil: { min: 0, max: null, regen: 0, data: {} },
    },
    stances: {
      stand: { tags: ['floor'], clip: null, data: { label: 'Standing' } },
      fall: { tags: [], clip: null, data: {} },
    },
    inputs: { gaff: { label: 'Gaff' } },
    events: { hurt: { sound: 'ow' } },
    loadouts: {},
    clips: { jabClip: { file: 'jab.glb' } },
    says: {
      abilities: { jab: 'Jab' },
      stances: { stand: 'the ground' },
      conditions: { rested: 'You are out of breath.' },
    },
  });
  const packed = unpackMoveset(JSON.parse(JSON.stringify(packMoveset(pell))));
  for (const other of [packed, generatedWhole(pell)]) {
    expect(describe(other)).toEqual(describe(pell));
    expect(other.inputs).toEqual(pell.inputs);
  }
  expect(pell.inputs.gaff).toEqual({ button: ['KeyJ'] });
});

test('what is no plain data is told at its place', () => {
  const deep = (levels: number): object => (levels === 0 ? {} : { a: deep(levels - 1) });
  const faults = (data: unknown) =>
    checkMoveset({ loggia: 1, name: 'Pell', stances: { stand: { data } } } as never).diagnostics.map(
      ({ code, path }) => `${code} ${path.join('.')}`,
    );
  expect(faults({ a: [1, null, true, 'b', {}], b: undefined })).toEqual([]);
  expect(faults([1])).toEqual(['wrong-type stances.stand.data']);
  expect(faults({ a: { b: [1, Number.NaN] }, c: () => 1, d: new Date() })).toEqual([
    'wrong-type stances.stand.data.a.b.1',
    'wrong-type stances.stand.data.c',
    'wrong-type stances.stand.data.d',
  ]);
  expect(faults(deep(8))).toEqual([]);
  expect(faults(deep(9))).toEqual(['too-deep stances.stand.data.a.a.a.a.a.a.a.a.a']);
  expect(faults({ a: Array.from({ length: 2000 }, () => 1) })).toEqual(['wrong-count stances.stand.data']);
});

test.each(['sweep', 'poke'])(
  'follows counts the ticks in which %s may come, also after the step before has ended',
  (next) => {
    const pell = new Character(plan(BOAT), { world: flatGround() });
    pell.tick();
    pell.door.event('hurt');
    /** What `follows` said after each tick, and whether the next tick let it in. */
    const said: number[] = [];
    const may: boolean[] = [];
    for (let i = 0; i < 40; i++) {
      pell.tick();
      const own = pell.readout.follows().find(({ ability }) => ability === next);
      if (own) expect(own.after).toBe('jab');
      said.push(Math.round((own?.remaining ?? 0) * 60));
      const probe = new Character(pell.plan, { world: flatGround() });
      probe.restore(pell.snapshot());
      probe.door.request(next);
      probe.tick();
      const refused = probe.readout.events.find((event) => event.kind === 'refused' && event.ability === next);
      const codes = refused?.kind === 'refused' ? refused.reasons.map(({ code }) => code) : [];
      may.push(!codes.includes('follows') && !codes.includes('busy'));
    }
    expect(said.map((left) => left > 0)).toEqual(may);
    const most = next === 'sweep' ? 24 : 12;
    expect(said.filter((left) => left > 0)).toEqual(Array.from({ length: most }, (_, i) => most - i));
  },
);

test('reasons are told in the words of the player: those of the moveset, or a table in another language', () => {
  const pell = new Character(plan(BOAT), { world: flatGround(), at: [0, 9] });
  pell.door.pool('wind', 3);
  pell.tick();
  const { reasons } = pell.explain('sweep');
  const { says } = describe(pell.plan);
  expect(wordRefusal('sweep', reasons)).toBe(
    'sweep may not start: only after jab; only in stand, not in fall; "rested" does not hold: pool.wind is 3; wind 3 of 9.',
  );
  expect(wordRefusal('sweep', reasons, says)).toBe(
    'sweep may not start: only after Jab; only in the ground, not in fall; You are out of breath.; wind 3 of 9.',
  );
  const german: Says = {
    abilities: { sweep: 'Der Feger' },
    pools: { wind: 'Atem' },
    conditions: { rested: 'außer Atem' },
    reasons: {
      follows: 'erst nach {allowed}',
      from: 'nur am Boden',
      pool: '{pool} {have}/{need}',
      mayNot: '{ability}: {reasons}',
    },
  };
  expect(wordRefusal('sweep', reasons, german)).toBe('Der Feger: erst nach jab; nur am Boden; außer Atem; Atem 3/9');
  expect(reasons.map(wordReason)[3]).toBe('wind 3 of 9');
  expect(wordReason({ code: 'room' }, { reasons: { room: 'kein {platz}' } })).toBe('kein {platz}');
  expect(() => wordReason(reasons[0], { pool: {} } as Says)).toThrow(/there is no option "pool"/);
});

test('every text of a reason can be said otherwise, with all that is filled in', () => {
  const each: Reason[] = [
    { code: 'locked' },
    { code: 'loadout', active: 'lit' },
    { code: 'loadout', active: null },
    { code: 'follows', allowed: ['jab'] },
    { code: 'from', stance: 'stand', allowed: ['fall', 'hang'] },
    { code: 'when', text: 'airborne', facts: [] },
    { code: 'when', text: 'x > 1', facts: [{ text: 'x', value: 0 }] },
    { code: 'cooldown', remaining: 1 },
    { code: 'cooldown', remaining: null },
    { code: 'charges', remaining: 1 },
    { code: 'charges', remaining: null },
    { code: 'pool', pool: 'wind', have: 1, need: 2 },
    { code: 'restart', pool: 'wind', have: 1, need: 2 },
    { code: 'cost', pool: 'wind' },
    { code: 'target', wants: 'move' },
    { code: 'room' },
    { code: 'barred', by: 'jab' },
    { code: 'busy', by: 'jab', phase: null },
    { code: 'busy', by: 'jab', phase: 'active' },
    { code: 'running' },
    { code: 'outranked', by: 'jab' },
  ];
  const texts = Object.entries(REASON_TEXTS) as [ReasonText, string][];
  const reasons = Object.fromEntries(texts.map(([key, text]) => [key, `<${key}> ${text}`]));
  const said = each.map((reason) => wordReason(reason, { reasons }));
  for (const text of [...said, ...each.map((reason) => wordReason(reason))]) expect(text).not.toMatch(/[{}]|undefined/);
  const keys = said.flatMap((text) => [...text.matchAll(/<(\w+)>/g)].map(([, key]) => key));
  expect(new Set([...keys, 'may', 'mayNot'])).toEqual(new Set(Object.keys(REASON_TEXTS)));
});

const MASHED = `
loggia: 1
name: Pell
inputs: { move: { stick: { left: KeyA, right: KeyD } }, gaff: { button: KeyJ, buffer: 3f }, gale: { button: KeyF }, lamp: { button: KeyL } }
pools: { wind: { max: 24, start: 3 } }
lanes: [body, legs]
stances: { stand: { when: grounded }, fall: {} }
abilities:
  airJab: { start: { press: gaff }, from: fall, phases: [{ for: 9f }] }
  sweep: { start: { press: gaff }, follows: { jab: 9f }, phases: [{ for: 9f }] }
  jab: { start: { press: gaff }, from: stand, phases: [{ for: 4f }] }
  sprint: { lane: legs, start: { hold: gale }, upkeep: { wind: { rate: 60, restart: 6 } } }
  flare: { start: { press: lamp }, locked: true, phases: [{ for: 9f }] }
`;

test('each press has one answer: what it started, or why the likeliest was refused', () => {
  const pell = new Character(plan(MASHED), { world: flatGround() });
  const answers = (...presses: string[]) => {
    for (const input of presses) pell.door.press(input);
    pell.tick();
    for (const input of presses) pell.door.release(input);
    return pell.readout.answers.map(({ input, started, refused, reason, kept }) => ({
      [input]: started ?? `${refused} ${reason?.code} ${Math.round(kept * 60)}`,
    }));
  };
  expect(answers()).toEqual([]);
  expect(answers('gaff')).toEqual([{ gaff: 'jab' }]);
  // In the air and after a jab are other abilities: what was meant is what runs.
  expect(answers('gaff')).toEqual([{ gaff: 'sweep busy 3' }]);
  expect(answers()).toEqual([]);
  // What was kept starts, and is answered once more.
  expect([answers(), answers()]).toEqual([[], [{ gaff: 'sweep' }]]);
  // Nothing listens but what is not learnt.
  expect(answers('lamp')).toEqual([{ lamp: 'flare locked 0' }]);
  pell.door.pool('wind', 2);
  pell.door.press('gale');
  expect(answers()).toEqual([{ gale: 'sprint' }]);
  // Held on, it complains of nothing: only a press is answered.
  const later = Array.from({ length: 30 }, () => answers()).flat();
  expect(later).toEqual([]);
  pell.door.release('gale');
  expect(answers()).toEqual([]);
  expect(answers('gale')).toEqual([{ gale: 'sprint restart 0' }]);
});
