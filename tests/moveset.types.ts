/** Compiled by `npm run types`, never run: what must be an error in the editor, and what must not. */
import { Character, compileMoveset, defineMoveset, flatGround, type Moveset, type NameTypes } from '../src/index.js';

const pell = defineMoveset({
  loggia: 1,
  name: 'Pell',
  pools: { wind: { max: 24 } },
  inputs: { move: { stick: { left: 'KeyA' } }, jump: { button: 'Space' } },
  probes: { wall: { ray: [1, 0] } },
  events: ['bell'],
  body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } },
  lanes: ['body', 'hands'],
  stances: {
    stand: { when: (f) => f.grounded && f.hit('wall') && f.pool('wind') > 1, body: 'low', tags: 'floor' },
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
    press: { when: (f) => f.hit('wlal') },
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
    // @ts-expect-error there is no ability "jba"
    like: { like: 'jba' },
    // @ts-expect-error there is no "without" without "like"
    without: { start: { press: 'jump' }, without: 'cost' },
    // @ts-expect-error an ability needs a start, or another one that it is like
    nothing: {},
    alike: { like: 'a', cost: { wind: 1 } },
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
    // @ts-expect-error there is no event "bel"
    j: { start: { event: 'bell' }, cooldown: { for: '3f', from: 'bel' } },
    // @ts-expect-error a start is one of its kinds
    k: { start: { press: 'jump', hold: 'jump' } },
    // @ts-expect-error there is no phase "og"
    l: { start: { press: 'jump' }, pay: 'og', phases: [{ name: 'go', for: '1f' }] },
    // @ts-expect-error "half" is no share, and no fact
    m: { start: { press: 'jump' }, refund: 'half' },
    // @ts-expect-error there is no fact "grouded"
    n: { start: { press: 'jump' }, when: 'grouded' },
    // @ts-expect-error there is no input "jmup"
    o: { start: { press: 'jump' }, when: 'held(jmup)' },
    // @ts-expect-error there is no pool "wnid"
    p: { start: { press: 'jump' }, phases: [{ for: '1f', move: { up: 'pool.wnid' } }] },
    // @ts-expect-error there is no direction "sideways"
    q: { start: { press: 'jump', toward: 'sideways' } },
    // @ts-expect-error a beat is at a time or every so often
    r: { start: { press: 'jump' }, phases: [{ for: '9f', beats: [{ at: '1f', every: '2f' }] }] },
    // @ts-expect-error there is no loadout "rigger"
    s: { start: { press: 'jump' }, loadout: 'rigger' },
    // @ts-expect-error there is no tag "flor"
    t: { start: { press: 'jump' }, when: (f) => f.tagged('flor') },
  },
});

defineMoveset({
  loggia: 1,
  name: 'Pell',
  // @ts-expect-error there is no key "Spcae"
  inputs: { jump: { button: 'Spcae' } },
  stances: { fall: {} },
});

const c = new Character(compileMoveset(pell), { world: flatGround() });
c.door.press('move.left');
c.readout.ability('hands') satisfies 'hop' | 'dash' | null;
c.facts.fact('pool.wind') satisfies number;
// @ts-expect-error there is no input "jmup"
c.door.press('jmup');
// @ts-expect-error there is no ability "hpo"
c.door.request('hpo');
// @ts-expect-error there is no pool "wnid"
c.readout.pool('wnid');
// @ts-expect-error there is no lane "hand"
c.readout.ability('hand');
// @ts-expect-error there is no ability "hpo"
c.explain('hpo');
// @ts-expect-error there is no probe "wlal"
c.facts.hit('wlal');
// @ts-expect-error there is no fact "grouded"
c.facts.fact('grouded');
// @ts-expect-error there is no stance "stnad"
if (c.readout.stance === 'stnad') c.tick();
// @ts-expect-error there is no ability "hpo"
for (const event of c.readout.events) if (event.kind === 'started' && event.ability === 'hpo') c.tick();

// Where names are not known, any text may be one.
const any: Character = c;
any.door.press('whatever');
any.facts.fact('whatever' as string) satisfies number;
const data: Moveset<NameTypes> = { loggia: 1, name: 'Pell', stances: { fall: { gravity: 'whatever' } } };
new Character(compileMoveset(data)).explain('whatever');

// What is written into the call is typed as by defineMoveset.
const here = compileMoveset({
  loggia: 1,
  name: 'Pell',
  inputs: { jump: { button: 'Space' } },
  stances: { stand: {} },
  abilities: { hop: { start: { press: 'jump' }, phases: [{ for: '9f' }] } },
});
// @ts-expect-error there is no ability "hpo"
new Character(here, { world: flatGround() }).explain('hpo');
// @ts-expect-error there is no input "jmup"
compileMoveset({
  loggia: 1,
  name: 'Pell',
  inputs: { jump: { button: 'Space' } },
  stances: { stand: {} },
  abilities: { hop: { start: { press: 'jmup' } } },
});
// @ts-expect-error the format is missing
compileMoveset({ name: 'Pell', stances: { stand: {} } });
compileMoveset(JSON.parse('{}') as unknown);

const bell = defineMoveset({
  loggia: 1,
  name: 'Bell',
  kinds: ['blunt', 'spark'],
  pools: { calm: { max: 9 } },
  events: { rung: { values: { loud: 'number', from: 'point', tone: ['high', 'low'] } }, struck: {}, quiet: {} },
  hurt: { pool: 'calm', factors: { spark: 2 }, damage: 'blow.damage' },
  stances: { stand: {} },
  abilities: {
    listen: {
      start: { event: 'rung' },
      when: 'rung.tone(low)',
      face: 'toward(rung.from)',
      gain: { calm: 'rung.loud' },
      phases: [{ for: '9f', emit: { rung: { loud: 3, from: 'feet' } }, strike: { sphere: 1, kind: 'blunt' } }],
    },
    flinch: {
      start: { event: 'struck' },
      gain: { calm: 'struck.damage' },
      face: 'struck.push',
      phases: [{ for: '9f' }],
    },
    // @ts-expect-error there is no kind "blnt"
    a: { start: { code: 'only' }, strike: { sphere: 1, kind: 'blnt' } },
    // @ts-expect-error there is no value "rung.laud"
    b: { start: { event: 'rung' }, gain: { calm: 'rung.laud' } },
    // @ts-expect-error there is no point "rung.frm"
    c: { start: { event: 'rung' }, face: 'toward(rung.frm)' },
    // @ts-expect-error there is no event "rnug"
    d: { start: { code: 'only' }, emit: { rnug: { loud: 3 } } },
  },
});
const { door } = new Character(compileMoveset(bell), { world: flatGround() });
door.event('rung', { loud: 3, from: [1, 2] });
door.event('quiet');
// @ts-expect-error there is no value "laud"
door.event('rung', { laud: 3 });
// @ts-expect-error "quiet" carries nothing
door.event('quiet', { loud: 3 });
