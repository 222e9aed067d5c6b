import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { Character, flatGround, swapMoveset } from '../../src/index.js';
import { compare, Recording } from '../../src/recording/index.js';
import { addNews, Sender } from '../../src/recording/stream.js';
import { plan, SMALL } from '../support.js';

const moveset = (speed: number) =>
  plan(`${SMALL}pools: { wind: { max: 9, regen: 1 } }
abilities:
  dash: { start: { press: gale }, cost: { wind: 3 }, phases: [{ for: 9f, move: { forward: ${speed} } }] }
`);

test('what another page is told of a run bit by bit is that run: every number, event and reason, also over a swap', async () => {
  const c = new Character(moveset(12), { world: flatGround() });
  const recording = new Recording(c);
  c.tick();
  const there = await Recording.fromFile(await recording.toFile());
  const sender = new Sender(recording);
  expect(sender.news()).toBe(null);
  for (let tick = 0; tick < 300; tick++) {
    if (tick % 20 === 3) c.door.press('gale');
    if (tick % 20 === 7) c.door.release('gale');
    if (tick === 150) swapMoveset(c, moveset(20));
    c.tick();
    if (tick % 7 !== 0) continue;
    const news = sender.news();
    if (news === null || news === 'lost') throw new Error('there is news');
    // As a channel sends it.
    addNews(there, structuredClone(news), 60);
  }
  expect(there.last).toBeGreaterThan(290);
  const { same, first } = compare(recording, there);
  expect([same, first]).toEqual([true, null]);
  expect(there.find({ refused: 'dash' })).toEqual(
    recording.find({ refused: 'dash' }).filter((tick) => tick <= there.last),
  );
  expect(there.find({ refused: 'dash' }).length).toBeGreaterThan(0);
  // It can be made again there, too, with the swap in it.
  expect(compare(there, there.play({ from: 100 })).same).toBe(true);
});

test('who went back, or was away for long, begins anew', () => {
  const c = new Character(moveset(12), { world: flatGround() });
  const recording = new Recording(c);
  const sender = new Sender(recording);
  const start = c.snapshot();
  for (let tick = 0; tick < 5; tick++) c.tick();
  expect(sender.news()).toMatchObject({ from: 0, frames: { length: 5 } });
  c.restore(start);
  expect(sender.news()).toBe('lost');
  const other = new Sender(recording);
  for (let tick = 0; tick < 700; tick++) c.tick();
  expect(other.news()).toBe('lost');
});

test('a ring in which a moveset gave its place to another is kept in a file with everybody’s own', async () => {
  const shot = plan(
    'loggia: 1\nname: Shot\nstances: { fly: {} }\nabilities: { go: { start: { rule: true }, phases: [{ for: 5f }, { for: 1f, leave: true }] } }\n',
  );
  const arena = new Arena({ world: flatGround(), summons: { shot } });
  arena.add('Ada', moveset(1));
  const recording = new Recording(arena, { seconds: 1 });
  for (let round = 2; round < 6; round++) {
    for (let tick = 0; tick < 200; tick++) arena.tick();
    swapMoveset(arena, moveset(round));
  }
  arena.add('Bo', shot);
  for (let tick = 0; tick < 3; tick++) arena.tick();
  const back = await Recording.fromFile(await recording.toFile());
  expect(compare(recording, back).same).toBe(true);
  expect(back.at(back.last).of('Bo').plan.name).toBe('Shot');
});
