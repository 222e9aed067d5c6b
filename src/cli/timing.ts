import type { MovesetChanges } from '../analysis/changes.js';
import type { Timing } from '../analysis/timing.js';
import { csvLine } from '../draw/csv.js';
import { markdownTable } from '../draw/markdown.js';
import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { type Io, refuse, safe } from './io.js';

/** Columns that the longest bar takes. */
const BAR = 46;

export const timing: CommandSpec = {
  name: 'timing',
  summary: 'Print when each ability starts up, is active and recovers, with its damage, cost and advantage.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [
    ['--csv', 'print the table as CSV, times in ticks'],
    ['--json', 'print the table as JSON, times in ticks'],
    ['--markdown', 'print the table, or what changed, for a pull request'],
    ['--compare <other>', 'tell what changed since another version: a file, or a revision of git like HEAD~3'],
    ROOT_OPTION,
  ],
  example: 'loggia timing demo/boatyard/pell-breakwater.yaml',
  async run([file], given, io) {
    const { json, csv, markdown } = given;
    const { loadMoveset } = await import('../format/index.js');
    const { timingOf } = await import('../analysis/timing.js');
    const { plan, diagnostics } = await loadMoveset(file, rootOf(given));
    if (!plan) return refuse(io, diagnostics, `loggia timing: ${safe(file)} has errors; nothing was printed.`);
    if (given.compare !== undefined) {
      const { loadVersion } = await import('./versions.js');
      const before = await loadVersion(String(given.compare), file, rootOf(given).root, io);
      if (!before) return 1;
      const { changesOf } = await import('../analysis/changes.js');
      const { changesMarkdown } = await import('../draw/changes.js');
      const changes = changesOf(before, plan);
      if (json) io.out(JSON.stringify(changes, null, 2));
      else if (markdown) io.out(changesMarkdown(plan.name, changes).trimEnd());
      else await printChanges(changes, io);
      return 0;
    }
    // What strikes comes first.
    const all = timingOf(plan);
    const rows = [...all.filter(({ damage }) => damage !== null), ...all.filter(({ damage }) => damage === null)];
    if (json) io.out(JSON.stringify({ moveset: plan.name, rate: plan.rate, abilities: rows }, null, 2));
    else if (csv) for (const line of toCsv(rows)) io.out(line);
    else if (markdown) for (const line of toMarkdown(rows)) io.out(line);
    else print(rows, plan.rate, io);
    return 0;
  },
};

function print(rows: readonly Timing[], rate: number, io: Io): void {
  if (rows.length === 0) {
    io.out('No ability has phases, so there is nothing to time.');
    return;
  }
  const longest = Math.max(1, ...rows.map(({ total }) => total ?? 0));
  const scale = Math.max(1, Math.ceil(longest / BAR));
  const head = ['ability', 'start', 'active', 'recover', 'total', 'damage', 'per s', 'cost', 'stun', 'hit', 'block'];
  const cells = rows.map((row) => [
    row.ability + (row.charged ? '*' : ''),
    tick(row.startup),
    tick(row.active),
    tick(row.recovery),
    row.total === null ? 'open' : `${row.total}f ${(row.total / rate).toFixed(2)}s`,
    short(row.damage),
    short(row.damagePerSecond),
    costsOf(row),
    tick(row.stun),
    signed(row.onHit),
    signed(row.onBlock),
  ]);
  const widths = head.map((title, i) => Math.max(title.length, ...cells.map((line) => line[i].length)));
  const line = (texts: readonly string[]) =>
    texts.map((text, i) => (i === 0 || i === 7 ? text.padEnd(widths[i]) : text.padStart(widths[i]))).join('  ');
  io.out(io.color.bold(line(head)));
  rows.forEach((row, i) => {
    io.out(`${line(cells[i])}  ${bar(row, scale, io)}`.trimEnd());
  });
  io.out('');
  io.out(
    `Each ${scale === 1 ? 'sign is a tick' : `sign is ${scale} ticks`}: ${io.color.dim('.')} starts up, # strikes, ${io.color.dim('=')} recovers. "hit" and "block": free so many ticks before the other one.`,
  );
  if (rows.some(({ charged }) => charged)) io.out('* with its charge full');
  for (const { ability, cancels, combos } of rows) {
    const into = cancels.map(({ into, from }) => `${into} from ${from}f`).join(', ');
    const reach = combos.length > 0 ? `; in a combo: ${combos.join(', ')}` : '';
    if (into || reach) io.out(`${ability}: ${into ? `open to ${into}` : 'open to nothing'}${reach}`);
  }
}

