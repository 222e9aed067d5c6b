import { expect, test } from 'vitest';
import { runScenarioData } from '../../src/scenario/run-data.js';
import { exploreMoveset } from '../../src/study/index.js';
import { MOVESETS } from '../random/for-random.js';
import { plan } from '../support.js';
import { DUMMY, PLANTED } from './planted.js';

/** All of them in `npm run test:long`; in each run of the tests, one that takes little. */
const isLong = MOVESETS > 101;
const SOME = ['endless-in-the-air'];
const TRIED = PLANTED.filter(
  ({ kind }, i) => isLong || (SOME.includes(kind) && PLANTED.findIndex((one) => one.kind === kind) === i),
);

test.each(TRIED.map((one) => [`${one.kind} ${one.name}`, one] as const))(
  'planted: %s is found, its scenario passes, and without it nothing is found',
  async (_, { kind, name, faulty, mended, duel }) => {
    const find = (text: string) =>
      exploreMoveset(plan(text), {
        time: 60,
        states: isLong ? 8000 : 1500,
        ...(duel && { against: plan(DUMMY) }),
      });
    const { findings } = await find(faulty);
    const found = findings.find((one) => one.kind === kind && new RegExp(`\\b${name}\\b`).test(one.text));
    expect(found ?? findings).toMatchObject({ kind });
    if (found?.scenario) {
      const movesets = { Dummy: plan(DUMMY) };
      const { result, diagnostics } = runScenarioData(plan(faulty), found.scenario, 'nothing', movesets);
      expect([result?.failures, diagnostics]).toEqual([[], []]);
    } else expect(['never-starts', 'never-reached', 'only-falls']).toContain(kind);
    expect((await find(mended)).findings.map(({ text, scenario }) => [text, scenario?.inputs])).toEqual([]);
  },
);

test('nobody falls out of the yard that a search is given, in the open too; there, a walker falls into a pit', async () => {
  const odd = plan(`
loggia: 1
name: Odd
rate: 11
view: open
inputs: { move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }, dash: { button: KeyF } }
stances: { stand: { when: grounded }, fall: {} }
abilities:
  dash: { start: { press: dash }, phases: [{ for: 5f, gravity: 0, move: { along: [move, facing], speed: 10 } }] }
`);
  const { findings } = await exploreMoveset(odd, { time: 60, states: 4000 });
  expect(findings).toEqual([]);
});
