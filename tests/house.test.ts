// biome-ignore-all lint/suspicious/noTemplateCurlyInString: texts of source files
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { afterAll, expect, test } from 'vitest';
import { ROOT } from './support.js';

/*
 * docs/architecture.md says where a new thing goes. Here one of each goes there, in a copy of the sources: how many files that takes
 * is counted, what is left out is an error of types, and what was added runs, interpreted and as a module.
 */
mkdirSync(join(ROOT, 'build'), { recursive: true });
const COPY = mkdtempSync(join(ROOT, 'build/house-'));
cpSync(join(ROOT, 'src'), COPY, { recursive: true });
afterAll(() => rmSync(COPY, { recursive: true, force: true }));

/** A new file, or what is put before each of some texts of a file. */
type Change = string | readonly (readonly [before: string, added: string])[];

const ADDED: Record<string, Record<string, Change>> = {
  effect: {
    'moveset/effects/buoyant.ts': `import { VY } from '../../record/slots.js';
import { js, to } from '../../record/code.js';
import { writtenLines } from '../../record/written.js';
import { number } from '../shape.js';
import { effect } from './effect.js';

export interface BuoyantField {
  /** Pushes the body upwards in each tick, by so much per second. */
  buoyant?: number;
}

export const buoyantEffect = effect('buoyant', number(0, 100), (value, { dt }) => ({
  each: writtenLines((c) => { c.r[VY] += value * dt; }, () => [js\`\${to(VY)} += \${value * dt};\`]),
}));
`,
    'moveset/effects/index.ts': [
      [
        "import type { Effect } from './effect.js';",
        "import { type BuoyantField, buoyantEffect } from './buoyant.js';\n",
      ],
      ['GravityField<N>,', 'BuoyantField, '],
      ['  face: faceEffect,', '  buoyant: buoyantEffect,\n'],
      ["export * from './guard.js';", "export * from './buoyant.js';\n"],
    ],
  },
  'way to start': {
    'moveset/starts/lands.ts': `import { GROUNDED, LANDED, T } from '../../record/slots.js';
import { word } from '../shape.js';
import { startKind } from './start.js';

export interface LandsStart {
  /** Requests once as the feet touch the ground. */
  lands: 'anywhere';
}

export const landsStart = startKind('lands', { lands: { shape: word('anywhere') } }, () => ({
  rank: 0,
  on: 'tick',
  happens: ({ r }) => r[GROUNDED] === 1 && r[LANDED] === r[T] - 1,
}));
`,
    'moveset/starts/index.ts': [
      ['import { type MomentTest,', "import { type LandsStart, landsStart } from './lands.js';\n"],
      ['  press: PressStart<N>;', '  lands: LandsStart;\n'],
      ['  press: pressStart,', '  lands: landsStart,\n'],
      ["export * from './presses.js';", "export * from './lands.js';\n"],
    ],
  },
  input: {
    'moveset/inputs/rope.ts': `import { optional } from '../shape.js';
import { source } from './button.js';
import { inputKind, listOf } from './input.js';

export interface RopeInput {
  /** A rope that is pulled: a button by another name. */
  rope: string;
}

export const rope = inputKind({
  key: 'rope',
  fields: { rope: optional(source) },
  declare: (name, names) => names.button.push(name),
  bindings: (name, input: RopeInput) => [[name, listOf(input.rope)]],
});
`,
    'moveset/inputs/index.ts': [
      ['import { type StickInput', "import { type RopeInput, rope } from './rope.js';\n"],
      ['  button: ButtonInput;', '  rope: RopeInput;\n'],
      ['button, stick, aim, choice }', 'rope, '],
    ],
  },
  probe: {
    'moveset/probes/last.ts': `import type { NameTypes } from '../name-types.js';
import { others, probeKind } from './probe.js';

export interface LastProbe<N extends NameTypes> {
  /** The last of these probes. */
  last: readonly NoInfer<N['probe']>[];
}

export const lastProbe = probeKind('last', null, { last: others });
`,
    'moveset/probes/index.ts': [
      ['import { type NearestProbe,', "import { type LastProbe, lastProbe } from './last.js';\n"],
      ['  first: FirstProbe<N>;', '  last: LastProbe<N>;\n'],
      ['  first: firstProbe,', '  last: lastProbe,\n'],
    ],
    'probes/join.ts': [
      [
        '  first: joinFirst,',
        '  last: (c, { probesAt }, { parts }, out) => {\n    c.probe(parts[0]);\n    c.r.copyWithin(out + Q_HIT, probesAt + parts[0] * PROBE + Q_HIT, probesAt + (parts[0] + 1) * PROBE);\n  },\n',
      ],
    ],
  },
  direction: {
    'moveset/directions/direction.ts': [
      ["  | 'facing'", "  | 'behind'\n"],
      ["'facing', 'up', 'down', 'velocity', 'camera'],", "'behind', "],
      [
        "    case 'facing':",
        "    case 'behind':\n      return written(({ r }, out) => unitOf(-r[FX], 0, -r[FZ], out, 0), code(js`-${numberAt(FX)}`, 0, js`-${numberAt(FZ)}`, 0));\n",
      ],
    ],
  },
  fact: {
    'compile/facts/body.ts': [
      ["  add('atWall',", "  add('rising', () => truth(({ r }) => r[VY] > 0, () => compare(at(VY), '>', 0)));\n"],
      ["    ['atWall', 'condition'", "    ['rising', 'condition', 'The body moves upwards.'],\n"],
    ],
    'moveset/name-types.ts': [["  | 'grounded'\n", "  | 'rising'\n"]],
  },
  reason: {
    'report/reasons.ts': [
      ["  | { readonly code: 'running' }\n", "  | { readonly code: 'early'; readonly remaining: number }\n"],
      [
        "  locked: () => ['locked'],",
        "  early: ({ remaining }) => ['early', { remaining: shortNumber(remaining) }],\n",
      ],
    ],
    'report/says.ts': [["  locked: 'not learnt',", "  early: 'too early for {remaining} s',\n"]],
    'tick/judge/against.ts': [['  room: 1 << 16,', '  early: 1 << 26,\n']],
    'tick/judge/judge.ts': [['  if (a.follows !== null &&', '  if (now < 20) against |= AGAINST.early;\n']],
    'tick/judge/judge-text.ts': [
      ['  if (a.follows !== null) {', "  lines.push(line(tight(js`${here.now()} < 20`), said('early')));\n"],
    ],
    'tick/judge/reasons.ts': [
      ['  room: (_, __, rows) =>', '  early: ({ r }, _, rows) => rows.add(AGAINST.early, 0, 20 - r[T]),\n'],
      ['  room: () => ({}),', '  early: ({ plan, have }) => ({ remaining: have / plan.rate }),\n'],
    ],
  },
};

