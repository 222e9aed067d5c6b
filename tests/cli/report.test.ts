import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { ROOT } from '../support.js';

const folder = mkdtempSync(join(tmpdir(), 'loggia-report-'));
const SCENARIOS = join(ROOT, 'demo/boatyard/scenarios');

function loggia(...words: string[]): { status: number; out: string; err: string } {
  try {
    const out = execFileSync('node', [join(ROOT, 'dist/cli/bin.js'), ...words], {
      cwd: ROOT,
      encoding: 'utf8',
      stdio: 'pipe',
    });
    return { status: 0, out, err: '' };
  } catch (error) {
    const { status, stdout, stderr } = error as { status: number; stdout: string; stderr: string };
    return { status, out: stdout, err: stderr };
  }
}

/** The same scenario with another name and with something that does not come. */
function failing(): string {
  const file = join(folder, 'fails.yaml');
  const text = readFileSync(join(SCENARIOS, 'dash-neutral.yaml'), 'utf8')
    .replace(/^scenario: .*$/m, 'scenario: A <script>alert(1)</script> dash & more')
    .replace(/^moveset: .*$/m, `moveset: ${join(ROOT, 'demo/boatyard/pell.yaml')}`)
    .replace(/^expect:$/m, 'expect:\n  - { at: end, that: x > 1000 }');
  writeFileSync(file, text);
  return file;
}

test('a report is one page under 1.5 megabytes that fetches nothing, and its title is text', () => {
  const out = join(folder, 'one.html');
  expect(loggia('report', failing(), '--root', '/', '--out', out)).toMatchObject({ status: 0, out: `wrote ${out}\n` });
  expect(statSync(out).size).toBeLessThan(1_500_000);
  const page = readFileSync(out, 'utf8');
  expect(page).toContain("default-src 'none'");
  expect(page).toContain('<title>A &#60;script&#62;alert(1)&#60;/script&#62; dash &#38; more</title>');
  expect(page).not.toContain('<script>alert');
  expect(page).not.toMatch(/(?:src|href)="(?!data:)/);
});

test('several runs are a folder: those that fail come first, and open where they fail', () => {
  const out = join(folder, 'several');
  const runs = [join(SCENARIOS, 'dash-neutral.yaml'), failing(), join(SCENARIOS, 'hop-cut.yaml')];
  const { status, out: told } = loggia('report', ...runs, '--root', '/', '--out', out);
  expect([status, told]).toEqual([0, `wrote ${out}/index.html: 3 runs, 1 not as expected\n`]);
  expect(readdirSync(out).sort()).toEqual(['dash-neutral.html', 'fails.html', 'hop-cut.html', 'index.html']);
  const index = readFileSync(join(out, 'index.html'), 'utf8');
  expect(index.indexOf('fails.html#tick=')).toBeLessThan(index.indexOf('dash-neutral.html'));
  expect(index).toContain('dash &#38; more');
});

test('a picture of the timeline marks what failed; a recording is shown, too', () => {
  const out = join(folder, 'one.svg');
  expect(loggia('report', failing(), '--root', '/', '--out', out, '--width', '900').status).toBe(0);
  expect(readFileSync(out, 'utf8')).toMatch(/^<svg [^>]*width="900".*not as expected: expected /s);
  const run = join(folder, 'run.jsonl.gz');
  expect(loggia('run', join(SCENARIOS, 'dash-neutral.yaml'), '--record', run).status).toBe(0);
  expect(loggia('report', run, '--out', join(folder, 'run.svg')).status).toBe(0);
  expect(readFileSync(join(folder, 'run.svg'), 'utf8')).toContain('>galeDash<');
  expect(loggia('report', run, '--out', out, '--width', '9')).toMatchObject({
    status: 2,
    err: expect.stringContaining('--width takes pixels from 400 to 8000'),
  });
  expect(loggia('report', run, run, '--out', out)).toMatchObject({
    status: 2,
    err: expect.stringContaining('a folder'),
  });
});

test('run writes reports of what is not as expected, and of nothing else', () => {
  const out = join(folder, 'failed');
  const runs = [join(SCENARIOS, 'dash-neutral.yaml'), failing()];
  expect(loggia('run', ...runs, '--root', '/', '--report', out)).toMatchObject({
    status: 1,
    out: expect.stringContaining(`wrote ${out}/index.html: 1 run, 1 not as expected`),
  });
  expect(readdirSync(out).sort()).toEqual(['fails.html', 'index.html']);
  const none = join(folder, 'none');
  expect(loggia('run', runs[0], '--report', none).status).toBe(0);
  expect(existsSync(none)).toBe(false);
});
