import { afterAll, beforeAll, expect, test } from 'vitest';
import { BoxWorld, Character, flatGround } from '../../src/index.js';
import { compare, Recording } from '../../src/recording/index.js';
import { addNews } from '../../src/recording/stream.js';
import { show as nothing } from '../../src/show/index.js';
import { show } from '../../src/show/live.js';
import { type FromGame, type FromViewer, readMessage, writeMessage } from '../../src/show/messages.js';
import { type ServedViewer, serveViewer } from '../../src/show/server.js';
import { plan, ROOT, SMALL } from '../support.js';

const TEXT = `${SMALL}pools: { wind: { max: 9 } }
abilities:
  dash: { start: { press: gale }, phases: [{ for: 9f, move: { forward: 12 } }] }
`;
let served: ServedViewer;
let token = '';
let at = '';

beforeAll(async () => {
  served = await serveViewer({ root: ROOT });
  const { origin, searchParams } = new URL(served.address);
  token = searchParams.get('token') ?? '';
  at = `${origin}/lab`;
});
afterAll(() => served.close());

const say = (message: FromViewer) =>
  fetch(`${at}/say`, { method: 'POST', headers: { 'x-loggia-token': token }, body: writeMessage(message) });

/** What the program tells its pages, line by line. */
async function* told(): AsyncGenerator<FromGame> {
  const { body } = await fetch(`${at}/games`, { headers: { 'x-loggia-token': token } });
  const reader = (body as ReadableStream<Uint8Array>).getReader();
  const decoder = new TextDecoder();
  let text = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    text += decoder.decode(value, { stream: true });
    const lines = text.split('\n');
    text = lines.pop() ?? '';
    for (const line of lines) yield readMessage(line) as FromGame;
  }
}

test('a program without pages shows one of its characters: whole, then bit by bit; its text is changed, and it goes back', async () => {
  const pell = new Character(plan(TEXT), { world: flatGround() });
  const own = new Recording(pell);
  const hide = show(pell, 'Pell', { restore: true, scenery: new BoxWorld([{ from: [0, 0], to: [1, 1] }]) });
  const messages = told();
  const next = async <K extends FromGame['kind']>(kind: K): Promise<Extract<FromGame, { kind: K }>> => {
    for (;;) {
      const { value } = await messages.next();
      if (value?.kind === kind) return value as Extract<FromGame, { kind: K }>;
    }
  };
  const waiting = next('here');
  // The stream must be there before it is spoken to.
  await new Promise((done) => setTimeout(done, 50));
  await say({ kind: 'who' });
  const { id, name, canPause, canRestore, scenery } = await waiting;
  expect([name, canPause, canRestore]).toEqual(['Pell', false, true]);
  expect(scenery).toEqual({ blocks: [{ from: [0, 0], to: [1, 1] }], options: {} });
  for (let i = 0; i < 20; i++) pell.tick();
  await say({ kind: 'watch', id, viewer: 'test' });
  const there = await Recording.fromFile((await next('whole')).bytes);
  expect(compare(own, there).same).toBe(true);
  pell.door.press('gale');
  for (let i = 0; i < 20; i++) pell.tick();
  addNews(there, (await next('news')).news, 60);
  expect([there.last, there.find({ started: 'dash' })]).toEqual([39, [20]]);
  expect(compare(own, there).same).toBe(true);

  const text = TEXT.replace('max: 9', 'max: 12');
  await say({ kind: 'texts', id, main: 'moveset', files: [{ name: 'moveset', text }] });
  await expect.poll(() => pell.readout.poolLimits('wind').max, { timeout: 10_000 }).toBe(12);
  await say({ kind: 'texts', id, main: 'moveset', files: [{ name: 'moveset', text: 'loggia: [' }] });
  await say({ kind: 'restore', id, tick: 25 });
  await expect.poll(() => pell.readout.tick, { timeout: 10_000 }).toBe(25);
  await say({ kind: 'restore', id, tick: 1e9 });
  expect((await next('told')).text).toBe('The game cannot go back to this tick.');
  hide();
  expect((await next('gone')).id).toBe(id);
});

test('who has no token hears nothing and says nothing; what is no message is refused', async () => {
  expect((await fetch(`${at}/games`)).status).toBe(403);
  expect((await fetch(`${at}/say`, { method: 'POST', body: '{"kind":"who"}' })).status).toBe(403);
  const headers = { 'x-loggia-token': token };
  expect((await fetch(`${at}/say`, { method: 'POST', headers, body: 'no json' })).status).toBe(400);
  expect((await fetch(served.address)).headers.get('x-frame-options')).toBe('DENY');
});

test('in a build it does nothing', () => {
  const pell = new Character(plan(TEXT), { world: flatGround() });
  expect(nothing(pell, 'Pell')()).toBe(undefined);
  expect(pell.watching).toEqual([]);
});

test('lists of numbers and bytes go through a text as they are', () => {
  const news = {
    from: 3,
    frames: [{ frame: Float64Array.of(1, -0, Number.POSITIVE_INFINITY, 0.1), told: new Float64Array(0) }],
  };
  expect(readMessage(writeMessage({ kind: 'news', id: 'a', news }))).toEqual({ kind: 'news', id: 'a', news });
  const bytes = Uint8Array.from({ length: 20_000 }, (_, i) => i % 256);
  expect(readMessage(writeMessage({ kind: 'whole', id: 'a', bytes }))).toEqual({ kind: 'whole', id: 'a', bytes });
});
