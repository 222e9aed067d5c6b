import { CompletionContext } from '@codemirror/autocomplete';
import { yaml } from '@codemirror/lang-yaml';
import { ensureSyntaxTree } from '@codemirror/language';
import { EditorState } from '@codemirror/state';
import { expect, test } from 'vitest';
import { Character, flatGround } from '../../src/index.js';
import { Recording } from '../../src/recording/index.js';
import { Model } from '../../viewer/model/model.js';
import { completionsAt, docAt } from '../../viewer/model/reference.js';
import { plan } from '../support.js';

const TEXT = `loggia: 1
name: Pell
pools: { wind: { max: 24 }, oil: { max: 9 } }
inputs: { gale: { button: KeyF }, move: { stick: {} } }
stances: { stand: { when: grounded }, fall: {} }
abilities:
  galeDash:
    start: { press: gale }
    from: [fall]
    cost: { wind: 9 }
    when: pool.wind > 3 and not held(gale)
    phases:
      - { name: go, for: 0.2s, gravity: 0, move: { forward: 18 } }
`;

const model = (): Model => {
  const c = new Character(plan(TEXT), { world: flatGround() });
  const recording = new Recording(c);
  c.tick();
  return new Model(recording, 'test');
};

/** The text with a bar where the cursor is. */
function stateAt(marked: string): { state: EditorState; at: number } {
  const at = marked.indexOf('|');
  const state = EditorState.create({ doc: marked.replace('|', ''), extensions: [yaml()] });
  ensureSyntaxTree(state, state.doc.length, 5000);
  return { state, at };
}

const swapped = (from: string, to: string) => {
  if (!TEXT.includes(from)) throw new Error(`no ${from}`);
  return TEXT.replace(from, to);
};

test.each([
  ['a key of an ability', swapped('    from: [fall]\n', '    fr|\n'), ['from', 'follows', 'cooldown', 'charges']],
  ['a key of a phase', swapped('gravity: 0,', 'gra|'), ['gravity', 'steer', 'strike']],
  ['a stance', swapped('from: [fall]', 'from: [f|]'), ['stand', 'fall']],
  ['a button', swapped('press: gale', 'press: g|'), ['gale', 'move.left']],
  ['a pool', swapped('cost: { wind: 9 }', 'cost: { w| }'), ['wind', 'oil']],
  ['a key of the moveset', swapped('loggia: 1\n', 'loggia: 1\nli|\n'), ['lanes', 'limits', 'loadouts'].slice(0, 1)],
])('completion offers %s', (_, marked, wanted) => {
  const { state, at } = stateAt(marked);
  const labels =
    completionsAt(model(), new CompletionContext(state, at, true))?.options.map(({ label }) => label) ?? [];
  expect(labels).toEqual(expect.arrayContaining(wanted));
});

test.each([
  ['gravity', /^Downward acceleration while it lasts/],
  ['cost', /^Paid at its start/],
  ['max', /./],
])('hovering %s gives what the reference says', (word, text) => {
  const { state } = stateAt(TEXT);
  expect(docAt(model(), state, TEXT.indexOf(`${word}:`) + 1)?.text).toMatch(text);
});

test('hovering a fact in a formula gives its value now', () => {
  const { state } = stateAt(TEXT);
  expect(docAt(model(), state, TEXT.indexOf('pool.wind >') + 6)).toMatchObject({ text: 'pool.wind is 24' });
  expect(docAt(model(), state, TEXT.indexOf('held(gale)') + 1)).toMatchObject({ text: 'held(gale) is false' });
  expect(docAt(model(), state, TEXT.indexOf('name: Pell') + 7)).toBe(null);
});
