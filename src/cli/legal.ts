import type { Legal, LegalRow, LegalRule } from '../analysis/legal.js';
import type { Plan } from '../compile/plan.js';
import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { type ExitCode, type Io, refuse, safe } from './io.js';
import { known } from './known.js';

export const legal: CommandSpec = {
  name: 'legal',
  summary: 'Print who may follow whom, by phase and stance, and which word of the moveset decides.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [
    ['--why <abilities...>', 'explain one pair: what runs (or a stance), and what is to start'],
    ['--compare <other>', 'tell which pairs changed since another version: a file, or a revision of git'],
    ['--matrix', 'print all pairs as a table of signs'],
    ['--csv', 'print a line for each cell, as CSV'],
    ['--json', 'print all cells with their rules, as JSON'],
    ['--out <file>', 'write a page to be looked at in a browser: legal.html'],
    ROOT_OPTION,
  ],
  example: 'loggia legal demo/boatyard/pell.yaml --why gaffJab hop',
  async run([file], given, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { legalOf } = await import('../analysis/legal.js');
    const loaded = await loadMoveset(file, rootOf(given));
    const { plan, diagnostics } = loaded;
    if (!plan) return refuse(io, diagnostics, `loggia legal: ${safe(file)} has errors; nothing was printed.`);
    if (given.compare !== undefined) {
      const { loadVersion } = await import('./versions.js');
      const before = await loadVersion(String(given.compare), file, rootOf(given).root, io);
      if (!before) return 1;
      const { printLegal, printWhole } = await import('./print-changes.js');
      const changes = (await import('../analysis/changes.js')).changesOf(before, plan);
      const { added, removed, legal: pairs } = changes;
      if (given.json) io.out(JSON.stringify({ added, removed, legal: pairs }, null, 2));
      else if (pairs.length + added.length + removed.length === 0)
        io.out('nobody may follow anybody otherwise than before');
      else {
        printWhole(changes, io);
        printLegal(changes, '', io);
      }
      return 0;
    }
    const found = legalOf(plan);
    if (given.why !== undefined) return explain(plan, found, [given.why].flat().map(String), loaded.placeOf, io);
    const draw = await import('../draw/legal.js');
    if (given.out !== undefined) {
      const { writePages } = await import('./write-out.js');
      return writePages(String(given.out), { html: () => [draw.legalHtml(found)] }, loaded.files, io);
    }
    if (given.json) io.out(JSON.stringify(found, null, 2));
    else if (given.csv) for (const line of draw.legalCsv(found)) io.out(line);
    else if (given.matrix) await printMatrix(found, io);
    else printStory(plan, found, io);
    return 0;
  },
};

/** Names in a line, those with conditions marked. */
function listOf(row: LegalRow, of: (cell: LegalRow['cells'][number]) => boolean): string {
  return row.cells
    .filter(of)
    .map(({ into, may }) => (may === 'if' ? `${into}?` : into))
    .join(', ');
}

function printStory(plan: Plan, { moveset, rows }: Legal, io: Io): void {
  const { bold, dim } = io.color;
  const width = Math.max(...rows.map(({ stance, phase }) => (stance ?? phase ?? '').length));
  io.out(bold(`${safe(moveset)}, while nothing runs`));
  for (const row of rows.filter(({ stance }) => stance !== null))
    io.out(`  ${(row.stance ?? '').padEnd(width)}  ${listOf(row, ({ may }) => may !== 'no') || dim('nothing')}`);
  const names = [...new Set(rows.flatMap(({ ability }) => ability ?? []))];
  for (const name of names) {
    const own = rows.filter(({ ability }) => ability === name);
    io.out(`${bold(safe(name))} ${dim(`in ${own[0].lane}`)}`);
    for (const line of linesOf(own)) io.out(`  ${line.phases.padEnd(width)}  ${line.text || dim('nothing')}`);
    for (const [phases, text] of same(own, (row) => listOf(row, ({ by }) => by === 'bars')))
      if (text) io.out(`  ${phases.padEnd(width)}  bars ${text}`);
  }
  if (plan.names.lane.length > 1) io.out(dim('What is in another lane runs beside it, unless it is barred.'));
  const conditions = new Map<string, LegalRule[]>();
  for (const { cells, stance } of rows)
    for (const { into, rules } of stance === null ? [] : cells)
      for (const rule of rules)
        if (rule.allows === 'if' && !(conditions.get(into) ?? []).some(({ text }) => text === rule.text))
          conditions.set(into, [...(conditions.get(into) ?? []), rule]);
  if (conditions.size === 0) return;
  io.out(bold('? only if'));
  for (const [ability, rules] of conditions)
    io.out(`  ${safe(ability)}: ${rules.map(({ text }) => safe(text)).join(dim(' and '))}`);
}

