import { gunzipSync, gzipSync } from 'node:zlib';
import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { compileOpponent } from '../../src/arena/opponent.js';
import { flatGround, UsageError } from '../../src/index.js';
import { compare, Recording } from '../../src/recording/index.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { answer, create, makeScript, play, withoutRooms, worldOf } from '../random/play.js';
import { spoil } from '../random/spoil.js';
import { makeCharacter, plan as planOf, SMALL } from '../support.js';

const findSlip = () => ({ x: 4, y: 1 });

test('what comes back from a file is the same recording, and is made again as the same run', async () => {
  const runs: (() => Promise<void>)[] = [];
  forRandom(MOVESETS / 10, (random, seed) => {
    const plan = makeMoveset(random, { functions: false });
    const world = worldOf(random, plan);
    const c =
      seed % 3 === 0
        ? create(plan, world)
        : seed % 3 === 1
          ? create(plan, withoutRooms(world))
          : create(plan, undefined, { probes: answer, places: findSlip });
    const recording = new Recording(c);
    play(c, makeScript(random, plan, 3 * TICKS, { contacts: seed % 3 === 2 }));
    const from = random.whole(0, 2 * TICKS);
    runs.push(async () => {
      const back = await Recording.fromFile(await recording.toFile());
      expect(compare(recording, back).first, `seed ${seed}`).toBeNull();
      const again = back.play({ from });
      expect([again.stopped, compare(recording, again).first], `seed ${seed}`).toEqual([null, null]);
    });
  });
  for (const run of runs) await run();
});

const FIGHT = `${SMALL}
hurt: { pool: wind }
pools: { wind: { max: 9 } }
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 6f, strike: { box: [2, 2], at: [1, 1], damage: 1, stun: 0.1s } }] }
  flinch: { start: { event: struck }, breaks: jab, phases: [{ for: struck.stun }] }
events: { struck: { values: { stun: time } } }
`;

/** Two who fight, one of whom plays by itself; the second has joined later. */
async function fight() {
  const plan = planOf(FIGHT);
  const arena = new Arena({ world: flatGround() });
  arena.add('pell', plan, { tags: 'rigger' });
  const recording = new Recording(arena);
  for (let t = 0; t < 200; t++) {
    if (t === 20)
      arena.add('skerry', plan, {
        at: [1.5, 0],
        facing: -1,
        plays: compileOpponent(plan, {
          acts: [{ when: 'foe.distance < 3', press: 'gaff', after: '10f', chance: 0.5 }],
        }),
      });
    if (t % 40 === 30) arena.find('pell')?.character.door.press('gaff');
    if (t % 40 === 35) arena.find('pell')?.character.door.release('gaff');
    arena.tick();
  }
  return { arena, recording, bytes: await recording.toFile() };
}

test('of an arena, too: members, blows, who joined, and what plays them', async () => {
  const { recording, bytes } = await fight();
  const back = await Recording.fromFile(bytes);
  expect(compare(recording, back).first).toBeNull();
  expect(compare(recording, back.play({ from: 10 })).first).toBeNull();
  expect(recording.find({ started: 'flinch', of: 'pell' }).length).toBeGreaterThan(0);
  // With other inputs, the opponent plays by itself.
  const still = back.play({ from: 10, inputs: () => {} });
  expect(still.find({ started: 'jab' })).toEqual([]);
  expect(still.find({ started: 'jab', of: 'skerry' }).length).toBeGreaterThan(0);
});

test('a file with functions says so, and is read with its moveset', async () => {
  const c = makeCharacter('', { world: flatGround() });
  const bytes = await new Recording(c).toFile();
  const text = gunzipSync(bytes).toString();
  const without = text.replace(/"source":\{.*?\},"files"/, '"files"');
  await expect(Recording.fromFile(new TextEncoder().encode(without))).rejects.toThrow(
    /moveset "Pell" is not in the file/,
  );
  const back = await Recording.fromFile(new TextEncoder().encode(without), { movesets: [c.plan] });
  expect(back.at(back.first).of().plan).toBe(c.plan);
});

test('whatever a file holds, it is read whole or refused with a sentence', async () => {
  const { bytes } = await fight();
  const lines = gunzipSync(bytes).toString().trim().split('\n');
  const runs: (() => Promise<string>)[] = [];
  forRandom(MOVESETS / 2, (random) => {
    const changed = lines.map((line) => JSON.parse(line));
    for (let n = random.whole(1, 3); n > 0; n--) {
      const line = random.pick(changed);
      // Of pages, also a number anywhere.
      if (line.page !== undefined && random.chance(0.5)) {
        const list = random.pick([
          line.frame,
          ...line.ticks.flatMap((tick: { set: number[]; told?: number[] }) => [tick.set, tick.told ?? []]),
        ]);
        if (list.length > 0)
          list[random.whole(0, list.length - 1)] = random.pick([-1, 0.5, 7, 1e12, 'Infinity', 'NaN']);
      } else spoil(random, line);
    }
    const file = gzipSync(changed.map((line) => JSON.stringify(line)).join('\n'));
    runs.push(async () => {
      try {
        const back = await Recording.fromFile(file);
        back.play();
        return 'read';
      } catch (error) {
        if (!(error instanceof UsageError)) throw error;
        expect(error.message).toMatch(/^(fromFile|play|compare|\w+): .*\.$/s);
        return 'refused';
      }
    });
  });
  const became = [];
  for (const run of runs) became.push(await run());
  expect(new Set(became)).toEqual(new Set(['read', 'refused']));
});

test('what is no file, cut off, or too large is told', async () => {
  const bytes = await new Recording(makeCharacter('')).toFile();
  const reading = (file: unknown, options?: object) => Recording.fromFile(file as Uint8Array, options);
  await expect(reading('x')).rejects.toThrow('the file must be a Uint8Array');
  await expect(reading(bytes.subarray(0, 100))).rejects.toThrow('cut off');
  await expect(reading(new TextEncoder().encode('{"loggia":1}'))).rejects.toThrow('no recording of Loggia');
  await expect(reading(new TextEncoder().encode('{"loggia":1,"recording":2}'))).rejects.toThrow(
    'format 2, and this Loggia reads 1',
  );
  await expect(reading(gzipSync(Buffer.alloc(3 << 20, ' ')), { megabytes: 1 })).rejects.toThrow(
    'more than 1 megabytes',
  );
});
