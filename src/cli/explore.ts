import { join, relative } from 'node:path';
import type { Exploration, Finding } from '../study/explore/explore.js';
import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { type ExitCode, type Io, refuse, safe } from './io.js';

export const explore: CommandSpec = {
  name: 'explore',
  summary: 'Search what can happen: what never starts, who gets stuck, what goes on for ever, and how far it comes.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [
    [
      '--world <scenario>',
      'search in the world of this scenario, from its start (default: a yard with one of everything)',
    ],
    ['--against <file>', 'the moveset of somebody who stands before it: combos without an end are looked for'],
    ['--time <seconds>', 'longest search (default: 20)'],
    ['--states <count>', 'most states (default: 40000)'],
    ['--depth <seconds>', 'longest play (default: 12)'],
    ['--allow <names...>', 'abilities and stances in which it may well stay for ever, such as a faint'],
    ['--out <folder>', 'write a scenario that shows it for each finding'],
    ['--json', 'print all as JSON'],
    ['--sarif', 'print the findings as SARIF, for code hosts that show results in place'],
    ROOT_OPTION,
  ],
  example: 'loggia explore demo/boatyard/pell-hull.yaml --time 10',
  async run([file], given, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { exploreMoveset } = await import('../study/explore/explore.js');
    const { UsageError } = await import('../report/usage-error.js');
    const loaded = await loadMoveset(file, rootOf(given));
    const { plan, diagnostics, files, placeOf } = loaded;
    if (!plan) return refuse(io, diagnostics, `loggia explore: ${safe(file)} has errors; nothing was searched.`);
    const numbers: Record<string, number> = {};
    for (const key of ['time', 'states', 'depth']) {
      if (given[key] === undefined) continue;
      numbers[key] = Number(given[key]);
      if (!(numbers[key] > 0)) {
        io.err(`loggia explore: --${key} takes a number above 0, not ${safe(String(given[key]))}.`);
        return 2;
      }
    }
    const place = given.world === undefined ? {} : await worldOf(String(given.world), rootOf(given).root, io);
    const against = given.against === undefined ? undefined : await loadMoveset(String(given.against), rootOf(given));
    if (!place) return 1;
    if (against && !against.plan)
      return refuse(
        io,
        against.diagnostics,
        `loggia explore: ${safe(String(given.against))} has errors; nothing was searched.`,
      );
    let stopped = false;
    const stop = () => {
      stopped = true;
    };
    process.once('SIGINT', stop);
    try {
      const found = await exploreMoveset(plan, {
        ...numbers,
        ...place,
        ...(against?.plan && { against: against.plan }),
        allow: [given.allow ?? []].flat().map(String),
        progress: async (states, ticks) => {
          io.progress(`${states} states, ${ticks} ticks`);
          // So that Ctrl-C is heard.
          await new Promise((resolve) => setImmediate(resolve));
          return !stopped;
        },
      });
      io.progress();
      if (given.json) io.out(JSON.stringify(found, null, 2));
      else if (given.sarif) io.out(JSON.stringify(await sarifOf(found, placeOf), null, 2));
      else print(found, placeOf, io);
      if (given.out === undefined) return found.findings.length > 0 ? 1 : 0;
      const code = await writeScenarios(found, file, String(given.out), files, io);
      return code === 0 && found.findings.length > 0 ? 1 : code;
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      io.progress();
      io.err(safe(`loggia explore: ${error.message.replace(/^exploreMoveset: /, '')}`));
      return 1;
    } finally {
      process.off('SIGINT', stop);
    }
  },
};

/** World, start and who may be called of a scenario; undefined, which is told, where it has faults. */
async function worldOf(file: string, root: string | undefined, io: Io) {
  const { readScenarioFile } = await import('../scenario/load.js');
  const { ready, report } = await readScenarioFile(file, root === undefined ? {} : { root });
  if (!ready) {
    refuse(io, report.diagnostics, `loggia explore: the scenario ${safe(file)} cannot be read; see above.`);
    return undefined;
  }
  // As it is written, not as it was read.
  const { world = {}, start } = ready.data as { world?: { blocks?: object[] }; start?: { at?: unknown } };
  const { summons } = ready.players;
  return {
    world: world.blocks
      ? { ...world, blocks: world.blocks.map(({ path: _, ...block }: { path?: unknown }) => block) }
      : world,
    ...(start?.at !== undefined && { start: start.at }),
    ...(Object.keys(summons).length > 0 && { summons }),
  };
}

