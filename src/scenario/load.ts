import { dirname, isAbsolute, join } from 'node:path';
import type { Plan } from '../compile/plan.js';
import { type Loaded, loadMoveset, type PlacedDiagnostic } from '../format/index.js';
import { place } from '../format/parse.js';
import { readText } from '../format/read-text.js';
import { findRoot, isInFolder, realPath } from '../format/root.js';
import { YamlFile } from '../format/yaml-file.js';
import { isPlain, noNames, read } from '../moveset/read.js';
import type { Recording } from '../recording/index.js';
import { wantOptions, wantPlan, wantText } from '../report/arguments.js';
import { Sink } from '../report/diagnostic.js';
import { PlayerFiles } from './load-players.js';
import type { Players } from './players.js';
import { readScenario } from './read-scenario.js';
import { type Keep, type RunResult, runScenario } from './run.js';
import { SCENARIO, type Scenario } from './shape.js';

/** A scenario that was read and, unless there were faults, run. Plain data. */
export interface ScenarioReport {
  /** The scenario's file. */
  readonly file: string;
  /** Its sentence. */
  readonly scenario: string;
  /** The moveset's name, ticks per second and pools, to read the trace by; empty when nothing ran. */
  readonly moveset: string;
  /** Ticks per second. */
  readonly rate: number;
  /** Names of its pools. */
  readonly pools: readonly string[];
  /** What happened; left out where nothing ran. */
  readonly result?: RunResult;
  /** Errors and warnings of the scenario's file or of the moveset's. */
  readonly diagnostics: readonly PlacedDiagnostic[];
  /** For each expectation, its line in the file. */
  readonly lines: readonly number[];
  /** Every file that was read or looked for: what it says depends on these. */
  readonly files: readonly string[];
}

/** How a scenario file is run. */
export interface RunOptions {
  /** Runs with this moveset instead of the one that the scenario names; `moveset` may then be left out. */
  plan?: Plan;
  /** The folder that the moveset and its includes must be in. Default: the nearest with a package.json or .git. */
  root?: string;
  /** Movesets that were loaded before, and will be: many scenarios of one moveset load it once. */
  movesets?: Movesets;
  /** Is given the recording of the run, whole. */
  record?: (recording: Recording) => void;
  /** Which ticks the trace keeps. Default `story`: those in which something happens, and those around failures. */
  keep?: Keep;
}

/** Loads each moveset once. */
export class Movesets {
  private readonly loaded = new Map<string, Promise<Loaded>>();

  load(file: string, root: string): Promise<Loaded> {
    const key = `${realPath(file)}\n${root}`;
    const loaded = this.loaded.get(key) ?? loadMoveset(file, { root });
    this.loaded.set(key, loaded);
    return loaded;
  }
}

/** How many scenarios may follow one another. */
const MOST_SCENES = 16;

/**
 * Reads a scenario file and its moveset, and runs it. Never throws for what is wrong with the files.
 * @param file A path, YAML or JSON.
 * @param given Another moveset, the root folder, which ticks are kept.
 */
export async function runScenarioFile(file: string, given: RunOptions = {}): Promise<ScenarioReport> {
  wantText('runScenarioFile', 'the file', file);
  wantOptions('runScenarioFile', given, ['plan', 'movesets', 'root', 'keep', 'record']);
  if (given.plan !== undefined) wantPlan('runScenarioFile: of its moveset', given.plan);
  return runFile(file, given, []);
}

/** A scenario file that was read, with all that it names. */
export interface ReadFile {
  /** What there is to tell so far. */
  readonly report: ScenarioReport;
  /** Whatever there is to run, unless something is wrong with the files. */
  readonly ready?: {
    readonly players: Players;
    /** @internal */
    readonly parsed: Scenario;
    /** The file as it is written. */
    readonly data: Readonly<Record<string, unknown>>;
    /** Every file that was read. */
    readonly files: readonly string[];
  };
  /** The report again, with the faults that show only when it runs. */
  finish(sink: Sink, result: RunResult | undefined): ScenarioReport;
}

/** `before` are the scenarios that need what is saved at the end of this one. */
async function runFile(file: string, given: RunOptions, before: readonly string[]): Promise<ScenarioReport> {
  const { report, ready, finish } = await readScenarioFile(file, given, before);
  if (!ready) return report;
  const sink = new Sink();
  const result = runScenario(ready.players, ready.parsed, sink, given.keep ?? 'story', given.record);
  return finish(sink, result);
}

