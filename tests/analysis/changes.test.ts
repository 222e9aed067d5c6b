import { expect, test } from 'vitest';
import { changesMarkdown } from '../../src/draw/changes.js';
import { changesOf, chartChanges } from '../../src/study/index.js';
import { plan } from '../support.js';

const BEFORE = `
loggia: 1
name: Pell
pools: { wind: { max: 20 } }
inputs: { gaff: { button: KeyJ }, gale: { button: KeyF } }
stances: { stand: {} }
abilities:
  jab: { start: { press: gaff }, cost: { wind: 4 }, phases: [{ name: active, for: 6f }, { name: recovery, for: 12f, open: dash }] }
  dash: { start: { press: gale }, phases: [{ name: go, for: 12f, move: { forward: 18 } }] }
  wave: { start: { press: gale, hold: 1s }, phases: [{ for: 9f }] }
`.replace('press: gale, hold: 1s', 'double: gale');
const AFTER = BEFORE.replace('wind: 4', 'wind: 5')
  .replace('for: 12f, open: dash', 'for: 9f')
  .replace('forward: 18', 'forward: 20')
  .replace('wave:', 'bow:');

test('changes are told as numbers, as pairs that may follow, and as values of the text', () => {
  const changes = changesOf(plan(BEFORE), plan(AFTER));
  expect(changes).toEqual({
    added: ['bow'],
    removed: ['wave'],
    timing: [
      { ability: 'jab', what: 'recovery', before: 12, after: 9 },
      { ability: 'jab', what: 'total', before: 18, after: 15 },
      { ability: 'jab', what: 'cost wind', before: 4, after: 5 },
      { ability: 'jab', what: 'open to', before: 'dash from 6f', after: null },
    ],
    legal: [
      { moment: 'jab recovery', into: 'dash', before: { may: 'yes', by: 'open' }, after: { may: 'no', by: 'open' } },
    ],
    values: [
      { path: 'abilities.jab.cost.wind', before: 4, after: 5 },
      { path: 'abilities.jab.phases.recovery.for', before: '12f', after: '9f' },
      { path: 'abilities.jab.phases.recovery.open', before: 'dash', after: null },
      { path: 'abilities.dash.phases.go.move.forward', before: 18, after: 20 },
    ],
  });
  expect(changesMarkdown('Pell', changes)).toContain('| jab | recovery | 12 -> 9 (-3) |\n');
  expect(changesMarkdown('Pell', changesOf(plan(BEFORE), plan(BEFORE)))).toBe('### Pell: what changed\n\nNothing.\n');
});

test('a chart of changes has what is gone beside what is new', () => {
  const { abilities, arrows } = chartChanges(plan(BEFORE), plan(AFTER));
  expect(abilities.map(({ name, change }) => [name, change])).toEqual([
    ['jab', 'changed'],
    ['dash', null],
    ['bow', 'new'],
    ['wave', 'gone'],
  ]);
  expect(arrows.map(({ from, to, change }) => [from, to, change])).toEqual([['jab', 'dash', 'gone']]);
});