/** What may come into the lane, by phases that let in the same. */
function linesOf(rows: readonly LegalRow[]): { phases: string; text: string }[] {
  const words = { open: 'open to', breaks: 'broken by' } as const;
  return same(rows, (row) =>
    (['open', 'breaks'] as const)
      .flatMap((word) => {
        const names = listOf(row, ({ may, by }) => may !== 'no' && by === word);
        return names ? `${words[word]} ${names}` : [];
      })
      .join('; '),
  ).map(([phases, text]) => ({ phases, text }));
}

/** Phases in a row of which something is the same, and what it is. */
function same(rows: readonly LegalRow[], tell: (row: LegalRow) => string): [phases: string, text: string][] {
  const found: [string[], string][] = [];
  for (const row of rows) {
    const text = tell(row);
    const last = found.at(-1);
    if (last && last[1] === text) last[0].push(row.phase ?? '');
    else found.push([[row.phase ?? ''], text]);
  }
  return found.map(([phases, text]) => [
    rows.length > 1 && found.length === 1
      ? ''
      : phases.length > 2
        ? `${phases[0]} to ${phases.at(-1)}`
        : phases.join(', '),
    text,
  ]);
}

async function printMatrix({ moveset, abilities, rows }: Legal, io: Io): Promise<void> {
  const { SIGNS, signOf } = await import('../draw/legal.js');
  const { momentText } = await import('../analysis/legal.js');
  const titles = rows.map(momentText);
  const width = Math.max(...titles.map((title) => title.length));
  io.out(io.color.bold(`${safe(moveset)}: who may follow whom`));
  // Names run downwards, each over its column.
  const height = Math.max(...abilities.map((name) => name.length));
  for (let line = 0; line < height; line++) {
    const letters = abilities.map((name) => (name[line - height + name.length] ?? '').padEnd(3));
    io.out(`${' '.repeat(width)}  ${letters.join('')}`.trimEnd());
  }
  let last: string | null = null;
  rows.forEach((row, i) => {
    if (row.ability !== last) io.out('');
    last = row.ability;
    const cells = row.cells.map((cell) => paint(cell.may, signOf(cell).padEnd(3), io));
    io.out(`${titles[i].padEnd(width)}  ${cells.join('')}`.trimEnd());
  });
  io.out('');
  for (const [sign, meaning] of Object.values(SIGNS)) io.out(`${sign}  ${meaning}`);
}

function paint(may: 'yes' | 'if' | 'no', sign: string, io: Io): string {
  return may === 'yes' ? io.color.green(sign) : may === 'if' ? io.color.yellow(sign) : io.color.dim(sign);
}

/** Says of one pair what each rule says, where it stands, and what would have to change. */
function explain(
  plan: Plan,
  { rows }: Legal,
  pair: readonly string[],
  placeOf: ((path: LegalRule['path']) => { file: string; line: number } | undefined) | undefined,
  io: Io,
): ExitCode {
  const [first, into] = pair;
  if (pair.length !== 2) {
    io.err('loggia legal: --why takes two names behind the file: what runs (or a stance), and what is to start.');
    return 2;
  }
  if (!known('legal', 'ability or stance', first, [...plan.names.ability, ...plan.names.stance], io)) return 2;
  if (!known('legal', 'ability', into, plan.names.ability, io)) return 2;
  // An ability may be called as a stance is: it is meant then.
  const isAbility = plan.names.ability.includes(first);
  const own = rows.filter(({ ability, stance }) => (isAbility ? ability : stance) === first);
  const told: { phases: string[]; lines: string[] }[] = [];
  for (const row of own) {
    const cell = row.cells[plan.names.ability.indexOf(into)];
    const lines = linesFor(cell, placeOf, io);
    const last = told.at(-1);
    if (last && last.lines.join() === lines.join()) last.phases.push(row.phase ?? '');
    else told.push({ phases: [row.phase ?? ''], lines });
  }
  for (const { phases, lines } of told) {
    const when = isAbility
      ? `while ${first} runs${told.length > 1 ? ` in ${phases.join(', ')}` : ''}`
      : `while nothing runs in the stance ${first}`;
    io.out(`${safe(when)}: ${lines[0]}`);
    for (const line of lines.slice(1)) io.out(`  ${line}`);
  }
  return 0;
}

function linesFor(
  { into, may, rules }: LegalRow['cells'][number],
  placeOf: ((path: LegalRule['path']) => { file: string; line: number } | undefined) | undefined,
  io: Io,
): string[] {
  const { green, yellow, red, dim } = io.color;
  const verdict =
    may === 'yes'
      ? green(`${safe(into)} may start`)
      : may === 'if'
        ? yellow(`${safe(into)} may start if its conditions hold`)
        : red(`${safe(into)} may not start`);
  const signs = { yes: '+', if: '?', no: '-' };
  return [
    verdict,
    ...rules.flatMap(({ word, allows, text, path, change }) => {
      const place = placeOf?.(path);
      const where = place ? `${safe(place.file)}:${place.line}` : '';
      return [
        `${signs[allows]} ${word}: ${allows === 'if' ? 'if ' : ''}${safe(text)}  ${dim(where)}`.trimEnd(),
        ...(change ? [`  to let it: ${safe(change)}`] : []),
      ];
    }),
  ];
}