/** Reads a scenario file and its movesets. */
export async function readScenarioFile(
  file: string,
  given: RunOptions,
  before: readonly string[] = [],
): Promise<ReadFile> {
  const options = { ...given, movesets: given.movesets ?? new Movesets() };
  const nothing = { file, scenario: '', moveset: '', rate: 60, pools: [], lines: [], files: [file] };
  const text = readText(file);
  if ('fault' in text) return only({ ...nothing, diagnostics: [text.fault] });
  const source = new YamlFile(text.text, file, 'begin with "loggia: 1" and a scenario');
  const { data } = source;
  const scenario = isPlain(data) && typeof data.scenario === 'string' ? data.scenario : '';
  const found = options.plan ? { plan: options.plan } : await findMoveset(source, options);
  const { plan, diagnostics = [] } = found ?? {};
  if (!plan || source.diagnostics.length > 0) {
    const read = [file, ...filesOf(found)];
    return only({ ...nothing, scenario, diagnostics: [...place(source), ...diagnostics], files: read });
  }
  const sink = new Sink();
  const known = options.plan && isPlain(data) ? { moveset: plan.name, ...data } : data;
  const within = [...before, realPath(file)];
  const sceneFiles: string[] = [];
  const scene = async (other: string) => {
    if (within.includes(realPath(other))) return { why: 'it begins with what is saved at the end of this one' };
    if (within.length >= MOST_SCENES) return { why: `it comes after ${MOST_SCENES} others, and that is the most` };
    const ran = await runFile(other, { ...options, plan: undefined, keep: 'nothing', record: undefined }, within);
    sceneFiles.push(...ran.files);
    const { result, diagnostics } = ran;
    if (!result) return { why: `it has faults: ${(diagnostics[0]?.sentence ?? 'nothing ran').replace(/\.$/, '')}` };
    return result.passed ? { progress: result.progress } : { why: 'it does not go as expected' };
  };
  const files = new PlayerFiles(source, { ...options, scene });
  const players = await files.load(plan, isPlain(known) ? known : {}, sink);
  const parsed = readScenario(players, known, sink);
  const { name, rate, names } = plan;
  const ran = { file, scenario, moveset: name, rate, pools: names.pool };
  const finish = (more: Sink, result: RunResult | undefined): ScenarioReport => {
    source.add([...sink.list, ...more.list]);
    const all = [...new Set([file, ...filesOf(found), ...files.files, ...sceneFiles])];
    return {
      ...ran,
      result,
      diagnostics: [...place(source), ...files.diagnostics],
      lines: linesOf(source),
      files: all,
    };
  };
  if (!parsed || files.diagnostics.length > 0) return only(finish(new Sink(), undefined));
  return {
    report: { ...nothing, ...ran, diagnostics: [] },
    ready: {
      players,
      parsed,
      data: known as Readonly<Record<string, unknown>>,
      files: [...new Set([file, ...filesOf(found), ...files.files])],
    },
    finish,
  };
}

/** A file that cannot be run. */
function only(report: ScenarioReport): ReadFile {
  return { report, finish: () => report };
}

/** The moveset that a scenario names; what is wrong with the name is told in the scenario's file. */
async function findMoveset(
  source: YamlFile,
  options: RunOptions & { movesets: Movesets },
): Promise<Partial<Loaded> | undefined> {
  const { data, file } = source;
  const sink = new Sink();
  if (isPlain(data) && data.expect === undefined && (data.stances !== undefined || data.abilities !== undefined))
    sink.add('is-moveset', [], {});
  else if (!isPlain(data) || typeof data.moveset !== 'string') {
    if (source.diagnostics.length === 0) read(SCENARIO, data, [], noNames(), 60, sink);
  } else {
    const path = isAbsolute(data.moveset) ? data.moveset : join(dirname(file), data.moveset);
    const root = options.root ?? findRoot(file);
    if (isInFolder(root, path)) {
      const loaded = await options.movesets.load(path, root);
      const [first] = loaded.diagnostics;
      if (first?.code !== 'file-unreadable' || first.file !== path) return loaded;
      sink.add('file-unreadable', ['moveset'], { why: `${first.params.why} (${path})` });
      source.add(sink.list);
      return { missing: [path] };
    } else sink.add('include-outside', ['moveset'], { value: data.moveset, root });
  }
  source.add(sink.list);
  return undefined;
}

/** Those that a moveset is made of, and those that it lacks. */
export function filesOf({ files = [], missing = [] }: Partial<Loaded> = {}): string[] {
  return [...files, ...missing];
}

function linesOf(source: YamlFile): number[] {
  const { expect } = source.data as { expect?: unknown };
  return Array.isArray(expect) ? expect.map((_, i) => source.position(source.rangeAt(['expect', i])[0]).line) : [];
}
