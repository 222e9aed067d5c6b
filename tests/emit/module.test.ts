import { join } from 'node:path';
import { expect, test } from 'vitest';
import { MODULE } from '../../src/compile/version.js';
import { loadMoveset } from '../../src/format/index.js';
import { packModule } from '../../src/format/text.js';
import {
  Character,
  compileMoveset,
  type Facts,
  flatGround,
  PackingError,
  type Plan,
  packMoveset,
} from '../../src/index.js';
import * as library from '../../src/module/index.js';
import { EFFECTS } from '../../src/moveset/effects/index.js';
import { pellPlan, plan, ROOT, SMALL, tap, tick } from '../support.js';
import { generated, generatedWhole } from './generated.js';

test('functions cannot be written: all of them are told with their places', () => {
  const plan = compileMoveset({
    loggia: 1,
    name: 'Pell',
    pools: { wind: { max: 9, regen: () => 1 } },
    stances: { stand: { when: () => true }, fall: {} },
  });
  expect(() => packModule(plan)).toThrow(PackingError);
  expect(() => packModule(plan)).toThrow(/pools\.wind\.regen, stances\.stand\.when/);
});

test('names that are alike, or those of JavaScript and of the library, do not meet in a module', () => {
  const made = plan(`${SMALL}
pools: { wind: { max: 9 }, Wind: { max: 9 } }
abilities:
  warp: { start: { press: gaff }, phases: [{ for: 9f, warp: { along: facing, by: 1 } }] }
  Warp: { start: { press: gale }, from: [stand, fall], cost: { wind: 1, Wind: 2 }, phases: [{ for: 9f }] }
  galeDash: { start: { press: jump }, open: [gale_dash], phases: [{ for: 9f, gravity: 0 }] }
  gale_dash: { start: { press: jump }, follows: galeDash, phases: [{ name: class, for: 9f }, { name: Class, for: 1f }] }
  effects: { start: { code: only }, breaks: all, phases: [{ for: 2f }] }
  eval: { start: { after: effects }, phases: [{ for: 2f }] }
`);
  const world = flatGround();
  const [one, other] = [made, generated(made)].map((each) => {
    const c = new Character(each, { world });
    const told: string[] = [];
    for (const press of ['gaff', 'gale', 'jump', 'jump', 'jump', 'gaff']) {
      if (press === 'jump' && told.length === 60) c.door.request('effects');
      told.push(...tap(c, press), ...tick(c, 12));
    }
    return { told, record: [...c.record] };
  });
  expect(one.told.length).toBeGreaterThan(9);
  expect(other).toEqual(one);
});

test('no function of a module has the name of one of the library', () => {
  const verbs = /^(update|watch|judge|request|start|end|begin|close|leave)([A-Z]\w*)$/;
  const alike = Object.keys(library).flatMap((name) => verbs.exec(name)?.[2] ?? []);
  const names = [...new Set(alike.map((name) => name[0].toLowerCase() + name.slice(1)))];
  const pools = names.map((name) => `${name}: { max: 9 }`).join(', ');
  const abilities = names.map((name) => `  ${name}: { start: { press: gaff }, phases: [{ for: 1f }] }`).join('\n');
  const { code } = packModule(plan(`${SMALL}\npools: { ${pools} }\nabilities:\n${abilities}\n`));
  expect(alike.length).toBeGreaterThan(5);
  expect(Object.keys(library).filter((name) => code.includes(`function ${name}(`))).toEqual([]);
});

test('a condition that asks a probe stands beside others in a module', () => {
  const made = plan(`${SMALL}
probes: { ahead: { ray: [1, 0], at: [0, 0.5] } }
abilities:
  lunge: { start: { press: gaff }, end: [timeIn(lunge) > 5f, ahead.hit], phases: [{ for: 60f }] }
`);
  for (const each of [made, generated(made)]) {
    const c = new Character(each, { world: flatGround() });
    tap(c, 'gaff');
    tick(c, 9);
    expect(c.readout.isRunning('lunge')).toBe(false);
  }
});

test('a module whose refusals are not told explains whole all the same', () => {
  const made = plan(`${SMALL}
pools: { wind: { max: 9, start: 0 } }
loadouts: { deck: { abilities: [lunge] }, bare: { abilities: [hop] } }
abilities:
  lunge: { locked: true, start: { press: gaff }, from: air, cost: { wind: 3 }, phases: [{ for: 9f }] }
  hop: { start: { press: jump }, phases: [{ for: 9f }] }
`);
  const [one, other] = [made, generatedWhole(made)].map((each) => {
    const c = new Character(each, { world: flatGround(), refusals: false });
    c.door.loadout('bare');
    tick(c, 2);
    return [c.explain('lunge').reasons.map(({ code }) => code), c.may('lunge'), c.may('hop')];
  });
  expect(one).toEqual([['locked', 'loadout', 'from', 'pool'], false, true]);
  expect(other).toEqual(one);
});

