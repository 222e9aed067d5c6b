import { spawn } from 'node:child_process';
import { mkdtempSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { ROOT } from '../support.js';

const MOVESET = `loggia: 1
name: Pell
inputs: { gale: { button: KeyF } }
stances: { stand: {} }
abilities: { dash: { start: { press: gale }, phases: [{ for: 12f, move: { forward: 10 } }] } }
`;
const SCENARIO = `loggia: 1
scenario: A dash carries.
moveset: pell.yaml
world: { rows: ["@.........", "##########"] }
run: 15f
inputs: [{ at: 1f, tap: gale }]
expect: [{ that: x > 2 }]
`;

test('run --watch runs again whenever the scenario or its moveset changes, also by another file in its place', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'watch-'));
  writeFileSync(join(folder, 'package.json'), '{}');
  writeFileSync(join(folder, 'pell.yaml'), MOVESET);
  writeFileSync(join(folder, 'dash.yaml'), SCENARIO);
  const child = spawn('node', [join(ROOT, 'dist/cli/bin.js'), 'run', '--watch', 'dash.yaml'], { cwd: folder });
  let out = '';
  const heard: (() => void)[] = [];
  child.stdout.on('data', (data) => {
    out += data;
    for (const hear of heard) hear();
  });
  const says = (pattern: RegExp) =>
    new Promise<void>((resolve) => {
      const look = () => pattern.test(out) && resolve();
      heard.push(look);
      look();
    });
  try {
    await says(/^as expected {2}A dash carries/m);
    out = '';
    // As many editors save: a new file takes the place of the old one.
    writeFileSync(join(folder, 'new'), MOVESET.replace('forward: 10', 'forward: 5'));
    renameSync(join(folder, 'new'), join(folder, 'pell.yaml'));
    await says(/changed; running again\nnot as expected {2}A dash carries/);
    out = '';
    writeFileSync(join(folder, 'dash.yaml'), SCENARIO.replace('x > 2', 'x > 1'));
    await says(/\nas expected {2}A dash carries/);
  } finally {
    child.kill('SIGINT');
  }
  const [code, signal] = await new Promise<[number | null, string | null]>((resolve) =>
    child.on('close', (...how) => resolve(how)),
  );
  expect([code, signal]).toEqual([null, 'SIGINT']);
});
