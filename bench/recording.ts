import { Character, flatGround, type Plan, swapMoveset } from '../src/index.js';
import { Recording } from '../src/recording/index.js';
import { driveCharacter, LOOP, writeChanges } from './drive.js';
import { loadPlan } from './fight.js';
import { allocated, compare, show } from './measure.js';

const FILE = 'demo/boatyard/pell-basics.yaml';

/** What recording costs, and what reading and making again take. */
export function measureRecording(): void {
  const plan = loadPlan(FILE);
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
  show(
    'bytes for a second of it',
    `${Math.round(recording.bytes / ((recording.last - recording.first) / 60))}`,
    'at most 8000',
  );
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
  const faster = loadPlan(FILE, (text) => text.replace('speed: 18', 'speed: 20'));
  const other = loadPlan(FILE, (text) => text.replaceAll('galeDash', 'squallDash'));
  const swaps = (next: Plan) => {
    const c = new Character(plan, { world: flatGround() });
    c.tick();
    return () => {
      swapMoveset(c, next);
      swapMoveset(c, plan);
    };
  };
  const [tuned, carried] = compare([swaps(faster), swaps(other)], 2);
  show(
    'swapping the moveset of a Pell: other numbers; other names',
    `${(tuned / 1e6).toFixed(2)}, ${(carried / 1e6).toFixed(2)} ms`,
    'at most 1 ms',
  );
  show('ticks made again in a second', `${Math.round(1e9 / made)}`, 'at least 500,000');
}
