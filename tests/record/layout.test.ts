import { expect, test } from 'vitest';
import { A_BROKEN, B_USED, C_LENGTH, HEAD, L_TRIGGER, N_REFILL, P_WATCHED, R_TOLD } from '../../src/record/slots.js';
import { forRandom, MOVESETS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';

test('no two things have a place in common, and every place that a plan uses lies in its own stretch', () => {
  forRandom(MOVESETS / 2, (random, seed) => {
    const plan = makeMoveset(random);
    const { fingerprint } = plan;
    const { ranges, end } = plan.layout;
    expect(ranges[0]).toEqual({ label: 'head', at: 0, count: HEAD });
    // One behind the other, without gaps.
    ranges.forEach(({ at, count }, i) => {
      expect([seed, i, at + count]).toEqual([seed, i, ranges[i + 1]?.at ?? end]);
    });
    expect(new Set(ranges.map(({ label }) => label)).size).toBe(ranges.length);
    expect([plan.recordSize, fingerprint > 0]).toEqual([end, true]);

    const labelOf = (place: number) => ranges.find(({ at, count }) => place >= at && place < at + count)?.label;
    for (const a of plan.abilities) {
      expect(labelOf(a.at + A_BROKEN)).toBe(`ability ${a.name}`);
      expect(labelOf(a.laneAt + L_TRIGGER)).toBe(`lane ${plan.names.lane[a.lane]}`);
      if (a.chargesAt >= 0) expect(labelOf(a.chargesAt + N_REFILL)).toBe(`charges of ${a.name}`);
      if (a.eligibleAt >= 0) expect(labelOf(a.eligibleAt)).toBe(`grace of ${a.name}`);
      if (a.cooldownAt >= 0) expect(labelOf(a.cooldownAt + C_LENGTH)).toMatch(/^cooldown /);
      const { ownAt, owns } = a.scope;
      for (let i = 0; i < owns; i++)
        expect(labelOf(ownAt + i)).toBe(`effects of an ability in ${plan.names.lane[a.lane]}`);
    }
    for (const { ability, scope } of plan.phases)
      for (let i = 0; i < scope.owns; i++)
        expect(labelOf(scope.ownAt + i)).toBe(`effects of a phase in ${plan.names.lane[plan.abilities[ability].lane]}`);
    for (const trigger of plan.triggers) {
      expect(labelOf(trigger.at + R_TOLD)).toMatch(/^trigger /);
      if (trigger.own >= 0) expect(labelOf(trigger.own)).toMatch(/^memory of trigger /);
    }
    for (const pool of plan.pools) expect(labelOf(pool.at + P_WATCHED)).toBe(`pool ${pool.name}`);
    plan.names.button.forEach((name, i) => {
      expect(labelOf(plan.layout.buttons + i * 4 + B_USED)).toBe(`button ${name}`);
    });
  });
});