/** What may be left out of these lists only with an error of types. */
const LISTED: Record<string, string> = {
  'moveset/effects/index.ts': '  buoyant: buoyantEffect,\n',
  'moveset/starts/index.ts': '  lands: landsStart,\n',
  'moveset/inputs/index.ts': 'rope, button',
  'moveset/probes/index.ts': '  last: lastProbe,\n',
  'report/reasons.ts': "  early: ({ remaining }) => ['early', { remaining: shortNumber(remaining) }],\n",
  'tick/judge/against.ts': '  early: 1 << 26,\n',
  'tick/judge/reasons.ts': '  early: ({ plan, have }) => ({ remaining: have / plan.rate }),\n',
};

for (const files of Object.values(ADDED))
  for (const [file, change] of Object.entries(files)) {
    const path = join(COPY, file);
    let text = typeof change === 'string' ? change : readFileSync(path, 'utf8');
    for (const [before, added] of typeof change === 'string' ? [] : change) {
      if (text.split(before).length !== 2) throw new Error(`${file} has not just one ${before}`);
      text = text.replace(before, () => added + before);
    }
    writeFileSync(path, text);
  }

test('an effect, a start and an input are a file and its list, a probe how it is asked besides; a direction is one place, a fact its family and its type; a reason its words and its rule', () => {
  const counts = Object.entries(ADDED).map(([kind, files]) => [kind, Object.keys(files).length]);
  const expected = { effect: 2, 'way to start': 2, input: 2, probe: 3, direction: 1, fact: 2, reason: 6 };
  expect(Object.fromEntries(counts)).toEqual(expected);
});

