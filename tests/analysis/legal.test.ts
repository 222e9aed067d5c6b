import { expect, test } from 'vitest';
import type { Character } from '../../src/index.js';
import { type LegalCell, type LegalRow, legalOf } from '../../src/study/index.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { answer, create, makeScript, play, worldOf } from '../random/play.js';
import { plan } from '../support.js';

/** The reasons that speak of the words of the table, and no others. */
const WORDS = { open: ['busy', 'running'], bars: ['barred'], follows: ['follows'], from: ['from'] } as const;

test('random movesets: what the table forbids is refused for that reason, and what it allows is not refused for any of its words', () => {
  const seen = { no: 0, if: 0, yes: 0, open: 0, bars: 0, follows: 0, from: 0, breaks: 0 };
  forRandom(MOVESETS, (random) => {
    const plan = makeMoveset(random, { functions: false });
    const world = random.chance(0.2) ? undefined : worldOf(random, plan);
    const { rows } = legalOf(plan);
    const check = (c: Character) => {
      if (random.chance(0.85)) return;
      const { readout } = c;
      const running = plan.names.lane.flatMap((lane) => {
        const ability = readout.ability(lane);
        return ability === null ? [] : { ability, phase: readout.phase(lane), lane };
      });
      plan.abilities.forEach(({ name, lane, from }, i) => {
        const codes: string[] = c.explain(name).reasons.map(({ code }) => code);
        const now: LegalCell[] = running.map(
          ({ ability, phase }) =>
            rows.find((row) => row.ability === ability && row.phase === phase)?.cells[i] as LegalCell,
        );
        // The cell of the stance speaks of a free lane.
        if (!running.some((one) => one.lane === plan.names.lane[lane]))
          now.push(rows.find(({ stance }) => stance === readout.stance)?.cells[i] as LegalCell);
        for (const { may, by, rules } of now) {
          seen[may]++;
          if (by in seen) seen[by as keyof typeof seen]++;
          for (const { word, allows } of rules) {
            if (allows !== 'no' || !(word in WORDS)) continue;
            const expected: readonly string[] = WORDS[word as keyof typeof WORDS];
            expect([name, word, codes.some((code) => expected.includes(code))]).toEqual([name, word, true]);
          }
        }
        const words = now.flatMap(({ rules }) => rules);
        const speaks = (word: string, allows: readonly string[]) =>
          words.some((rule) => rule.word === word && allows.includes(rule.allows));
        const told = (...of: string[]) => codes.filter((code) => of.includes(code));
        // A stance is a condition of its own while something runs.
        if (from === null) expect([name, told('from')]).toEqual([name, []]);
        if (!speaks('open', ['no'])) expect([name, told('busy', 'running')]).toEqual([name, []]);
        if (!speaks('bars', ['no'])) expect([name, told('barred')]).toEqual([name, []]);
        if (!speaks('follows', ['no', 'if'])) expect([name, told('follows')]).toEqual([name, []]);
        if (!speaks('when', ['if'])) expect([name, told('when')]).toEqual([name, []]);
        if (!speaks('loadout', ['if'])) expect([name, told('loadout')]).toEqual([name, []]);
      });
    };
    play(
      create(plan, world, world ? {} : { probes: answer }),
      makeScript(random, plan, TICKS, { contacts: !world }),
      0,
      TICKS,
      check,
    );
  });
  for (const [kind, count] of Object.entries(seen)) expect([kind, count > 20]).toEqual([kind, true]);
});

const TEXT = `
loggia: 1
name: Pell
pools: { wind: { max: 9 } }
inputs: { gaff: { button: KeyJ }, gale: { button: KeyF }, brace: { button: KeyB } }
lanes: [body, hands]
stances: { floor: { when: grounded }, fall: {} }
abilities:
  jab:
    start: { press: gaff }
    from: floor
    phases: [{ name: active, for: 5f }, { name: recovery, for: 9f, open: nimble, bars: brace }]
  sweep: { start: { press: gaff }, follows: { jab: 0.2s }, phases: [{ for: 9f }], tags: nimble }
  dash: { start: { press: gale }, when: pool.wind > 3, breaks: jab, phases: [{ for: 9f }] }
  brace: { lane: hands, start: { hold: brace } }
`;

test('each rule says what decides, where it stands, and what would have to change', () => {
  const { rows, abilities } = legalOf(plan(TEXT));
  const cell = (moment: string, into: string) => {
    const row = rows.find(({ stance, ability, phase }) => (stance ?? `${ability} ${phase}`) === moment);
    const { may, by, rules } = (row as LegalRow).cells[abilities.indexOf(into)];
    return [may, by, ...rules.map(({ word, allows, text, path }) => `${word} ${allows}: ${text} @ ${path.join('.')}`)];
  };
  expect(cell('jab active', 'sweep')).toEqual([
    'no',
    'open',
    'open no: jab in active holds the lane "body", is not open to sweep, and sweep does not break it @ abilities.jab.phases.0',
    'follows yes: sweep follows jab @ abilities.sweep.follows',
  ]);
  expect(cell('jab recovery', 'sweep')).toEqual([
    'yes',
    'open',
    'open yes: jab in recovery is open to it (open: nimble, a tag of sweep) @ abilities.jab.phases.1.open',
    'follows yes: sweep follows jab @ abilities.sweep.follows',
  ]);
  expect(cell('jab recovery', 'brace')).toEqual([
    'no',
    'bars',
    'lane yes: brace runs beside it, in the lane "hands" @ abilities.brace.lane',
    'bars no: jab in recovery bars it (bars: brace) @ abilities.jab.phases.1.bars',
  ]);
  expect(cell('jab active', 'dash')).toEqual([
    'if',
    'breaks',
    'breaks yes: dash breaks jab (breaks: jab) @ abilities.dash.breaks',
    'when if: pool.wind > 3 @ abilities.dash.when',
  ]);
  expect(cell('brace null', 'jab')).toEqual([
    'if',
    'lane',
    'lane yes: jab runs beside it, in the lane "body" @ abilities.jab.lane',
    'from if: the stance is floor @ abilities.jab.from',
  ]);
  expect(cell('fall', 'jab').slice(0, 2)).toEqual(['no', 'from']);
  expect(cell('floor', 'sweep')[2]).toContain('follows if: jab ended at most 0.2 s ago');
  expect(rows[1].cells[0].rules[0].change).toBe('add fall to "from" of jab');
});