type PlaceOf = ((path: Finding['path']) => { file: string; line: number; column: number } | undefined) | undefined;

const ENDED = {
  all: 'everything that these steps can reach was searched',
  states: 'the search ended at the limit of states (--states)',
  time: 'the search ended at the limit of time (--time)',
  stopped: 'the search was stopped',
};

function print(
  { moveset, findings, furthest, highest, quickest, states, ticks, depth, ended, near }: Exploration,
  placeOf: PlaceOf,
  io: Io,
): void {
  const { bold, dim, yellow, green } = io.color;
  for (const { kind, text, path, scenario } of findings) {
    const place = placeOf?.(path);
    io.out(`${yellow(kind)}  ${safe(text)}`);
    if (place) io.out(dim(safe(`  ${place.file}:${place.line}`)));
    if (scenario) io.out(dim(`  ${safe(inputsText(scenario))}`));
  }
  const total = `${states.toLocaleString('en')} states and ${ticks.toLocaleString('en')} ticks, plays of up to ${depth.toFixed(1)} s`;
  if (findings.length === 0) io.out(green(`nothing was found in ${total}`));
  io.out(bold(`${safe(moveset)} comes ${round(furthest.value)} far and ${round(highest.value)} high`));
  const first = Object.entries(quickest).map(([name, time]) => `${name} ${time} s`);
  if (first.length > 0) io.out(dim(`first: ${safe(first.join(', '))}`));
  io.out(
    dim(
      `Searched: ${total}, in steps of 0.1 s; places nearer than ${near} count as one, and so do like speeds, pools and times.`,
    ),
  );
  io.out(dim(`${ENDED[ended]}. What was not found may still be there.`));
}

/** What is pressed in a scenario, in a line. */
function inputsText({ inputs }: Readonly<Record<string, unknown>>): string {
  const rows = (inputs ?? []) as Record<string, unknown>[];
  const parts = rows.slice(0, 8).map(({ at, ...does }) => {
    const [[verb, what]] = Object.entries(does);
    const text = Array.isArray(what)
      ? what.join(' ')
      : typeof what === 'object'
        ? JSON.stringify(what).replace(/["{}]/g, '')
        : String(what);
    return `${String(at)} ${verb} ${text}`;
  });
  return parts.join(', ') + (rows.length > 8 ? ', ...' : '');
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}

async function sarifOf({ findings }: Exploration, placeOf: PlaceOf) {
  const { toSarif } = await import('./sarif.js');
  return toSarif(
    findings.flatMap(({ kind, text, path }) => {
      const place = placeOf?.(path);
      return place ? [{ code: kind, severity: 'warning' as const, sentence: `${text}.`, ...place }] : [];
    }),
  );
}

/** Writes each finding's scenario into a folder; says which. */
async function writeScenarios(
  { findings, furthest, highest }: Exploration,
  moveset: string,
  folder: string,
  sources: readonly string[],
  io: Io,
): Promise<ExitCode> {
  const { writeYaml } = await import('../format/write-yaml.js');
  const { writeFolder } = await import('./write-out.js');
  const names = new Set<string>();
  const outputs: [string, string][] = [];
  const add = (name: string, scenario: Readonly<Record<string, unknown>> | undefined) => {
    if (!scenario) return;
    let file = `${name}.yaml`;
    for (let i = 2; names.has(file); i++) file = `${name}-${i}.yaml`;
    names.add(file);
    outputs.push([file, writeYaml({ ...scenario, moveset: relative(folder, moveset).replaceAll('\\', '/') })]);
  };
  for (const { kind, name, scenario } of findings) add(`${kind}-${name.replace(/\W+/g, '-')}`, scenario);
  add('furthest', furthest.scenario);
  add('highest', highest.scenario);
  if (outputs.length === 0) io.out(safe(`nothing to write into ${folder}`));
  else if (!writeFolder('explore', folder, outputs, sources, io)) return 1;
  for (const [file] of outputs) io.out(safe(`wrote ${join(folder, file)}`));
  return 0;
}
