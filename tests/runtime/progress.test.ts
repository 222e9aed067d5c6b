import { expect, test } from 'vitest';
import { loadProgress, saveProgress } from '../../src/index.js';
import { makeCharacter, tap, tick } from '../support.js';

const GROWING = `
pools: { grit: { max: 9 } }
abilities:
  heave: { start: { press: gaff }, locked: true, phases: [{ for: 9f }] }
  hop: { start: { press: jump }, phases: [{ for: 9f }] }
  glow: { start: { press: gale }, phases: [{ for: 9f }] }
loadouts: { rigger: { abilities: [heave] }, lantern: { abilities: [glow] } }
`;

test('abilities are learnt and forgotten, also while they run', () => {
  const c = makeCharacter(GROWING);
  expect(tap(c, 'gaff')).toEqual([]); // what is not learnt is not told of
  expect(c.explain('heave').text).toBe('heave may not start: not learnt.');
  c.door.learn('heave');
  expect(tap(c, 'gaff')).toContain('+heave');
  c.door.forget('heave');
  expect(tick(c)).toEqual(['-heave unavailable']);
  expect(c.explain('heave').text).toBe('heave may not start: not learnt.');
});

test('a loadout that is swapped ends what does not come with it', () => {
  const c = makeCharacter(GROWING);
  expect(tap(c, 'gale')).toEqual([]);
  expect(c.explain('glow').text).toBe('glow may not start: not in the loadout rigger.');
  c.door.learn('heave');
  tap(c, 'gaff');
  c.door.loadout('lantern');
  expect(tick(c)).toEqual(['loadout', '-heave unavailable']);
  expect(tap(c, 'gale')).toContain('+glow');
  expect(tap(c, 'jump')[0]).toBe('!hop busy');
});

test('progress is saved and loaded; what is unknown is told, kept aside and saved again', () => {
  const c = makeCharacter(GROWING);
  c.door.learn('heave');
  c.door.forget('hop');
  c.door.loadout('lantern');
  c.door.pool('grit', 4);
  tick(c);
  const saved = JSON.parse(JSON.stringify(saveProgress(c)));
  expect(saved).toEqual({
    loggia: 1,
    moveset: 'Pell',
    learnt: ['heave'],
    forgotten: ['hop'],
    latched: [],
    loadout: 'lantern',
    pools: { grit: 4 },
  });

  const other = makeCharacter(GROWING);
  const strange = { ...saved, learnt: ['heave', 'heav', 'soar'], pools: { grit: 4, mana: 3 } };
  const { problems, aside } = loadProgress(other, strange);
  tick(other);
  expect(problems).toEqual([
    'There is no ability "heav" in Pell. Did it become "heave"?',
    'There is no ability "soar" in Pell.',
    'There is no pool "mana" in Pell.',
  ]);
  expect(saveProgress(other, aside)).toEqual({ ...saved, aside: { learnt: ['heav', 'soar'], pools: { mana: 3 } } });

  const third = makeCharacter(GROWING.replaceAll('hop', 'soar'));
  loadProgress(third, { ...saveProgress(other, aside), forgotten: [] });
  tick(third);
  expect(third.readout.isKnown('soar')).toBe(true);
  expect(loadProgress(third, 'nonsense').problems).toHaveLength(1);
});

test('what a save holds survives any number of rounds: another format, an unknown loadout, wrong types', () => {
  const c = makeCharacter(GROWING);
  const rounds = (saved: unknown) => {
    let told: string[] = [];
    let now = saved;
    for (let i = 0; i < 3; i++) {
      const { problems, aside } = loadProgress(c, now);
      tick(c);
      if (i === 0) told = [...problems];
      now = JSON.parse(JSON.stringify(saveProgress(c, aside)));
    }
    return { told, aside: (now as { aside?: unknown }).aside };
  };
  const old = { loggia: 7, hats: ['tall'] };
  expect(rounds(old)).toEqual({
    told: ['This is not progress of format 1; nothing was taken from it.'],
    aside: { saved: old },
  });
  expect(rounds({ loggia: 1, loadout: 'diver' })).toEqual({
    told: ['There is no loadout "diver" in Pell.'],
    aside: { loadout: 'diver' },
  });
  expect(rounds({ loggia: 1, learnt: 'heave', pools: { grit: 'much', __proto__: 3 } })).toEqual({
    told: [
      '"learnt" must be a list of abilities, not "heave".',
      'The amount of "grit" must be a number up to 1000000, not "much".',
    ],
    aside: { faulty: { learnt: 'heave', grit: 'much' } },
  });
  const deep = JSON.parse(`${'['.repeat(5000)}${']'.repeat(5000)}`);
  expect(rounds(deep).told).toEqual(['This save nests deeper than 32 levels; nothing was taken from it.']);
});

test('clips follow what lies uppermost, and tell how far they are', () => {
  const c = makeCharacter(
    `
abilities:
  jab: { start: { press: gaff }, clip: jab, phases: [{ for: 5f }, { for: 5f, clip: hit }, { for: 5f }] }
  wave: { lane: hands, start: { hold: gale }, clip: wave }
lanes: [body, hands]`.replace('stances', 'x'),
  );
  c.door.press('gaff');
  tick(c, 4);
  expect([c.readout.clip, c.readout.clipProgress]).toEqual(['jab', 3 / 15]);
  tick(c, 3);
  expect([c.readout.clip, c.readout.clipSince, c.readout.clipProgress]).toEqual(['hit', 5, 1 / 5]);
  tick(c, 4);
  expect([c.readout.clip, c.readout.clipProgress]).toEqual(['jab', 10 / 15]);
  c.door.press('gale');
  tick(c, 3);
  expect([c.readout.clip, c.readout.clipProgress, c.readout.clipTime]).toEqual(['wave', null, 2 / 60]);
  c.door.release('gale');
  tick(c, 10);
  expect(c.readout.clip).toBeNull();
});
