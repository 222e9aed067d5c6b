import { expect, test } from 'vitest';
import { packModule, parseMoveset } from '../../src/format/text.js';
import * as library from '../../src/module/index.js';
import { Random } from '../random/random.js';

const PARTS = [
  '*/',
  '//',
  '\n',
  '\r',
  '\u2028',
  '\u2029',
  '\u0000',
  '\u0001',
  '\u001b[31m',
  '\u202e',
  '`',
  '${',
  '"',
  "'",
  '\\',
  'r[4]',
  '</script>',
  ' ',
  '.',
];
const PAYLOAD = 'globalThis.entered=1;';
const DASH =
  'abilities: { dash: { start: { press: gale }, when: wide, phases: [{ for: 9f, move: { forward: 9 } }] } }\n';

/** Runs a module as an import would, and gives its plan. */
function run(code: string): { readonly name: string } {
  const [, uses] = /^import \{ (.*) \} from 'loggia\/module';$/m.exec(code) as RegExpExecArray;
  const body = code.replace(/^import .*$/m, '').replace('export default', 'return');
  return new Function('library', `const { ${uses} } = library;\n${body}`)(library);
}

const made = (name: string, file: string, options: { include?: string; module?: string; source?: string } = {}) => {
  const text = `loggia: 1\nname: ${JSON.stringify(name)}\ninclude: ${JSON.stringify(options.include ?? 'part.yaml')}
inputs: { gale: { button: KeyF } }\nstances: { stand: {} }\nconditions: { wide: true }\n`;
  const loaded = parseMoveset(text, file, { root: '', read: () => ({ text: DASH }), allows: () => true });
  const { module, source } = options;
  const sourceName = source === undefined ? undefined : () => source;
  return { loaded, module: loaded.plan && packModule(loaded.plan, loaded, { file: module, sourceName }) };
};

test('whatever names and paths hold, a module runs nothing of it, nor do its types and its map break', () => {
  const random = new Random(5);
  const text = () => Array.from({ length: random.whole(1, 6) }, () => random.pick([...PARTS, PAYLOAD])).join('');
  let written = 0;
  for (let i = 0; i < 400; i++) {
    const [name, include, module, source] = [text() || 'x', text(), text(), text()];
    const { module: out } = made(name, random.pick(['moveset.yaml', text()]), { include, module, source });
    if (!out) continue;
    written++;
    expect(run(out.code).name).toBe(name);
    // One line of the map for each line of code, and no comment that ends early.
    expect(JSON.parse(out.map).mappings.split(';')).toHaveLength(out.code.split(/\r\n|[\n\r\u2028\u2029]/).length);
    expect(out.types.split('\n')[0]).toMatch(/^\/\/ The types of .* They are generated: .*$/);
    expect(out.types.split(/[\n\r\u2028\u2029]/)[1]).toBe("import type { Plan } from 'loggia';");
  }
  expect(written).toBeGreaterThan(50);
  expect(globalThis).not.toHaveProperty('entered');
});

test('a path with control characters is not included', () => {
  const { loaded } = made('Pell', 'moveset.yaml', { include: `a\n*/${PAYLOAD}/*.yaml` });
  expect(loaded.diagnostics.map(({ line, sentence }) => `${line} ${sentence}`)).toEqual([
    '3 "a\\n*/globalThis.entered=1;/*.yaml" is not a path without control characters.',
  ]);
});
