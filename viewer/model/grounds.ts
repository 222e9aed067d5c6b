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
import { type Disk, resolveFrom } from './disk.js';
import type { TextFile } from './texts.js';

/** Worlds that there are without a file. */
export const YARD = 'yard';
export const FLAT = 'flat';

/** A place to play in, or why there is none. */
export type Ground = { readonly ready: Prepared } | { readonly fault: string };

/** The yard that has one of everything, or nothing but ground. */
export function ownGround(plan: Plan, which: typeof YARD | typeof FLAT): Ground {
  const yard = groundsFor(plan) as { places?: unknown };
  const flat = {
    blocks: [{ from: [-200, -2, -200], to: [200, 0, 200] }],
    ...(yard.places !== undefined && { places: Object.fromEntries(plan.names.place.map((name) => [name, [0, 0, 0]])) }),
  };
  const isTiles = 'rows' in yard;
  const start = which === YARD && isTiles ? {} : { start: { at: [0, 0, 0] } };
  return prepare(
    { plan, movesets: {} },
    {
      scenario: which,
      world: which === YARD ? yard : flat,
      ...start,
      run: '1f',
    },
  );
}

interface Cast {
  readonly plan: Plan;
  readonly movesets: Readonly<Record<string, Plan>>;
}

function prepare({ plan, movesets }: Cast, data: Record<string, unknown>): Ground {
  const sink = new Sink();
  const known = {
    loggia: 1,
    moveset: plan.name,
    ...data,
    expect: [{ at: 'end', that: 'x == x' }],
    inputs: [],
    run: '1f',
  };
  const players = playersOf(plan, known, movesets, sink);
  const parsed = readScenario(players, known, sink);
  const ready = sink.failed ? undefined : prepareRun(players, parsed, sink);
  if (ready) return { ready };
  return {
    fault: sink.list
      .filter(({ severity }) => severity === 'error')
      .map(wordDiagnostic)
      .join(' '),
  };
}

/** The world of a scenario, with everybody where it begins. Its script is not played: somebody plays. */
export async function groundOf(file: string, disk: Disk, texts: TextFile[]): Promise<Ground> {
  let data: unknown;
  try {
    data = parse(await disk.read(file), { maxAliasCount: 100 });
  } catch (error) {
    return { fault: `${file}: ${error instanceof Error ? error.message : String(error)}` };
  }
  if (!isPlain(data) || typeof data.moveset !== 'string') return { fault: `${file} names no moveset.` };
  try {
    const others: Record<string, unknown> = {};
    for (const [name, other] of entries(data.others)) others[name] = await memberOf(other, file, disk);
    const start = await memberOf(data.start ?? {}, file, disk);
    const named = [
      data,
      ...Object.values(others),
      ...entries(data.summons).map(([, moveset]) => ({ moveset })),
    ].flatMap((one) => (isPlain(one) && typeof one.moveset === 'string' ? [one.moveset] : []));
    const movesets: Record<string, Plan> = {};
    for (const one of new Set(named)) {
      const loaded = await compileFile(resolveFrom(file, one), disk, texts);
      if (typeof loaded === 'string') return { fault: loaded };
      movesets[one] = loaded;
    }
    const members = data.others === undefined ? { start } : { start, others };
    return prepare({ plan: movesets[data.moveset], movesets }, { ...data, ...members });
  } catch (error) {
    return { fault: error instanceof Error ? error.message : String(error) };
  }
}

/** A member of a scenario: what plays it may stand in a file, and what it has learnt before, which is left out. */
async function memberOf(member: unknown, file: string, disk: Disk): Promise<unknown> {
  if (!isPlain(member)) return member;
  const { progress: _, plays, ...rest } = member;
  if (typeof plays !== 'string') return plays === undefined ? rest : { ...rest, plays };
  return { ...rest, plays: parse(await disk.read(resolveFrom(file, plays)), { maxAliasCount: 100 }) };
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
    return error instanceof Error ? error.message : String(error);
  }
}
