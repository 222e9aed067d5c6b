import { parse } from 'yaml';
import type { Plan } from '../../src/compile/plan.js';
import { compileTexts } from '../../src/format/compile-texts.js';
import { isPlain } from '../../src/moveset/read.js';
import { Sink } from '../../src/report/diagnostic.js';
import { wordDiagnostic } from '../../src/report/wording.js';
import { entries, playersOf } from '../../src/scenario/players-of.js';
import { readScenario } from '../../src/scenario/read-scenario.js';
import { type Prepared, prepareRun } from '../../src/scenario/run.js';
import { groundsFor } from '../../src/study/explore/grounds.js';
import { TileWorld } from '../../src/world/tile-world.js';
import { type Disk, type Project, resolveFrom } from './disk.js';
import { type Guest, summonsFor } from './guests.js';
import type { TextFile } from './texts.js';

/** Worlds that there are without a file. */
export const YARD = 'yard';
export const FLAT = 'flat';

/** A place to play in, or why there is none. */
export type Ground = { readonly ready: Prepared } | { readonly fault: string };

/** Where to play, and with whom. */
export interface Setting {
  /** A world without a file, or a scenario's file. */
  readonly ground: string;
  /** Who is played, by the name in that world: nothing else plays them. Null for the first. */
  readonly as: string | null;
  /** Who is there besides, in a world without a file. */
  readonly guests: readonly Guest[];
}

type Data = Record<string, unknown>;

/** How far from where one begins the first guest stands, and each further one from the last. */
const FIRST_GUEST = 4;
const NEXT_GUEST = 2.5;

/** The world of a setting, with everybody where they begin. The script of a scenario is not played: somebody plays. */
export async function groundOf(setting: Setting, project: Project, disk: Disk, texts: TextFile[]): Promise<Ground> {
  const { ground } = setting;
  const isOwn = ground === YARD || ground === FLAT;
  try {
    if (isOwn) {
      const plan = await compileFile(project.file, disk, texts);
      if (typeof plan === 'string') return { fault: plan };
      return await castOf(await ownData(setting, plan, project, disk, texts), '', setting.as, disk, texts);
    }
    let data: unknown;
    try {
      data = parse(await disk.read(ground), { maxAliasCount: 100 });
    } catch (error) {
      return { fault: `${ground}: ${sentenceOf(error)}` };
    }
    if (!isPlain(data) || typeof data.moveset !== 'string') return { fault: `${ground} names no moveset.` };
    return await castOf(data, ground, setting.as, disk, texts);
  } catch (error) {
    return { fault: sentenceOf(error) };
  }
}

/** The yard that has one of everything, or nothing but ground, as a scenario says it; files are named from the root on. */
async function ownData(
  { ground, guests }: Setting,
  plan: Plan,
  { file, scenarios }: Project,
  disk: Disk,
  texts: TextFile[],
): Promise<Data> {
  const yard = groundsFor(plan) as { rows?: readonly string[]; places?: unknown };
  const flat = {
    blocks: [{ from: [-200, -2, -200], to: [200, 0, 200] }],
    ...(yard.places !== undefined && { places: Object.fromEntries(plan.names.place.map((name) => [name, [0, 0, 0]])) }),
  };
  const world = ground === YARD ? yard : flat;
  const begin = ground === YARD && yard.rows ? new TileWorld(yard.rows).find('@') : undefined;
  const at = begin ? [begin.x, begin.y] : [0, 0, 0];
  const others: Record<string, unknown> = {};
  const plans = [plan];
  for (const [i, { name, entry, moveset }] of guests.entries()) {
    const place = [at[0] + FIRST_GUEST + NEXT_GUEST * i, ...at.slice(1)];
    let known = name;
    for (let k = 2; known === plan.name || Object.hasOwn(others, known); k++) known = `${name}${k}`;
    others[known] = { facing: 'left', ...entry, moveset, at: place };
    const own = await compileFile(moveset, disk, texts);
    if (typeof own !== 'string') plans.push(own);
  }
  const summons = summonsFor(plans, scenarios);
  return {
    moveset: file,
    scenario: ground,
    world,
    start: { at },
    ...(guests.length > 0 && { others }),
    ...(Object.keys(summons).length > 0 && { summons }),
  };
}

/** Everybody of a scenario, with their movesets and what plays them; its files are named from `file` on. */
async function castOf(data: Data, file: string, as: string | null, disk: Disk, texts: TextFile[]): Promise<Ground> {
  const find = async (named: string): Promise<Plan> => {
    const found = await compileFile(resolveFrom(file, named), disk, texts);
    if (typeof found === 'string') throw new Error(found);
    return found;
  };
  const plan = await find(data.moveset as string);
  const others: Record<string, unknown> = {};
  for (const [name, other] of entries(data.others)) others[name] = await memberOf(other, file, disk, name === as);
  const start = await memberOf(data.start ?? {}, file, disk, as === null || as === plan.name);
  const movesets: Record<string, Plan> = {};
  for (const one of [...Object.values(others), ...entries(data.summons).map(([, moveset]) => ({ moveset }))])
    if (isPlain(one) && typeof one.moveset === 'string') movesets[one.moveset] ??= await find(one.moveset);
  const members = data.others === undefined ? { start } : { start, others };
  return prepare(plan, movesets, { ...data, ...members });
}

/** A member of a scenario: what plays it may stand in a file. Who is played is played by nothing else, and what somebody has learnt before is left out. */
async function memberOf(member: unknown, file: string, disk: Disk, isPlayed: boolean): Promise<unknown> {
  if (!isPlain(member)) return member;
  const { progress: _, plays, ...rest } = member;
  if (plays === undefined || isPlayed) return rest;
  if (typeof plays !== 'string') return { ...rest, plays };
  return { ...rest, plays: parse(await disk.read(resolveFrom(file, plays)), { maxAliasCount: 100 }) };
}

function prepare(plan: Plan, movesets: Readonly<Record<string, Plan>>, data: Data): Ground {
  const sink = new Sink();
  const known = { loggia: 1, ...data, expect: [{ at: 'end', that: 'x == x' }], inputs: [], run: '1f' };
  const players = playersOf(plan, known, movesets, sink);
  const parsed = readScenario(players, known, sink);
  const ready = parsed && prepareRun(players, parsed, sink);
  if (ready) return { ready };
  return {
    fault: sink.list
      .filter(({ severity }) => severity === 'error')
      .map(wordDiagnostic)
      .join(' '),
  };
}

/** A moveset from the disk, with what it includes; texts that are read are kept with the others. A fault is a sentence. */
export async function compileFile(file: string, disk: Disk, texts: TextFile[]): Promise<Plan | string> {
  const load = async (name: string) => {
    if (texts.some((one) => one.name === name)) return;
    const text = await disk.read(name);
    texts.push({ name, text, saved: text });
  };
  try {
    await load(file);
    for (let round = 0; round < 16; round++) {
      const loaded = compileTexts(texts, file);
      if (loaded.missing.length === 0) {
        if (loaded.plan) return loaded.plan;
        const wrong = loaded.diagnostics.find(({ severity }) => severity === 'error');
        return wrong ? `${wrong.file}:${wrong.line}: ${wrong.sentence}` : `${file} is no moveset.`;
      }
      for (const missing of loaded.missing) await load(missing);
    }
    return `${file} includes too many files.`;
  } catch (error) {
    return sentenceOf(error);
  }
}

export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
