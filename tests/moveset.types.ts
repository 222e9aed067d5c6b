/** Compiled by `npm run types`, never run: what must be an error in the editor, and what must not. */
import { defineMoveset } from '../src/index.js';

defineMoveset({
  loggia: 1,
  name: 'Pell',
  pools: { wind: { max: 24 } },
  inputs: { move: { stick: { left: 'KeyA' } }, jump: { button: 'Space' } },
  probes: { wall: { ray: [1, 0] } },
  events: ['bell'],
  body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } },
  lanes: ['body', 'hands'],
  stances: {
    stand: { when: (f) => f.grounded && f.hits('wall') && f.pool('wind') > 1, body: 'low', tags: 'floor' },
    fall: {},
  },
  abilities: {
    hop: {
      lane: 'hands',
      start: [{ press: 'jump' }, { hold: 'move.left' }],
      from: ['stand', 'floor'],
      follows: { dash: '0.2s' },
      cost: { wind: 3 },
      breaks: ['dash'],
      phases: [{ for: '1f', move: { along: ['move', 'facing'], speed: 9 }, emit: 'bell', open: ['dash'] }],
    },
    dash: { start: { event: 'bell' }, phases: [{ for: '12f' }] },
  },
});

defineMoveset({
  loggia: 1,
  name: 'Pell',
  pools: { wind: { max: 24 } },
  inputs: { move: { stick: { left: 'KeyA' } }, jump: { button: 'Space' } },
  events: ['bell'],
  probes: { wall: { ray: [1, 0] } },
  lanes: ['body', 'hands'],
  body: { shapes: { tall: [0.6, 1.8] } },
  stances: {
    // @ts-expect-error there is no shape "lwo"
    stand: { when: 'grounded', body: 'lwo' },
    // @ts-expect-error there is no pool "wnid"
    crouch: { when: (f) => f.pool('wnid') > 1 },
    // @ts-expect-error there is no probe "wlal"
    press: { when: (f) => f.hits('wlal') },
    fall: {},
  },
  abilities: {
    // @ts-expect-error there is no lane "hand"
    a: { lane: 'hand', start: { code: 'only' } },
    // @ts-expect-error there is no input "jmup"
    b: { start: { press: 'jmup' } },
    // @ts-expect-error there is no stance "stnad"
    c: { start: { press: 'jump' }, from: ['stnad'] },
    // @ts-expect-error there is no pool "wnid"
    d: { start: { press: 'jump' }, cost: { wnid: 3 } },
    // @ts-expect-error there is no ability "hpo"
    e: { start: { press: 'jump' }, breaks: ['hpo'] },
    // @ts-expect-error there is no stick "mvoe"
    f: { start: { press: 'jump' }, phases: [{ for: '1f', move: { along: 'mvoe', speed: 1 } }] },
    // @ts-expect-error a time has a unit
    g: { start: { press: 'jump' }, phases: [{ for: 3 }] },
    // @ts-expect-error there is no event "bel"
    h: { start: { event: 'bel' } },
    // @ts-expect-error there is no side "lefft"
    i: { start: { hold: 'move.lefft' } },
  },
});
