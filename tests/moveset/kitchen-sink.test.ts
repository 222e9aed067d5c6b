import fc from 'fast-check';
import { expect, test } from 'vitest';
import { advise } from '../../src/analysis/advice.js';
import { checkMoveset, defineMoveset, wordDiagnostic, wordPath } from '../../src/index.js';
import { MOVESETS } from '../random/for-random.js';

/** A moveset that uses nearly every key there is. */
const everything = defineMoveset({
  $schema: './moveset.schema.json',
  loggia: 1,
  name: 'Pell',
  rate: 60,
  view: 'side',
  allow: { 'unread-input': 'a sample' },
  pools: {
    wind: { min: 0, max: 24, start: 20, regen: 1.5, rest: '0.6s', allow: { 'no-drain': 'a sample' } },
    oil: { max: (facts) => 10 + facts.pool('wind') },
  },
  inputs: {
    move: {
      stick: { left: 'KeyA', right: ['KeyD'], up: 'KeyW', down: 'KeyS', pad: 'left' },
      deadzone: 0.1,
      opposite: 'neutral',
      allow: { 'bound-twice': 'a sample' },
    },
    jump: { button: 'Space', buffer: '6f', grace: '4f', allow: {} },
    gaff: { button: ['KeyJ', 'pad.west', 'pointer.primary'] },
    aim: { aim: { pad: 'right', pointer: true } },
    berth: { choice: { slip: 'KeyN', mast: [] } },
  },
  events: {
    bell: { values: { loud: 'number', from: 'point' }, hears: 'own' },
    splash: {},
  },
  kinds: ['blunt', 'spark'],
  summons: ['gull'],
  tags: ['rigger'],
  hurt: {
    pool: 'wind',
    factors: { blunt: '50%', spark: 2 },
    damage: 'blow.damage * pick(hitsTaken > 3, 0.5, 1)',
    limits: { push: 12, stop: '12f' },
    volumes: {
      tall: [{ box: [0.5, 1], at: [0, 0.5], factor: 1.5 }, { capsule: 0.2, at: [0, 1], to: [0, 2] }, { sphere: 0.2 }],
    },
  },
  places: ['slip', 'mast'],
  surfaces: ['rough', 'plank'],
  marks: { moored: { saved: true } },
  conditions: { ready: 'grounded and pool.wind > 1' },
  probes: {
    wall: { ray: [1, 0, 0], at: [0, 1], on: 'rough' },
    ledge: { overlap: 'body', from: 'hooked', at: [0, 1], on: ['rough'] },
    rim: { nearest: 0.9 },
    nearest: { first: ['wall', 'line'] },
    around: { average: ['wall', 'line', 'nearest'] },
    line: { along: ['move', 'into(wall)'], reach: 'pool.wind / 2', flat: true, box: [0.2, 0.2] },
  },
  body: {
    shapes: { tall: [0.6, 1.8], low: [0.6, 0.9, 0.6] },
    gravity: 25,
    fall: 18,
    walk: { speed: 5, accel: 60, brake: 80 },
    stick: 'move',
    slope: 1,
    step: 0.2,
    meets: 'push',
  },
  lanes: ['body', 'hands'],
  stances: {
    stand: {
      when: 'grounded',
      immune: true,
      armour: ['spark'],
      meets: 'push',
      bounce: 0.5,
      gravity: '100%',
      fall: 9,
      steer: 1,
      walk: { speed: '90%', accel: 50, brake: 60 },
      body: 'tall',
      face: 'free',
      passes: 'plank',
      tags: ['floor'],
      clip: 'stand',
      beats: [
        { moment: 'begin', emit: 'splash' },
        { place: 0.5, gain: { wind: 1 } },
      ],
      allow: {},
    },
    air: {},
  },
  abilities: {
    jab: {
      lane: 'body',
      start: [
        { press: 'gaff', toward: 'up', with: 'jump' },
        { release: 'gaff', held: '0.5s' },
        { tap: 'gaff', within: '0.2s' },
        { double: 'move.left', within: '0.2s' },
        { sequence: ['down', 'forward', 'gaff'], within: '0.4s' },
        { hold: 'jump' },
        { toggle: 'jump', unlatch: ['landed'] },
        { rule: (facts) => facts.hit('wall'), once: true },
        { after: 'byCode', why: ['time', 'broken'] },
        { event: 'bell' },
      ],
      from: ['stand', 'floor'],
      follows: { jab: '0.1s' },
      when: ['grounded', 'pool.wind > 1'],
      grace: '2f',
      buffer: '3f',
      cost: { wind: 3, oil: 'vx + 1' },
      pay: 'hit',
      refund: '50%',
      upkeep: { wind: { rate: 2, restart: 4 }, oil: 1 },
      interrupt: 'event(bell)',
      cooldown: { for: '1s', from: 'bell', group: 'gaff' },
      charges: { max: 2, every: '3s' },
      breaks: 'attack',
      open: ['jab'],
      bars: ['attack'],
      locked: true,
      loadout: 'rigger',
      end: ['landed'],
      tags: 'attack',
      clip: { base: 'jab', coat: 'coatJab' },
      beats: [{ moment: 'end', emit: 'splash' }],
      gravity: 0,
      fall: 3,
      steer: 0,
      walk: { speed: 1 },
      body: 'low',
      face: { along: ['aim', 'toward(hooked)'], live: true },
      passes: ['plank'],
      marks: ['hooked'],
      mark: { hooked: 'line', moored: 'none' },
      warp: { to: 'berth', offset: ['wall.distance', 0], raise: 1, momentum: 'turn' },
      gain: { wind: 1 },
      emit: 'splash',
      move: {
        along: ['move', 'out(wall)', 'facing'],
        live: true,
        speed: 9,
        up: 1,
        forward: '50%',
        mode: 'add',
        flat: true,
        tilt: 0.2,
        on: 'wall',
        gap: 0.3,
        steer: '30%',
        curve: [{ at: '2f', to: [1, 0.5] }],
        keep: 0.5,
      },
      allow: { 'short-cooldown': 'a sample' },
      phases: [
        {
          name: 'wind',
          charge: { over: '1s', curve: 'smooth', levels: { full: 1 }, full: 'go', early: 'cancel', keep: true },
          interrupt: ['moving'],
          clip: 'coil',
        },
        {
          name: 'hit',
          for: '6f',
          until: 'atWall',
          when: 'level(full)',
          gravity: 0,
          fall: 1,
          steer: 0,
          walk: { brake: 0 },
          body: 'low',
          face: 'fixed',
          passes: 'rough',
          mark: { moored: 'feet' },
          warp: { along: ['aim', 'facing'], by: 4, through: 'pool.wind / 9', floor: 2, flat: true, tilt: 0.4 },
          tags: 'bright',
          gain: { oil: 1 },
          emit: ['splash'],
          open: 'attack',
          bars: 'jab',
          move: { forward: 8 },
          immune: ['spark'],
          armour: true,
          bounce: '40%',
          summon: { who: 'gull', at: [1, 1, 0], velocity: { along: 'aim', speed: 3, up: 1, flat: true }, does: 'dive' },
          leave: false,
          learn: 'jab',
          forget: ['jab'],
          touch: {
            volumes: [{ sphere: 1 }],
            at: [0, 1],
            tells: 'rung',
            again: '6f',
            most: 3,
            hits: 'all',
            tagged: ['wooden'],
            values: { loud: 1 },
          },
          meets: 'block',
          strike: {
            volumes: [
              { box: [1, 1, 1], at: [1, 1] },
              { sphere: 1, factor: 2 },
              { capsule: 0.2, to: [1, 1] },
              { ray: [2, 0], radius: 0.1 },
              { along: 'aim', reach: 'pool.wind', flat: true, radius: 0.1 },
            ],
            damage: '4 + pool.wind',
            kind: 'blunt',
            push: { along: ['toward(target)', 'blow.push'], speed: 3, up: 1, flat: true },
            stun: '14f',
            stop: '3f',
            again: '6f',
            most: 3,
            hits: 'all',
            tagged: 'wooden',
            values: { wet: 1 },
            gain: { oil: 1 },
            clash: 1,
          },
          guard: {
            arc: 120,
            absorb: '50%',
            kinds: { blunt: 1 },
            cost: { wind: 'blow.damage / 2' },
            stun: '4f',
            steady: 0.5,
            parry: '6f',
            parried: '20f',
            broken: 'blow.stun',
          },
          beats: [
            { at: '2f', emit: 'splash', mark: { moored: 'middle' } },
            { every: '2f', gain: { wind: 1 } },
          ],
        },
      ],
    },
    byCode: {
      start: { code: 'only' },
      immune: true,
      armour: true,
      meets: 'push',
      bounce: 1,
      summon: { who: 'gull' },
      leave: true,
      learn: 'jab',
      forget: 'jab',
      touch: { box: [1, 1], tells: 'rung' },
      guard: {},
      strike: { box: [1, 1], at: [0, 1], factor: 2 },
      cooldown: '1s',
      charges: { max: 1, refill: 'grounded' },
      phases: [
        { for: '1f', strike: { sphere: 1 }, touch: { sphere: 1, tells: 'rung' } },
        { for: '1f', touch: { capsule: 1, to: [1, 0], tells: 'rung' } },
        { for: '1f', touch: { ray: [1, 0], radius: 1, tells: 'rung' } },
        { for: '1f', touch: { along: 'move', reach: 1, flat: true, tells: 'rung' } },
        { for: '1f', strike: { capsule: 1, to: [1, 0] } },
        { for: '1f', strike: { ray: [1, 0], radius: 1 } },
        { for: '1f', strike: { along: 'move', reach: 1, flat: true } },
      ],
    },
  },
  clips: { stand: '1.2s' },
  loadouts: {
    rigger: {
      abilities: ['jab'],
      clip: 'rigger',
      beats: [{ every: '1s', emit: 'splash' }],
      immune: ['blunt'],
      armour: true,
      meets: 'pass',
      bounce: '10%',
      gravity: '50%',
      fall: 2,
      steer: 1,
      walk: { speed: 3 },
      body: 'tall',
      face: 'free',
      passes: 'plank',
      tags: 'dry',
    },
  },
});

