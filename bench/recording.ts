import { Character, flatGround } from '../src/index.js';
import { Recording } from '../src/recording/index.js';
import { driveCharacter, LOOP, writeChanges } from './drive.js';
import { loadPlan } from './fight.js';
import { allocated, compare, show } from './measure.js';

/** What recording costs, and what reading and making again take. */
export function measureRecording(): void {
  const plan = loadPlan('demo/boatyard/pell-basics.yaml');
  const changes = writeChanges();
  const ticks = LOOP * 10;
  const run = (c: Character) => () => {
    for (let t = 0; t < ticks; t++) {
      driveCharacter(c, changes[t % LOOP]);
      c.tick();
    }
  };
  const bare = new Character(plan, { world: flatGround() });
  const taped = new Character(plan, { world: flatGround() });
  const recording = new Recording(taped, { seconds: 60 });
  const [without, with_] = compare([run(bare), run(taped)], ticks);
  show('recording a tick of a Pell', `${Math.round(with_ - without)} ns`, 'at most 500 ns');
  show('bytes for a second of it', `${Math.round(recording.bytes / ((recording.last - recording.first) / 60))}`, 'at most 8000');
  show('bytes allocated in a warm tick of it', `${Math.round(allocated(run(taped)) / ticks)}`, '0');
  const { first, last } = recording;
  const at = () => {
    for (let i = 0; i < 1000; i++) recording.at(first + ((i * 7919) % (last - first)));
  };
  const again = () => {
    recording.play();
  };
  const [look] = compare([at], 1000);
  const [made] = compare([again], last - first);
  show('looking at any tick', `${(look / 1000).toFixed(1)} µs`, 'at most 5 µs');
  show('ticks made again in a second', `${Math.round(1e9 / made)}`, 'at least 500,000');
}
