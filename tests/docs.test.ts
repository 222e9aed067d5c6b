import { existsSync, mkdtempSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { format } from 'node:util';
import ts from 'typescript';
import { describe, expect, test, vi } from 'vitest';
import { fragmentsOf, wholeMoveset } from '../scripts/guide.mjs';
import { formatDiagnostic } from '../src/format/index.js';
import { parseMoveset } from '../src/format/text.js';
import { runScenarioFile } from '../src/scenario/index.js';
import { ROOT } from './support.js';

const PAGES = ['README.md', ...readdirSync(join(ROOT, 'docs/guide')).map((name) => `docs/guide/${name}`)];

describe.each(PAGES)('%s', (page) => {
  const all = fragmentsOf(readFileSync(join(ROOT, page), 'utf8'));
  const folder = mkdtempSync(join(tmpdir(), 'loggia-docs-'));
  symlinkSync(join(ROOT, 'node_modules'), join(folder, 'node_modules'));

  test('links lead somewhere', () => {
    const text = readFileSync(join(ROOT, page), 'utf8');
    for (const [, target] of text.matchAll(/\]\((?!https?:)([^)#]+)/g))
      expect([target, existsSync(join(ROOT, dirname(page), target))]).toEqual([target, true]);
  });

  test('every moveset in it has no faults; what is only a part is completed by the small moveset of the tests', () => {
    for (const { language, info, text } of all) {
      if (language !== 'yaml' || info === 'scenario') continue;
      const { diagnostics } = parseMoveset(wholeMoveset(text), 'demo/boatyard/guide.yaml', {
        read: (path) => ({ text: readFileSync(join(ROOT, path), 'utf8') }),
      });
      const unread = (d: { code: string }) => !['is-part', 'unread-input', 'bound-twice'].includes(d.code);
      expect(diagnostics.filter(unread).map(formatDiagnostic)).toEqual([]);
    }
  });

  test('every scenario in it goes as expected with the moveset before it', async () => {
    let moveset = '';
    for (const [i, { language, info, text }] of all.entries()) {
      if (language !== 'yaml') continue;
      if (info !== 'scenario') {
        moveset = wholeMoveset(text);
        continue;
      }
      writeFileSync(join(folder, 'moveset.yaml'), moveset);
      const file = join(folder, `scenario-${i}.yaml`);
      writeFileSync(file, text);
      const { diagnostics, result } = await runScenarioFile(file);
      expect(diagnostics.map(formatDiagnostic)).toEqual([]);
      expect(result?.failures).toEqual([]);
    }
  });

  test('every program in it runs and prints what its comments say', async () => {
    const dash = all.find((f) => f.language === 'yaml' && parseMoveset(f.text).plan);
    if (dash) writeFileSync(join(folder, 'dash.yaml'), dash.text);
    for (const [i, { language, info, text }] of all.entries()) {
      // What is for a page or for Vitest is only compiled.
      if (language !== 'ts' || info !== '') continue;
      const file = join(folder, `program-${i}.mjs`);
      const { outputText } = ts.transpileModule(text, { compilerOptions: { target: ts.ScriptTarget.ES2022 } });
      writeFileSync(
        file,
        outputText.replaceAll(/from 'loggia(\/\w+)?'/g, (_, path = '') => `from '${builtAs(path)}'`),
      );
      const printed = await printedBy(file, folder);
      const promised = [...text.matchAll(/console\.log\(.*\/\/ (.*)$/gm)].map(([, comment]) => comment);
      if (promised.length > 0) expect(printed).toEqual(promised);
    }
  });
});

test('files that architecture and decisions name are there', () => {
  const pages = [
    'docs/architecture.md',
    ...readdirSync(join(ROOT, 'docs/decisions')).map((name) => `docs/decisions/${name}`),
  ];
  const known = readdirSync(join(ROOT, 'src'), { recursive: true, encoding: 'utf8' });
  const missing = pages.flatMap((page) =>
    [...readFileSync(join(ROOT, page), 'utf8').matchAll(/`([\w/-]+\.(?:ts|mjs|yaml))`/g)]
      .map(([, file]) => file)
      .filter((file) => !known.some((one) => one === file || one.endsWith(`/${file}`)) && !existsSync(join(ROOT, file)))
      .map((file) => `${page}: ${file}`),
  );
  expect(missing).toEqual([]);
});

/** What a program prints, line by line: in this process, since one of its own would load Loggia anew. */
async function printedBy(file: string, folder: string): Promise<string[]> {
  const before = process.cwd();
  const lines: string[] = [];
  const print = vi.spyOn(console, 'log').mockImplementation((...said) => {
    lines.push(...format(...said).split('\n'));
  });
  process.chdir(folder);
  try {
    await import(/* @vite-ignore */ pathToFileURL(file).href);
  } finally {
    process.chdir(before);
    print.mockRestore();
  }
  return lines;
}

function builtAs(path: string): string {
  const { exports } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  return join(ROOT, exports[`.${path}`].default);
}