test('a moveset of nearly everything is typed, and has no fault', () => {
  const compiled = checkMoveset(everything);
  expect(compiled.diagnostics).toEqual([]);
  expect(compiled.plan?.abilities).toHaveLength(2);
});

test('whatever stands anywhere in it, there is a plan or a sentence for each fault, and nothing is thrown', () => {
  const odd: unknown[] = [
    undefined,
    null,
    true,
    Number.NaN,
    -1,
    0.5,
    1e9,
    '',
    'x',
    '12f',
    'grounded and',
    'not jump',
    '40%',
  ];
  odd.push(
    'vy > 0.2s',
    'pool.wind',
    'charge',
    () => 1,
    [],
    [[]],
    [null],
    ['gaff', 'gaff'],
    {},
    { x: 1 },
    { for: null },
  );
  odd.push({ wind: -1 }, { gaff: '0.1s' }, Object.assign(Object.create(null), { wind: 'x' }));
  type Way = (string | number)[];
  const ways = (node: unknown): Way[] =>
    typeof node === 'object' && node !== null
      ? Object.entries(node).flatMap(([key, item]) => [[key], ...ways(item).map((way) => [key, ...way])])
      : [];
  const change = (node: any, [key, ...rest]: Way, value: unknown): any => {
    if (typeof node !== 'object' || node === null || !(key in node)) return node;
    const changed = rest.length === 0 ? value : change(node[key], rest, value);
    return Array.isArray(node) ? node.with(Number(key), changed) : { ...node, [key]: changed };
  };
  const one = fc.tuple(fc.constantFrom(...ways(everything)), fc.constantFrom(...odd));
  fc.assert(
    fc.property(fc.array(one, { minLength: 1, maxLength: 3 }), (changes) => {
      const changed = changes.reduce((moveset: unknown, [way, value]) => change(moveset, way, value), everything);
      const { plan, diagnostics } = checkMoveset(changed, advise);
      for (const d of diagnostics)
        expect(`${wordPath(d.path)}: ${wordDiagnostic(d)}`).not.toMatch(/undefined|\[object/);
      expect(plan === undefined).toBe(diagnostics.some((d) => d.severity === 'error'));
    }),
    { seed: 12, numRuns: 2 * MOVESETS },
  );
});
