import { dirname, isAbsolute, join } from 'node:path';
import { OPPONENT, type ParsedOpponent } from '../arena/opponent.js';
import type { Plan } from '../compile/plan.js';
import type { Loaded, PlacedDiagnostic } from '../format/index.js';
import { place } from '../format/parse.js';
import { readText } from '../format/read-text.js';
import { findRoot, isInFolder } from '../format/root.js';
import { YamlFile } from '../format/yaml-file.js';
import { isPlain, read } from '../moveset/read.js';
import type { Path, Sink } from '../report/diagnostic.js';
import { type Players, planOf } from './players.js';
import { entries } from './players-of.js';

interface Loads {
  readonly root?: string;
  /** Runs another scenario: what is saved at its end, or why there is nothing. */
  scene(file: string): Promise<{ readonly progress: unknown } | { readonly why: string }>;
  readonly movesets: { load(file: string, root: string): Promise<Loaded> };
}

type Data = Record<string, unknown>;

/** Loads what a scenario's file names besides its first moveset: those of the others, of who may be called, and opponents. */
export class PlayerFiles {
  /** What is wrong in those files. */
  readonly diagnostics: PlacedDiagnostic[] = [];
  /** All of them, also those that they lack. */
  readonly files: string[] = [];
  private readonly root: string;

  constructor(
    private readonly source: YamlFile,
    private readonly options: Loads,
  ) {
    this.root = options.root ?? findRoot(source.file);
  }

  async load(plan: Plan, data: Data, sink: Sink): Promise<Players> {
    const others = new Map<string, Plan>();
    const summons: Record<string, Plan> = {};
    const plays = new Map<string, ParsedOpponent>();
    for (const [name, other] of entries(data.others)) {
      const file = isPlain(other) ? other.moveset : undefined;
      const found = file === undefined ? plan : await this.moveset(file, ['others', name, 'moveset'], sink);
      if (found) others.set(name, found);
    }
    for (const [name, file] of entries(data.summons)) {
      const found = await this.moveset(file, ['summons', name], sink);
      if (found) summons[name] = found;
    }
    const progress = new Map<string, unknown>();
    const players: Players = { plan, others, summons, plays, progress };
    const members: [string, Path, unknown][] = [
      [plan.name, ['start'], data.start],
      ...entries(data.others).map(([name, other]): [string, Path, unknown] => [name, ['others', name], other]),
    ];
    for (const [name, path, member] of members) {
      const saved = isPlain(member) ? await this.progress(member.progress, [...path, 'progress'], sink) : undefined;
      if (saved !== undefined) progress.set(name, saved);
      const given = isPlain(member) ? member.plays : undefined;
      const own = planOf(players, name);
      if (given === undefined || !own) continue;
      const parsed = this.opponent(given, own, [...path, 'plays'], sink);
      if (parsed) plays.set(name, parsed);
    }
    return players;
  }

  private async moveset(file: unknown, path: Path, sink: Sink): Promise<Plan | undefined> {
    const found = this.pathOf(file, path, sink);
    if (found === undefined) return undefined;
    const { plan, diagnostics, files, missing } = await this.options.movesets.load(found, this.root);
    this.files.push(found, ...files, ...missing);
    const [first] = diagnostics;
    if (first?.code === 'file-unreadable' && first.file === found)
      sink.add('file-unreadable', path, { why: `${first.params.why} (${found})` });
    else if (!plan) this.diagnostics.push(...diagnostics.filter((d) => d.severity === 'error'));
    return plan;
  }

  /** What was saved: in a file, or at the end of another scenario. */
  private async progress(given: unknown, path: Path, sink: Sink): Promise<unknown> {
    const source = this.yaml(given, 'it is to hold saved progress, or a scenario', path, sink);
    if (source === undefined) return undefined;
    if (source.diagnostics.length > 0) {
      this.diagnostics.push(...place(source));
      return undefined;
    }
    if (!isPlain(source.data) || source.data.scenario === undefined) return source.data;
    const scene = await this.options.scene(source.file);
    if ('progress' in scene) return scene.progress;
    sink.add('no-progress', path, { file: String(given), why: scene.why });
    return undefined;
  }

  /** An opponent that is written in the scenario, or in a file of its own. */
  private opponent(given: unknown, plan: Plan, path: Path, sink: Sink): ParsedOpponent | undefined {
    if (typeof given !== 'string') return read(OPPONENT, given, [...path], plan.names, plan.rate, sink);
    const source = this.yaml(given, 'begin with "loggia: 1" and "acts"', path, sink);
    if (source === undefined) return undefined;
    const own = new (sink.constructor as new () => Sink)();
    const parsed = read(OPPONENT, source.data, [], plan.names, plan.rate, own);
    source.add(own.list);
    this.diagnostics.push(...place(source).filter((d) => d.severity === 'error'));
    return own.failed ? undefined : parsed;
  }

  /** A file that the scenario names; undefined if it cannot be read, which is told. */
  private yaml(given: unknown, wanted: string, path: Path, sink: Sink): YamlFile | undefined {
    const file = this.pathOf(given, path, sink);
    if (file === undefined) return undefined;
    this.files.push(file);
    const text = readText(file);
    if ('text' in text) return new YamlFile(text.text, file, wanted);
    sink.add('file-unreadable', path, { why: `${text.fault.params.why} (${file})` });
    return undefined;
  }

  private pathOf(file: unknown, path: Path, sink: Sink): string | undefined {
    if (typeof file !== 'string') return undefined;
    const found = isAbsolute(file) ? file : join(dirname(this.source.file), file);
    if (isInFolder(this.root, found)) return found;
    sink.add('include-outside', path, { value: file, root: this.root });
    return undefined;
  }
}
