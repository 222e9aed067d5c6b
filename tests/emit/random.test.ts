import { expect, test } from 'vitest';
import type { Plan } from '../../src/index.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeSound } from '../random/moveset.js';
import { answer, create, difference, holdAsAt, makeScript, play, wordDifference, worldOf } from '../random/play.js';
import { shrink } from '../random/shrink.js';
import { generated, generatedWhole } from './generated.js';

test(
  'random movesets: the generated module and the interpreter are equal in every number, event and reason',
  () => {
    forRandom(MOVESETS, (random) => {
      const { plan, source } = makeSound(random, { functions: false });
      const module = generated(plan);
      const world = random.chance(0.2) ? undefined : worldOf(random, plan);
      const options = { refusals: random.chance(0.7), ...(world ? {} : { probes: answer }) };
      const script = makeScript(random, plan, TICKS, { contacts: !world });
      const one = create(plan, world, options);
      const middle = random.whole(1, TICKS - 1);
      const told = play(one, script, 0, middle);
      const snapshot = one.snapshot();
      told.push(...play(one, script, middle));
      const other = create(random.chance(0.5) ? module : generatedWhole(plan), world, options);
      if (difference(told, play(other, script))) {
        const compare = (smaller: Plan) =>
          wordDifference(create(smaller, world, options), create(generated(smaller), world, options), script);
        expect.fail(
          `${compare(plan)}\nThe least that differs:\n${shrink(source, (less) => compare(less) !== undefined)}`,
        );
      }
      // A snapshot of the interpreter goes on in the module.
      holdAsAt(other, script.held[middle]);
      other.restore(snapshot);
      expect(difference(told.slice(middle), play(other, script, middle))).toBeUndefined();
    });
  },
  300_000 + MOVESETS * 100,
);
