import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { FACT_DOCS, FUNCTION_DOCS } from '../../src/analysis/fact-docs.js';
import { loadCommands } from '../../src/cli/main.js';
import { checkClips } from '../../src/format/clips.js';
import { formatExcerpt, parseMoveset } from '../../src/format/index.js';
import { type Code, type Diagnostic, type Plan, wordDiagnostic } from '../../src/index.js';
import { takenWords } from '../../src/moveset/collect-names.js';
import { MOVESET } from '../../src/moveset/schema.js';
import { FORMAT as RECORDING_FORMAT } from '../../src/recording/file.js';
import { PAGE } from '../../src/recording/frames.js';
import { TOLD } from '../../src/recording/source.js';
import { FAULTS } from '../../src/report/faults.js';
import { REASONS } from '../../src/report/reasons.js';
import { USAGE } from '../../src/report/usage-error.js';
import { withArticle } from '../../src/report/words.js';
import { SCENARIO } from '../../src/scenario/shape.js';
import { describeExports, describeMembers, membersOf, undocumented } from './api.js';
import { cell, describeKeys } from './keys.js';
import { ENDING_WORDS, EVENT_WORDS, REASON_WORDS } from './words.js';

const ROOT = join(import.meta.dirname, '../..');
const HEAD =
  '<!-- Made by "npm run reference" from the tables that the loader and the runtime use. Do not edit. -->\n\n';

/** Every page of docs/reference/, by file name. */
const COMMANDS = await loadCommands();

export function makeReference(): Record<string, string> {
  const pages: Record<string, string> = {
    'README.md': contents(),
    'moveset.md': movesetPage(),
    'formulas.md': formulaPage(),
    'events.md': eventPage(),
    'scenario.md': scenarioPage(),
    'diagnostics.md': diagnosticsPage(),
    'code.md': codePage(),
    'recordings.md': recordingPage(),
    'command-line.md': commandPage(),
  };
  if (undocumented.length > 0) throw new Error(`These exports have no comment: ${undocumented.join(', ')}.`);
  return Object.fromEntries(Object.entries(pages).map(([file, text]) => [file, HEAD + text]));
}

function contents(): string {
  return `# Reference

- [Movesets](moveset.md): every key with its type, range, default and an example.
- [Formulas](formulas.md): facts, functions and operators.
- [Events, reasons and endings](events.md): what the readout tells.
- [Scenarios](scenario.md): every key.
- [Diagnostics](diagnostics.md): every error and warning, each with an example.
- [Code](code.md): character, door, readout, and what each subpath exports.
- [Recordings](recordings.md): the file of a recording.
- [Command line](command-line.md): every command.
`;
}

function movesetPage(): string {
  const example = parse(readFileSync(join(import.meta.dirname, 'moveset.yaml'), 'utf8'));
  return `# Movesets

A moveset is YAML, JSON or an object in TypeScript; all three have the same keys. A \`*\` marks a key that must be there.

- A **time** is written \`0.2s\`, \`200ms\` or \`12f\` (ticks), up to 3600s.
- A **condition** is a formula that is true or false; a **number or formula** may also be a function of the facts in TypeScript. See [formulas](formulas.md).
- A **percentage** such as \`40%\` multiplies what would be; a number replaces it.
- A **name** starts with a letter and continues with letters, digits or underscores, 64 at most.
- Some words cannot be names where they mean something by themselves:
${takenList()}
- Numbers go from -1000000 to 1000000 unless a range is given. Distances and speeds are in the units of your world.

${describeKeys(MOVESET, example)}`;
}

function takenList(): string {
  return [...takenWords()]
    .filter(([, words]) => words.size > 0)
    .map(([kind, words]) => `  - of ${withArticle(kind)}: ${[...words.keys()].map((word) => `\`${word}\``).join(', ')}`)
    .join('\n');
}

function scenarioPage(): string {
  const example = parse(readFileSync(join(import.meta.dirname, 'scenario.yaml'), 'utf8'));
  return `# Scenarios

A scenario is a scripted run: a world, inputs over time, and what is expected. \`loggia run\` runs files,
\`runScenarioData\` runs data, and \`testScenarios\` of \`loggia/vitest\` makes a test of every file in a folder.
A \`*\` marks a key that must be there.

An expectation without a time looks at the last tick of the run; one with \`started\`, \`ended\`, \`refused\`, \`event\` or
\`landed\` looks at all ticks, and is met if it holds in any of them.

${describeKeys(SCENARIO, example)}`;
}