test('a module shows its volumes', async () => {
  const { plan: made } = await loadMoveset(join(ROOT, 'demo/boatyard/pell-breakwater.yaml'));
  const [one, other] = [made as Plan, generatedWhole(made as Plan)].map((each) => {
    const c = new Character(each, { world: flatGround() });
    tap(c, 'gaff');
    return Array.from({ length: 12 }, () => {
      c.tick();
      return c.readout.volumes;
    });
  });
  expect(new Set(one.map(({ length }) => length)).size).toBeGreaterThan(1);
  expect(other).toEqual(one);
});

test('between two phases of a module, none runs', () => {
  const made = plan(`${SMALL}
abilities:
  lunge: { start: { press: gaff }, phases: [{ name: go, for: 2f }, { name: on, for: 9f, when: not phase(lunge.go) }] }
`);
  for (const each of [made, generatedWhole(made)]) {
    const c = new Character(each, { world: flatGround() });
    tap(c, 'gaff');
    tick(c, 4);
    expect(c.readout.phase()).toBe('on');
  }
});

test.each(['3 + x / 4', '3 + pool.wind / 9', 'pick(x > 2, 9, 5)'])(
  'an effect that reads %s changes in a module while nothing begins or ends',
  (speed) => {
    const walking = SMALL.replace('grounded, tags', `grounded, walk: { speed: "${speed}" }, tags`);
    const made = plan(`${walking}pools: { wind: { max: 9, start: 1, regen: 6 } }\n`);
    const [one, other] = [made, generatedWhole(made)].map((each) => {
      const c = new Character(each, { world: flatGround() });
      c.door.press('move.right');
      return Array.from({ length: 90 }, () => {
        c.tick();
        return c.readout.x;
      });
    });
    const paces = one.slice(1).map((x, i) => (x - one[i]).toFixed(4));
    expect(paces[12]).not.toBe(paces[88]);
    expect(other).toEqual(one);
  },
);

test('a module of another version is refused with a way out', () => {
  for (const make of [library.planOf, library.writtenPlan])
    expect(() => make(99, {} as never)).toThrow(`generated as 99, but this Loggia takes ${MODULE}; generate it again`);
});

test('a module is written whole: a game carries no compiler, and says so where one is asked for', async () => {
  for (const file of ['pell-basics', 'pell', 'pell-mast-row', 'pell-hull', 'pell-breakwater']) {
    const { plan: made } = await loadMoveset(join(ROOT, `demo/boatyard/${file}.yaml`));
    expect(packModule(made as Plan).code).toMatch(/ writtenPlan\(\d+, \{/);
    expect(packModule(made as Plan, {}, { formulas: true }).code).toMatch(/ planOf\(\d+, \{/);
  }
  expect(generatedWhole(plan(SMALL.replace('name: Pell', 'name: "r[3] */ Pell"'))).name).toBe('r[3] */ Pell');
  const c = new Character(generatedWhole(pellPlan()), { world: flatGround() });
  expect(() => (c.facts as Facts).grounded).toThrow(
    'A fact by its name: the module of Pell leaves out the moveset and what reads formulas; generate it with "formulas"',
  );
  expect(() => packMoveset(generatedWhole(pellPlan()))).toThrow('What the moveset says: the module of Pell leaves out');
  expect(new Character(generated(pellPlan()), { world: flatGround() }).facts.grounded).toBe(true);
});

test('every effect can be made again in a module', () => {
  expect(EFFECTS.map(({ key }) => `${key}Effect`).filter((name) => !(name in library))).toEqual([]);
});

test('an ability reads the message that started it, in a module, too', () => {
  const made = plan(`${SMALL}
events: { tea: { values: { spot: point } } }
abilities:
  turn: { start: { event: tea }, phases: [{ for: 20f, interrupt: ahead(tea.spot) }] }
`);
  for (const each of [made, generated(made)]) {
    const c = new Character(each, { world: flatGround() });
    const told: string[] = [];
    const go = (ticks: number) => told.push(...tick(c, ticks));
    c.door.event('tea', { spot: [-5, 0] });
    go(3);
    // It is in front of the body, but not of this ability.
    c.door.event('tea', { spot: [5, 0] });
    go(22);
    expect(told).toContain('-turn time');
  }
});

test('what holds on is judged in the tick in which it was broken, also where an end may request something', () => {
  const made = plan(`${SMALL}
abilities:
  slip: { start: { rule: released(gaff) }, phases: [{ for: 1f, when: vy > 50 }] }
  brace: { start: { toggle: jump }, phases: [{ for: 1s, open: slip }] }
  nod: { start: { after: slip }, when: vy > 50, phases: [{ for: 1f }] }
`);
  for (const each of [made, generated(made)]) {
    const c = new Character(each, { world: flatGround() });
    c.door.press('gaff');
    expect(tap(c, 'jump')).toContain('+brace');
    tick(c, 3);
    c.door.release('gaff');
    expect(tick(c)).toEqual(['-brace followed', '+slip', '-slip time', '+brace', 'brace.1']);
  }
});
