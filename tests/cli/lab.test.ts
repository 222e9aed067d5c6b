import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { request as ask } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { LocalServer } from '../../src/format/local-server.js';
import { ROOT } from '../support.js';

const folder = mkdtempSync(join(tmpdir(), 'loggia-lab-'));
const outside = mkdtempSync(join(tmpdir(), 'loggia-outside-'));
let server: LocalServer;
let port = 0;

beforeAll(async () => {
  mkdirSync(join(folder, 'scenarios'));
  writeFileSync(join(folder, 'pell.yaml'), 'loggia: 1\nname: Pell\n');
  writeFileSync(join(folder, 'notes.txt'), 'not for pages');
  writeFileSync(join(folder, 'scenarios/stands.yaml'), 'loggia: 1\nscenario: "It stands"\n');
  writeFileSync(join(outside, 'secret.yaml'), 'secret: true\n');
  symlinkSync(outside, join(folder, 'away'));
  symlinkSync(join(outside, 'secret.yaml'), join(folder, 'link.yaml'));
  const rapier = join(outside, 'rapier.mjs');
  writeFileSync(rapier, 'export {};\n');
  server = new LocalServer({ root: folder, file: 'pell.yaml', page: (token) => `<p>${token}`, rapier, port: 0 });
  port = Number(new URL(await server.listen()).port);
});
afterAll(() => server.close());

interface Said {
  method?: string;
  headers?: Record<string, string>;
  body?: unknown;
}

/** Asks as a program does, with headers that a browser would not let a page set. */
function say(
  path: string,
  { method = 'GET', headers = {}, body }: Said = {},
): Promise<{ status: number; text: string }> {
  return new Promise((done, fail) => {
    const sent = ask({ port, host: '127.0.0.1', path, method, headers }, (response) => {
      let text = '';
      response.setEncoding('utf8');
      response.on('data', (part) => {
        text += part;
      });
      response.on('end', () => done({ status: response.statusCode ?? 0, text }));
    });
    sent.on('error', fail);
    sent.end(body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body));
  });
}

const own = (more: Record<string, string> = {}) => ({ 'x-loggia-token': server.token, ...more });

test('its page and its data are for who has the token, by the name of this machine, from no other page', async () => {
  expect(await say(`/?token=${server.token}`)).toEqual({ status: 200, text: `<p>${server.token}` });
  expect((await say('/lab/project', { headers: own() })).text).toContain('"scenario":"It stands"');
  const refused: Said[] = [
    {},
    { headers: { 'x-loggia-token': 'x'.repeat(server.token.length) } },
    { headers: own({ host: 'evil.example' }) },
    { headers: own({ host: `evil.example:${port}` }) },
    { headers: own({ origin: 'http://evil.example' }) },
    { headers: own({ origin: `http://127.0.0.1:${port + 1}` }) },
    { headers: own({ 'sec-fetch-site': 'cross-site' }) },
  ];
  for (const one of refused) expect((await say('/lab/project', one)).status).toBe(403);
  // Nothing but the program of Rapier is given as one.
  const program = (asked: string) => say(`/lab/program?${asked}`, { headers: own() });
  expect(await program('name=rapier')).toEqual({ status: 200, text: '{"text":"export {};\\n"}' });
  for (const asked of ['name=../pell.yaml', '']) expect((await program(asked)).status).toBe(404);
  expect((await say(`/lab/file?file=pell.yaml&token=${server.token}`)).text).toBe('The token must be a header.');
  expect((await say('/')).text).toContain('Open the address that was printed');
});

test.each([
  '../secret.yaml',
  'scenarios/../../secret.yaml',
  '/etc/passwd',
  'notes.txt',
  'away/secret.yaml',
  'link.yaml',
  'pell.yaml\0.json',
  '',
])('%s is neither read nor written', async (file) => {
  const headers = own();
  expect((await say(`/lab/file?file=${encodeURIComponent(file)}`, { headers })).status).toBe(403);
  for (const path of ['/lab/file', '/lab/scenario'])
    expect((await say(path, { method: 'POST', headers, body: { file, text: 'x', before: 'y' } })).status).toBe(403);
  expect(readFileSync(join(outside, 'secret.yaml'), 'utf8')).toBe('secret: true\n');
});

test('a file that somebody else has changed is not written over; a scenario that is there stays', async () => {
  const headers = own();
  const write = (body: unknown, path = '/lab/file') => say(path, { method: 'POST', headers, body });
  const before = readFileSync(join(folder, 'pell.yaml'), 'utf8');
  expect((await write({ file: 'pell.yaml', text: 'mine', before: 'what it was' })).status).toBe(409);
  expect(JSON.parse((await write({ file: 'pell.yaml', text: 'mine', before: 'other' })).text).text).toBe(before);
  expect((await write({ file: 'pell.yaml', text: 'mine', before })).status).toBe(200);
  expect(readFileSync(join(folder, 'pell.yaml'), 'utf8')).toBe('mine');
  expect((await write({ file: 'scenarios/new.yaml', text: 'new' }, '/lab/scenario')).status).toBe(200);
  expect((await write({ file: 'scenarios/new.yaml', text: 'newer' }, '/lab/scenario')).status).toBe(409);
  expect((await write({ file: 'nowhere/new.yaml', text: 'new' }, '/lab/scenario')).text).toContain(
    'There is no folder',
  );
});

test('what is too large, or no JSON, is refused', async () => {
  const headers = own();
  const big = 'x'.repeat(5 << 20);
  expect((await say('/lab/file', { method: 'POST', headers, body: big })).status).toBe(413);
  const text = 'x'.repeat((1 << 20) + 1);
  expect(
    (await say('/lab/file', { method: 'POST', headers, body: { file: 'pell.yaml', text, before: 'mine' } })).status,
  ).toBe(413);
  expect((await say('/lab/file', { method: 'POST', headers, body: '{' })).status).toBe(400);
  expect((await say('/lab/file', { method: 'POST', headers, body: 'null' })).status).toBe(400);
  expect((await say('/lab/anything', { headers })).status).toBe(404);
});

test('without a file, the command opens Pell, until it is interrupted', async () => {
  const lab = spawn('node', [join(ROOT, 'dist/cli/bin.js'), 'lab'], { cwd: tmpdir() });
  let told = '';
  const address = await new Promise<string>((done) => {
    lab.stdout.on('data', (part) => {
      told += part;
      const found = /http:\S+/.exec(told)?.[0];
      if (found && told.includes('Ctrl-C')) done(found);
    });
    lab.on('exit', () => done(told));
  });
  const { origin, searchParams } = new URL(address);
  const headers = { 'x-loggia-token': searchParams.get('token') ?? '' };
  expect(await (await fetch(`${origin}/lab/project`, { headers })).json()).toMatchObject({ file: 'pell.yaml' });
  expect(await (await fetch(address)).text()).toContain('id="lab"');
  lab.kill('SIGINT');
  expect(await new Promise((done) => lab.on('exit', done))).toBe(0);
});