function formulaPage(): string {
  const families = [...new Set(FACT_DOCS.map(({ family }) => family))].map((family) => {
    const rows = FACT_DOCS.filter((doc) => doc.family === family).map(
      ({ write, gives, doc, otherwise = '' }) => `| \`${write}\` | ${gives} | ${doc} | ${otherwise} |`,
    );
    return `## ${family}\n\n| fact | type | meaning | otherwise |\n| --- | --- | --- | --- |\n${rows.join('\n')}\n`;
  });
  const functions = Object.entries(FUNCTION_DOCS).map(([write, doc]) => `| \`${write}\` | ${doc} |`);
  return `# Formulas

A formula computes a number or a condition from facts: \`airborne and pool.wind >= 9\`, \`4 + 6 * charge\`. \`loggia facts FILE\`
lists the facts of one moveset with its own names. In TypeScript a formula may be a function, \`(facts) => facts.grounded\`;
its facts have the same names, with times in seconds: \`facts.since('hop')\`, \`facts.hit('ahead')\`.

- Operators, the strongest first: \`-x\`, then \`* / %\`, \`+ -\`, \`< <= > >= == !=\`, \`not\`, \`and\`, \`or\`.
- A number divided by 0 is 0.
- A time has a unit where it is compared: \`stance.time > 0.2s\`. A time divided by a time is a number.
- Inside \`{ }\` or \`[ ]\` of YAML, a formula with a comma needs quotes: \`{ up: "max(9, vy)" }\`.
- A number is brought within the range of its place.

${families.join('\n')}
## Functions

| function | meaning |
| --- | --- |
${functions.join('\n')}
`;
}

function eventPage(): string {
  const rows = (words: Record<string, string>) =>
    Object.entries(words)
      .map(([name, text]) => `| \`${name}\` | ${cell(text)} |`)
      .join('\n');
  return `# Events, reasons and endings

\`readout.events\` lists what happened in a tick, in order, as plain data: an object with a \`kind\` and the fields named here.
In TypeScript their types are \`LoggiaEvent\`, \`Reason\` and \`Ending\`.

## Events

| kind | fields | meaning |
| --- | --- | --- |
${Object.entries(EVENT_WORDS)
  .map(([kind, text]) => `| \`${kind}\` | ${fieldsOf(EVENTS_SOURCE, kind)} | ${cell(text)} |`)
  .join('\n')}

## Reasons

Why an ability may not start: in \`refused\` events and from \`character.explain(ability)\`. In this order, the first one is \`main\`.

| code | fields | meaning |
| --- | --- | --- |
${REASONS.map((code) => `| \`${code}\` | ${fieldsOf(REASONS_SOURCE, code)} | ${cell(REASON_WORDS[code])} |`).join('\n')}

## Endings

\`why\` of an \`ended\` event.

| why | meaning |
| --- | --- |
${rows(ENDING_WORDS)}
`;
}

const EVENTS_SOURCE = readFileSync(join(ROOT, 'src/report/events.ts'), 'utf8');
const REASONS_SOURCE = readFileSync(join(ROOT, 'src/report/reasons.ts'), 'utf8');

/** The fields of a member of a union, read off its type. */
function fieldsOf(source: string, kind: string): string {
  const type = new RegExp(`readonly (?:kind|code): '${kind}';?([^}]*)\\}`).exec(source)?.[1] ?? '';
  return [...type.matchAll(/readonly (\w+):/g)].map(([, name]) => `\`${name}\``).join(', ');
}

/** Subpaths that nobody calls. */
const SUBPATHS: Readonly<Record<string, string>> = {
  './module': 'What generated modules import. It is not for writing by hand, and changes with the version.',
  './yaml': 'Types only: an import of a `.yaml` file is a plan ([ship it](../guide/31-ship-it.md)).',
};