function costsOf({ costs }: Timing): string {
  const all = Object.entries(costs).map(([pool, cost]) => `${short(cost)} ${pool}`);
  return all.join(', ') || '-';
}

function bar({ startup, active, recovery, damage }: Timing, scale: number, io: Io): string {
  let from = 0;
  let shown = 0;
  const signs = (ticks: number | null, sign: string) => {
    from += ticks ?? 0;
    const count = Math.round(from / scale) - shown;
    shown += count;
    return sign.repeat(count);
  };
  const starts = signs(startup, '.');
  const acts = signs(active, damage === null ? '-' : '#');
  return io.color.dim(starts) + acts + io.color.dim(signs(recovery, '='));
}

const tick = (n: number | null): string => (n === null ? '-' : `${n}f`);
const short = (n: number | null): string => (n === null ? '-' : String(Math.round(n * 10) / 10));
const signed = (n: number | null): string => (n === null ? '-' : n > 0 ? `+${n}` : String(n));

function toCsv(rows: readonly Timing[]): string[] {
  const columns = ['ability', 'lane', 'startup', 'active', 'recovery', 'total', 'cooldown'] as const;
  const worth = ['damage', 'damagePerSecond', 'costPerDamage', 'stun', 'onHit', 'onBlock'] as const;
  const lines = rows.map((row) =>
    csvLine([
      ...[...columns, ...worth].map((column) => row[column]),
      Object.entries(row.costs)
        .map(([pool, cost]) => `${pool} ${cost}`)
        .join(' '),
      row.cancels.map(({ into, from }) => `${into}@${from}`).join(' '),
      row.combos.join(' '),
    ]),
  );
  return [csvLine([...columns, ...worth, 'costs', 'cancels', 'combos']), ...lines];
}

/** The table as Markdown. */
function toMarkdown(rows: readonly Timing[]): string[] {
  return markdownTable(
    ['ability', 'startup', 'active', 'recovery', 'total', 'damage', 'cost', 'on hit', 'on block'],
    rows.map((row) => [
      row.ability,
      tick(row.startup),
      tick(row.active),
      tick(row.recovery),
      row.total === null ? 'open' : `${row.total}f`,
      short(row.damage),
      costsOf(row),
      signed(row.onHit),
      signed(row.onBlock),
    ]),
  );
}

/** What changed, ability by ability, and then every value of the text. */
async function printChanges(changes: MovesetChanges, io: Io): Promise<void> {
  const { changeText, valueText } = await import('../draw/changes.js');
  const { printLegal, printWhole } = await import('./print-changes.js');
  const { added, removed, timing, legal, values } = changes;
  const { bold } = io.color;
  if (added.length + removed.length + timing.length + legal.length + values.length === 0) {
    io.out('nothing changed');
    return;
  }
  printWhole(changes, io);
  for (const ability of new Set(timing.map((one) => one.ability))) {
    io.out(bold(safe(ability)));
    for (const one of timing.filter((other) => other.ability === ability))
      io.out(`  ${one.what.padEnd(16)} ${safe(changeText(one))}`);
  }
  if (legal.length > 0) io.out(bold('who may follow whom'));
  printLegal(changes, '  ', io);
  if (values.length > 0) io.out(bold('values'));
  for (const { path, before, after } of values) io.out(`  ${safe(path)}  ${safe(valueText(before, after))}`);
}