const MOVESET = `
loggia: 1
name: Pell
inputs: { move: { stick: {} }, sail: { rope: KeyS } }
probes: { below: { ray: [0, -1] }, low: { last: [below, below] } }
stances: { stand: { when: grounded }, fall: {} }
abilities:
  back: { start: { press: sail }, phases: [{ for: 12f, buoyant: 1.5, move: { along: behind, speed: 6, up: 9, mode: add } }] }
  roll: { start: { lands: anywhere }, when: not rising and low.hit, phases: [{ for: 3f }] }`;

test('what was added runs, interpreted and as a module, with no word about it anywhere else', async () => {
  const from = <T>(file: string): Promise<T> => import(join(COPY, file));
  const { parseMoveset } = await from<typeof import('../src/format/text.js')>('format/text.ts');
  const { Character, flatGround, wordReason } = await from<typeof import('../src/index.js')>('index.ts');
  const { writeTick } = await from<typeof import('../src/emit/module.js')>('emit/module.ts');
  const library = await from<object>('module/index.ts');
  const { plan, diagnostics } = parseMoveset(MOVESET);
  expect(diagnostics.filter(({ severity }) => severity === 'error')).toEqual([]);
  if (!plan) return;
  const { uses, code } = writeTick(plan, false);
  const make = new Function(
    'library',
    `const { complete, ${uses} } = library;\n${code.join('\n')}\nreturn complete(plan, code);`,
  );
  expect(code.join('\n')).toContain('r[VY] += 0.025;');
  const runs = [plan, make(library) as typeof plan].map((each) => {
    const c = new Character(each, { world: flatGround() });
    const told: string[] = [];
    for (let t = 0; t < 90; t++) {
      if (t === 2 || t === 25) c.door.press('sail');
      else c.door.release('sail');
      c.tick();
      for (const event of c.readout.events)
        told.push(
          `${t} ${event.kind === 'refused' ? wordReason(event.reasons[0]) : event.kind} ${'ability' in event ? event.ability : ''}`,
        );
    }
    return { told, record: [...c.record] };
  });
  expect(runs[1]).toEqual(runs[0]);
  expect(runs[0].told).toContain('2 too early for 0.3 s back');
  expect(runs[0].told).toContain('25 started back');
  expect(runs[0].told.filter((one) => one.endsWith('started roll'))).toHaveLength(1);
  expect(runs[0].record[4]).toBeLessThan(-0.1);
});

test('what is left out of a list is an error of types', () => {
  for (const [file, line] of Object.entries(LISTED)) {
    const path = join(COPY, file);
    writeFileSync(path, readFileSync(path, 'utf8').replace(line, line.startsWith('rope') ? 'button' : ''));
  }
  const lists = Object.keys(LISTED).map((file) => join(COPY, file));
  const { config } = ts.readConfigFile(join(ROOT, 'tsconfig.json'), ts.sys.readFile);
  const { options } = ts.parseJsonConfigFileContent({ ...config, files: lists, include: [] }, ts.sys, ROOT);
  const program = ts.createProgram(lists, { ...options, noEmit: true, types: [] });
  const silent = lists.filter((file, i) => {
    const faults = program.getSemanticDiagnostics(program.getSourceFile(file));
    const text = faults.map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, ' ')).join();
    return !text.includes(['buoyant', 'lands', 'rope', 'last', 'early', 'early', 'early'][i]);
  });
  expect(silent).toEqual([]);
});