function codePage(): string {
  const { exports } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  const source = (types: string) => join(ROOT, types.replace('./dist/', 'src/').replace('.d.ts', '.ts'));
  const subpaths = Object.entries(exports as Record<string, { types: string }>).map(([key, { types }]) => {
    const text = SUBPATHS[key] ?? `| name | kind | meaning |\n| --- | --- | --- |\n${describeExports(source(types))}`;
    return `### ${key.replace(/^\./, 'loggia')}\n\n${text}\n`;
  });
  const ofWorlds = membersOf(join(ROOT, 'src/world/world.ts'), 'World');
  const members = (title: string, file: string, name: string) =>
    `## ${title}\n\n${describeMembers(join(ROOT, 'src', file), name, ofWorlds)}`;
  return `# Code

Times are seconds unless a text says ticks; positions and velocities are in the units of the world and per second. A name that the moveset does not
have throws a \`UsageError\` that names the nearest one.

${[
  members('Character', 'character/character.ts', 'Character'),
  members('Options of a character', 'character/character.ts', 'CharacterOptions'),
  members('Door', 'character/door.ts', 'Door'),
  members('Readout', 'character/readout.ts', 'Readout'),
  members('Readout, of the body', 'character/readout.ts', 'BodyView'),
  members('Drive', 'character/readout.ts', 'Drive'),
  members('Contacts', 'character/door.ts', 'Contacts'),
  members('Explanation', 'character/character.ts', 'Explanation'),
  members('Facts', 'moveset/name-types.ts', 'Facts'),
  members('Plan', 'compile/plan.ts', 'Plan'),
  members('FixedSteps', 'character/fixed-steps.ts', 'FixedSteps'),
  members('Tape', 'saved/tape.ts', 'Tape'),
  members('Recording', 'recording/recording.ts', 'Recording'),
  members('A moment of a recording', 'recording/moment.ts', 'Moment'),
  members('Somebody in a moment', 'recording/moment.ts', 'SeenMember'),
  members('How a run is made again', 'recording/play.ts', 'PlayOptions'),
  members('What is sought in a recording', 'recording/find.ts', 'Sought'),
  members('Why an ability did not start', 'recording/why.ts', 'Why'),
  members('One reason of it', 'recording/why.ts', 'WhyReason'),
  members('What differs between two recordings', 'recording/compare.ts', 'Comparison'),
  members('How a moveset is swapped', 'character/swap.ts', 'SwapOptions'),
  members('What became of a swap', 'character/swap.ts', 'Swapped'),
  members('World', 'world/world.ts', 'World'),
  members('TileWorld', 'world/tile-world.ts', 'TileWorld'),
  members('BoxWorld', 'world/box-world.ts', 'BoxWorld'),
  members('Arena', 'arena/arena.ts', 'Arena'),
  members('Options of an arena', 'arena/arena.ts', 'ArenaOptions'),
  members('Options of a member', 'arena/arena.ts', 'MemberOptions'),
  members('Member', 'arena/member.ts', 'Member'),
  members('ArenaTape', 'arena/arena-tape.ts', 'ArenaTape'),
  members('Bindings', 'devices/bindings.ts', 'Bindings'),
  members('RapierWorld', 'rapier/rapier-world.ts', 'RapierWorld'),
  members('What a scenario came to', 'scenario/load.ts', 'ScenarioReport'),
].join('\n')}
## Codes of a UsageError

| code | meaning |
| --- | --- |
${Object.entries(USAGE)
  .map(([code, meaning]) => `| \`${code}\` | ${meaning} |`)
  .join('\n')}

## Subpaths

${subpaths.join('\n')}`;
}

function recordingPage(): string {
  return `# Recordings

\`recording.toFile()\` and \`loggia run SCENARIO --record FILE\` write a recording as one file: **JSON Lines**, UTF-8, deflated by **gzip**
(\`zcat run.jsonl.gz\` shows it). \`Recording.fromFile\` reads it, also inflated. This is format ${RECORDING_FORMAT}; a file of another format is refused.

Numbers are written so that they are read back the same; \`"Infinity"\`, \`"-Infinity"\` and \`"NaN"\` are texts, since JSON has no such numbers.
Each line is a map. The first has \`loggia\` and \`recording\`; of the others, the first key says what it is.

| line | keys | meaning |
| --- | --- | --- |
| head | \`loggia\`: 1, \`recording\`: ${RECORDING_FORMAT} | What it is. |
| | \`of\` | \`character\` or \`arena\`. |
| | \`rate\`, \`first\`, \`last\` | Ticks per second, and the first and last tick; -1 is before the first of all. |
| | \`world\` | \`kind: ours\` with what its constructor was given (\`flat\`; \`rows\` or \`blocks\`, and \`options\`), \`kind: custom\` for a world of the host, \`kind: engine\` for none. |
| | \`places\` | Where named places are, by the id of a member and their name. |
| | \`names\`, \`kinds\`, \`teams\`, \`tags\`, \`words\` | What indexes in frames stand for. |
| | \`summons\` | Who may be called: the index of their moveset. |
| moveset | \`moveset\`, \`layout\` | Its name, and its fingerprint. |
| | \`source\` | The moveset as data; left out where it has functions, was packed or is a module. |
| | \`files\`, \`texts\`, \`places\` | The files it was read from, and by path (as JSON) the file, line and column. |
| opponent | \`opponent\`, \`moveset\`, \`plays\` | The id of a member, and what plays it. |
| change | \`change: { tick, change }\` | Before that tick somebody joined, left (an id), or got another moveset. |
| page | \`page\`, \`clocks\`, \`frame\`, \`ticks\` | A run of up to ${PAGE} ticks: the tick of its first frame; places whose numbers go up by one in each tick; the first frame; then for each tick \`set\`, pairs of a place and its new number, and \`told\`. |

A **frame** is the tick, the id that comes next, how many members there are and how many left in this tick; then for each of these its id, the indexes of its moveset, name (of who was called, -1 less
the index in \`kinds\`) and tags, its side, the id of its caller, and how many numbers its opponent has; its record, what its devices hold, what it sees of others and, with a world of the
host or an engine, what its probes answered; the numbers of its opponent. At the end stands how the blocks of the world move.

\`told\` is stretches of numbers, each after its kind and its length: ${Object.entries(TOLD)
    .map(([name, kind]) => `${kind} ${name}`)
    .join(', ')}. Rows are what came through the door of a member: its id, the kind, what it is about, three numbers.
`;
}

