import { Character } from '../src/index.js';
import { duelByHand, duelByLoggia } from './arena.js';
import { fightByHand, fightByLoggia, measureCrowd } from './fight.js';
import { allocated, compare, repeat, show } from './measure.js';
import { MINUTE, STREAMS, type StreamName } from './streams.js';
import { LENGTH, playAll, playByHand, ROW } from './worlds.js';

/** What is wanted of each stream, as a ratio to by hand. */
const WANTED: Record<StreamName, string> = {
  real: 'at most 1.3',
  calm: 'at most 1.3',
  mashing: 'at most 2.0',
  walking: 'at most 1.0',
  standing: 'at most 1.0',
};

/*
 * Generated modules against controllers by hand, each in a process that has no other moveset and interprets nothing, as a game with
 * one kind of character: `fighter`, `crowd`, `mast-row` or `duel`.
 */
const PARTS: Record<string, () => Promise<void>> = {
  async fighter() {
    const { default: fight } = await import('./yard-fight.yaml');
    for (const name of Object.keys(STREAMS) as StreamName[]) {
      const [told, untold, hand] = compare(
        [fightByLoggia(fight, name), fightByLoggia(fight, name, undefined, false), fightByHand(name)],
        MINUTE,
      );
      const ratios = [told, untold].map((time) => (time / hand).toFixed(2));
      show(`  ${name}; without telling refusals`, ratios.join('; '), WANTED[name]);
      show('    nanoseconds: module, by hand', `${told.toFixed(0)}, ${hand.toFixed(0)}`);
    }
    const mashing = fightByLoggia(fight, 'mashing');
    show('  bytes allocated over 108,000 warm ticks, mashing', String(allocated(() => repeat(mashing, 30))), '0');
  },
  async crowd() {
    const { default: fight } = await import('./yard-fight.yaml');
    measureCrowd(fight, 1000, 'at most 1.5');
    measureCrowd(fight, 10_000, 'at most 2.0', 'at most 40 %');
  },
  async 'mast-row'() {
    const { default: mastRow } = await import('../demo/boatyard/pell-mast-row.yaml');
    const ours = playAll(new Character(mastRow, { world: ROW, at: [2.5, 1] }));
    const [module, hand] = compare([ours, playByHand()], LENGTH, 9);
    show('  Mast Row, as a ratio to by hand', (module / hand).toFixed(2), 'at most 1.5');
  },
  async duel() {
    const { default: duel } = await import('./duel.yaml');
    const [module, hand] = compare([duelByLoggia(duel).run, duelByHand().run], MINUTE, 11);
    show('  a duel of two, as a ratio to by hand', (module / hand).toFixed(2), 'at most 2.0');
  },
};

await PARTS[process.argv[2]]();