function commandPage(): string {
  const commands = COMMANDS.map(({ name, summary, args, argsDoc, options, example }) => {
    const rows = options.map(([flags, doc]) => `| \`${flags}\` | ${cell(doc)} |`);
    const table = rows.length > 0 ? `\n| option | meaning |\n| --- | --- |\n${rows.join('\n')}\n` : '';
    return `## loggia ${name} ${args}\n\n${summary} \`${args}\`: ${argsDoc}.\n${table}\n\`\`\`sh\n${example}\n\`\`\`\n`;
  });
  return `# Command line

Exit codes: 0, all is well; 1, the work found an error; 2, called wrongly, or the output could not be written.
Colour is for terminals only; \`NO_COLOR\` and \`FORCE_COLOR\` are obeyed. \`loggia help <command>\` shows what stands here.

A file is at most 1 MiB, nests at most 32 levels deep and has at most 50,000 values once its aliases are expanded; of one
file the first 50 diagnostics are shown. Files that a moveset includes, and the moveset of a scenario, must be in the nearest
folder above the first file that has a package.json or a .git, else in that file's folder; \`--root\` sets another.

${commands.join('\n')}`;
}

interface Example {
  /** A moveset, or what comes below the small one. */
  text?: string;
  clips?: Record<string, number>;
  /** What the sentence tells of, where the example would be no moveset, and when it is said. */
  params?: Record<string, unknown>;
  note?: string;
}

function diagnosticsPage(): string {
  const examples: Record<string, Example> = parse(readFileSync(join(import.meta.dirname, 'faults.yaml'), 'utf8'));
  const missing = Object.keys(FAULTS).filter((code) => !(code in examples));
  if (missing.length > 0) throw new Error(`faults.yaml has no example of ${missing.join(', ')}.`);
  const parts = (Object.keys(FAULTS) as Code[]).sort().map((code) => {
    const { params, note, ...example } = examples[code];
    if (params) {
      const d: Diagnostic = { code, severity: 'error', path: [], on: 'value', params };
      return `## ${code}\n\n${note ? `${note} ` : ''}${wordDiagnostic(d)}\n`;
    }
    const { sentence, excerpt, severity } = tryExample(code, example);
    return `## ${code}\n\n${severity === 'warning' ? 'Warning. ' : ''}${sentence}\n\n\`\`\`text\n${excerpt}\n\`\`\`\n`;
  });
  return `# Diagnostics

Every error and warning, each with an example. A warning that is right at its place can be allowed there, with
the reason: \`allow: { unbound-input: the tutorial presses it }\`.

${parts.join('\n')}`;
}

function tryExample(code: Code, { text = '', clips }: Example) {
  const whole = /^loggia:|^-/m.test(text) ? text : `${SMALL}${text}`;
  const check = clips && ((plan: Plan): readonly Diagnostic[] => checkClips(plan, clips));
  const files: Record<string, string> = {
    'part.yaml': 'pools: { wind: { max: 9 } }',
    'other.yaml': 'pools: { wind: { max: 5 } }',
    'loop.yaml': 'include: pell.yaml',
  };
  const { diagnostics } = parseMoveset(whole, 'pell.yaml', {
    check,
    read: (path) => (path in files ? { text: files[path] } : { fault: NO_FILE }),
  });
  const found = diagnostics.find((d) => d.code === code);
  if (!found)
    throw new Error(`The example of ${code} gives ${diagnostics.map((d) => d.code).join(', ') || 'nothing'}.`);
  return { ...found, excerpt: formatExcerpt(found).replace(/^ {4}/gm, '') };
}

const NO_FILE: Diagnostic = {
  code: 'file-unreadable',
  severity: 'error',
  path: [],
  on: 'value',
  params: { why: 'there is no such file' },
};

const SMALL = `loggia: 1
name: Pell
inputs: { move: { stick: { left: KeyA, right: KeyD } }, jump: { button: Space }, gale: { button: KeyF } }
stances: { stand: { when: grounded, tags: floor }, fall: {} }
`;
