import { checkOpponent, type Opponent } from '../arena/opponent.js';
import { noteOrigin, type OriginData, readOrigin, writeOrigin } from '../compile/origin.js';
import type { Plan } from '../compile/plan.js';
import { checkMoveset } from '../interpret/check.js';
import { isPlain } from '../moveset/read.js';
import { want, wantOptions, wantPlan } from '../report/arguments.js';
import { DEEPEST_PACKED, nestsTooDeep } from '../report/nesting.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import { wordDiagnostic, wordPath } from '../report/wording.js';
import { describe } from '../report/words.js';
import { dataOfWorld, faultOfWorld, type WorldData } from '../world/world-data.js';
import type { WorldTraits } from './answers.js';
import { Frames, PAGE, Page } from './frames.js';
import type { Change, FrozenWorld, Run } from './run.js';

/*
 * A recording as a file: JSON Lines, deflated (gzip). The first line says what it is; then a line for each moveset, for what plays
 * somebody, for what the host changed, and for each run of ticks. docs/reference/recordings.md describes it.
 */

/** Format of the file. */
export const FORMAT = 1;

/** How a file is read. */
export interface ReadOptions {
  /** Movesets that the file does not hold: those with functions, packed ones and modules. They are found by their names. */
  movesets?: readonly Plan[] | undefined;
  /** How many megabytes its text may have once it is inflated. From 1 to 4,000. Default 256. */
  megabytes?: number | undefined;
}

export type Line = Record<string, unknown>;

/** A recording as bytes. */
export async function writeFile(run: Run): Promise<Uint8Array> {
  const { frames, isArena, rate, engineFinds, names, kinds, teams, tags, words, world, places, summons } = run;
  if (frames.isEmpty) throw new UsageError('toFile: nothing was recorded yet; tick first.', 'missing');
  const lines: Line[] = [
    {
      loggia: 1,
      recording: FORMAT,
      of: isArena ? 'arena' : 'character',
      rate,
      first: frames.first,
      last: frames.last,
      world: writeWorld(world),
      places: Object.fromEntries(places),
      ...(engineFinds && { engineFinds }),
      names,
      kinds,
      teams,
      tags,
      words,
      summons: Object.fromEntries(Object.entries(summons).map(([name, plan]) => [name, indexOfPlan(run, plan)])),
    },
    ...plansOf(run).map(writeMoveset),
    ...[...run.opponents].map(([id, { plan, parsed }]) => ({
      opponent: id,
      moveset: indexOfPlan(run, plan),
      plays: plainOf(parsed),
    })),
    ...run.changes.filter(({ tick }) => tick > frames.first).map((change) => ({ change })),
    ...frames.all.map(writePage),
  ];
  const text = lines.map((line) => JSON.stringify(line, numberText)).join('\n');
  return squeeze(new TextEncoder().encode(`${text}\n`), new CompressionStream('gzip'));
}

/** JSON has no infinite numbers: these are texts. */
function numberText(_: string, value: unknown): unknown {
  return typeof value === 'number' && !Number.isFinite(value) ? String(value) : value;
}

/** Movesets of those who took part, by the indexes that frames have of them, and behind these of those who may be called. */
function plansOf(run: Run): Plan[] {
  // One may stand there twice, in the place of another that nobody can look back to any more.
  return [...run.plans, ...new Set(Object.values(run.summons).filter((plan) => !run.plans.includes(plan)))];
}

function indexOfPlan(run: Run, plan: Plan): number {
  return plansOf(run).indexOf(plan);
}

function writeWorld(world: FrozenWorld): Line {
  const { kind } = world;
  if (kind === 'ours') return { kind, ...(world.live ? (dataOfWorld(world.live) as WorldData) : world.data) };
  return kind === 'custom' ? { kind, ...world.traits, answers: world.answers } : { kind, answers: world.answers };
}

/** A moveset with what is known of its files; what holds functions is left out. */
export function writeMoveset(plan: Plan): Line {
  return { moveset: plan.name, layout: plan.fingerprint, ...writeOrigin(plan) };
}

/** What was read of an opponent, as it can be read again: formulas by their text. */
function plainOf(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(plainOf);
  if (!isPlain(value)) return value;
  if (typeof value.source === 'string' || typeof value.source === 'number' || typeof value.source === 'boolean')
    return value.source;
  return Object.fromEntries(
    Object.entries(value).map(([key, item]) => [key, TIMES.has(key) ? `${String(item)}f` : plainOf(item)]),
  );
}
/** Times of an opponent: they were read as ticks. */
const TIMES = new Set(['after', 'for', 'every']);

function writePage(page: Page): Line {
  const { first, size, clocks, key, slots, values, ends, told, toldEnds, count } = page;
  const ticks = Array.from({ length: count }, (_, i) => {
    const [from, to] = [i === 0 ? 0 : ends[i - 1], ends[i]];
    const [begin, end] = [i === 0 ? 0 : toldEnds[i - 1], toldEnds[i]];
    return {
      set: Array.from({ length: to - from }, (_, k) => [slots[from + k], values[from + k]]).flat(),
      ...(end > begin && { told: Array.from(told.subarray(begin, end)) }),
    };
  });
  return { page: first, clocks: [...clocks], frame: Array.from(key.subarray(0, size)), ticks };
}

async function squeeze(
  bytes: Uint8Array,
  stream: CompressionStream | DecompressionStream,
  most = Number.POSITIVE_INFINITY,
) {
  const writer = stream.writable.getWriter();
  // What goes wrong shows where it is read.
  writer.write(bytes as Uint8Array<ArrayBuffer>).catch(() => {});
  writer.close().catch(() => {});
  const reader = (stream.readable as ReadableStream<Uint8Array>).getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    if (size > most) {
      await reader.cancel();
      throw new UsageError(
        `fromFile: once inflated it has more than ${Math.round(most / 2 ** 20)} megabytes; give a larger "megabytes" if it is yours.`,
        'out-of-range',
      );
    }
    parts.push(value);
  }
  const all = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.byteLength;
  }
  return all;
}

const fail = (why: string) => new UsageError(`fromFile: ${why}.`, 'wrong-record');

/** What a file holds, or an error that says what is wrong with it. Whether its numbers make sense is looked at by who shows them. */
export async function readRun(bytes: Uint8Array, options: ReadOptions = {}): Promise<Run> {
  want(bytes instanceof Uint8Array, 'fromFile', 'the file', 'a Uint8Array', bytes);
  wantOptions('fromFile', options, ['movesets', 'megabytes']);
  const { movesets = [], megabytes = 256 } = options;
  want(Array.isArray(movesets), 'fromFile', 'movesets', 'a list', movesets);
  for (const plan of movesets) wantPlan('fromFile: of the movesets', plan);
  checkNumber('fromFile', 'megabytes', megabytes, 1, 4000);
  const lines = await readLines(bytes, megabytes * 2 ** 20);
  const [head] = lines;
  if (head?.loggia !== 1 || head.recording === undefined) throw fail('this is no recording of Loggia');
  if (head.recording !== FORMAT)
    throw fail(`it is a recording of format ${describe(head.recording)}, and this Loggia reads ${FORMAT}`);
  const plans = lines.flatMap((line) =>
    line.moveset !== undefined && line.opponent === undefined ? [readMoveset(line, movesets)] : [],
  );
  if (plans.length === 0) throw fail('it holds no moveset');
  if (!plans.every(({ rate }) => rate === head.rate))
    throw fail(`its rate is ${describe(head.rate)}, and that of its movesets is another`);
  const { names, kinds, teams, words, tags } = head;
  const texts = (list: unknown): list is string[] =>
    Array.isArray(list) && list.every((one) => typeof one === 'string');
  if (![names, kinds, teams, words].every(texts) || !Array.isArray(tags) || !tags.every(texts))
    throw fail('names, kinds, teams, words and tags must be lists of texts');
  const frames = new Frames(Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY);
  const pages = lines.flatMap((line) => (line.page === undefined ? [] : [readPage(line)]));
  if (pages.length === 0) throw fail('it holds no ticks');
  pages.forEach((page, i) => {
    if (i > 0 && page.first !== pages[i - 1].last + 1)
      throw fail(`tick ${page.first} does not come after tick ${pages[i - 1].last}`);
  });
  frames.adopt(pages);
  const opponents = new Map<number, Opponent>();
  for (const line of lines) {
    if (line.opponent === undefined) continue;
    const plan = plans[Number(line.moveset)];
    const { opponent, diagnostics } = plan ? checkOpponent(plan, line.plays) : { diagnostics: [] };
    if (!opponent || !Number.isInteger(line.opponent))
      throw fail(
        `what plays member ${describe(line.opponent)} has faults: ${diagnostics.map(wordDiagnostic).join(' ')}`,
      );
    opponents.set(line.opponent as number, opponent);
  }
  return {
    isArena: head.of === 'arena',
    rate: head.rate as number,
    engineFinds: head.engineFinds === true,
    frames,
    plans,
    names: names as string[],
    kinds: kinds as string[],
    teams: teams as string[],
    tags: tags as string[][],
    words: words as string[],
    world: readWorld(head.world),
    summons: readSummons(head.summons, plans),
    places: readPlaces(head.places),
    changes: lines.flatMap((line) => (line.change === undefined ? [] : [readChange(line.change, plans.length)])),
    opponents,
  };
}

async function readLines(bytes: Uint8Array, most: number): Promise<Line[]> {
  let text: string;
  try {
    const all =
      bytes[0] === 0x1f && bytes[1] === 0x8b ? await squeeze(bytes, new DecompressionStream('gzip'), most) : bytes;
    if (all.byteLength > most) throw fail(`it has more than ${Math.round(most / 2 ** 20)} megabytes`);
    text = new TextDecoder('utf-8', { fatal: true }).decode(all);
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw fail('it cannot be inflated: it is cut off, damaged, or no such file');
  }
  return text.split('\n').flatMap((line, i): Line[] => {
    if (line.trim() === '') return [];
    let value: unknown;
    try {
      value = JSON.parse(line);
    } catch {
      throw fail(`line ${i + 1} is no JSON`);
    }
    if (!isPlain(value)) throw fail(`line ${i + 1} is no map`);
    if (nestsTooDeep(value, DEEPEST_PACKED)) throw fail(`line ${i + 1} nests deeper than ${DEEPEST_PACKED} levels`);
    return [value];
  });
}

/** A moveset is checked like any other that comes from outside. */
export function readMoveset(line: Line, given: readonly Plan[]): Plan {
  const { moveset, layout, source, files, texts, places } = line;
  const known = given.find((plan) => plan.name === moveset && (plan.fingerprint === layout || plan.former === layout));
  if (known) return known;
  if (source === undefined)
    throw new UsageError(
      `fromFile: the moveset ${describe(moveset)} is not in the file, since it has functions, was packed or is a module; give it in "movesets".`,
      'other-moveset',
    );
  const { plan, diagnostics } = checkMoveset(source);
  if (!plan) {
    const [first] = diagnostics.filter(({ severity }) => severity === 'error');
    throw fail(
      `its moveset ${describe(moveset)} has faults: ${wordPath(first.path)}: ${wordDiagnostic(first).replace(/\.$/, '')}`,
    );
  }
  if (plan.fingerprint !== layout)
    throw fail(`the numbers of ${describe(moveset)} are those of another moveset, or of another version of Loggia`);
  if (
    Array.isArray(files) &&
    files.every((file) => typeof file === 'string') &&
    Array.isArray(texts) &&
    isPlain(places)
  )
    noteOrigin(plan, readOrigin({ files, texts: texts.map(String), places: places as OriginData['places'] }));
  return plan;
}

/** Numbers as JSON has them: those that are infinite, or none, as texts. */
function readNumbers(list: unknown): number[] | undefined {
  if (!Array.isArray(list)) return undefined;
  const numbers = list.map((n) => (typeof n === 'string' && TEXTS.has(n) ? Number(n) : n));
  return numbers.every((n) => typeof n === 'number') ? numbers : undefined;
}
const TEXTS = new Set(['Infinity', '-Infinity', 'NaN']);

function readPage({ page: first, clocks, frame, ticks }: Line): Page {
  const where = `of the ticks from ${describe(first)} on,`;
  const key = readNumbers(frame);
  const places = readNumbers(clocks);
  if (
    !Number.isSafeInteger(first) ||
    !key ||
    !places ||
    !Array.isArray(ticks) ||
    ticks.length === 0 ||
    ticks.length > PAGE
  )
    throw fail(`${where} a page needs a frame, clocks, and up to ${PAGE} ticks`);
  const page = new Page();
  page.begin(first as number, key.length);
  page.key.set(key);
  const isSlot = (n: number) => Number.isInteger(n) && n >= 0 && n < key.length;
  if (!places.every(isSlot)) throw fail(`${where} a clock is no place of the frame`);
  page.clocks.push(...places);
  const slots: number[] = [];
  const values: number[] = [];
  const told: number[] = [];
  ticks.forEach((tick: unknown, i) => {
    const { set = [], told: more = [] } = isPlain(tick) ? tick : {};
    const changes = readNumbers(set);
    const says = readNumbers(more);
    if (!changes || !says || changes.length % 2 !== 0)
      throw fail(`${where} tick ${i} needs pairs of a place and a number`);
    for (let k = 0; k < changes.length; k += 2) {
      if (!isSlot(changes[k])) throw fail(`${where} tick ${i} sets number ${changes[k]}, and there are ${key.length}`);
      slots.push(changes[k]);
      values.push(changes[k + 1]);
    }
    if (!isTold(says)) throw fail(`${where} what tick ${i} tells is not made of whole stretches`);
    for (const n of says) told.push(n);
    page.ends[i] = slots.length;
    page.toldEnds[i] = told.length;
  });
  page.count = ticks.length;
  page.slots = key.length > 0xffff ? Uint32Array.from(slots) : Uint16Array.from(slots);
  page.values = Float64Array.from(values);
  page.told = Float64Array.from(told);
  return page;
}

/** Stretches with a kind and a length each, that fill a list. */
function isTold(list: readonly number[]): boolean {
  let at = 0;
  while (at < list.length) {
    const length = list[at + 1];
    if (!(Number.isInteger(length) && length >= 0)) return false;
    at += 2 + length;
  }
  return at === list.length;
}

function readWorld(given: unknown): FrozenWorld {
  const { kind, answers = [], ...rest } = (isPlain(given) ? given : {}) as Line & { kind?: unknown };
  const isTags = (list: unknown): list is string[][] =>
    Array.isArray(list) && list.every((tags) => Array.isArray(tags) && tags.every((tag) => typeof tag === 'string'));
  if (kind === 'ours') {
    const fault = faultOfWorld(rest);
    if (fault) throw fail(`its world cannot be made: ${fault}`);
    return { kind, data: rest as unknown as WorldData, live: null };
  }
  if (!isTags(answers)) throw fail('answers of its world must be lists of tags');
  if (kind === 'engine') return { kind, answers };
  const traits = rest as unknown as WorldTraits;
  const bounds = traits.bounds === undefined ? undefined : readNumbers(traits.bounds);
  if (kind !== 'custom' || (traits.bounds !== undefined && bounds?.length !== 6))
    throw fail('its world is neither one of Loggia nor one of a host');
  return { kind, traits: { ...traits, bounds }, answers, live: null };
}

function readSummons(given: unknown, plans: readonly Plan[]): Record<string, Plan> {
  return Object.fromEntries(
    Object.entries(isPlain(given) ? given : {}).map(([name, index]) => {
      const plan = plans[Number(index)];
      if (!plan) throw fail(`who is called ${describe(name)} has no moveset`);
      return [name, plan];
    }),
  );
}

function readPlaces(given: unknown): Map<string, readonly [number, number, number] | null> {
  return new Map(
    Object.entries(isPlain(given) ? given : {}).map(([name, at]) => {
      const point = at === null ? null : readNumbers(at);
      if (point !== null && point?.length !== 3) throw fail(`the place ${describe(name)} is no point`);
      return [name, point as [number, number, number] | null];
    }),
  );
}

function readChange(given: unknown, plans: number): Change {
  const { tick, change } = (isPlain(given) ? given : {}) as { tick?: unknown; change?: unknown };
  const wrong = () =>
    fail(`what the host changed before tick ${describe(tick)} is neither a member who joins or leaves nor a swap`);
  if (!Number.isSafeInteger(tick)) throw wrong();
  if (Number.isSafeInteger(change)) return { tick: tick as number, change: change as number };
  if (!isPlain(change)) throw wrong();
  const isPlanIndex = (n: unknown) => Number.isInteger(n) && (n as number) >= 0 && (n as number) < plans;
  if (change.swaps !== undefined) {
    const { swaps, plan, renamed } = change;
    if (!Number.isSafeInteger(swaps) || !isPlanIndex(plan) || !isPlain(renamed)) throw wrong();
    return { tick: tick as number, change: change as unknown as Change['change'] };
  }
  const { name, moveset, at, facing, team, tags } = change;
  const point = readNumbers(at);
  if (
    typeof name !== 'string' ||
    !isPlanIndex(moveset) ||
    !(point && point.length >= 2 && point.length <= 3) ||
    (facing !== 1 && facing !== -1) ||
    !(team === null || typeof team === 'string') ||
    !(Array.isArray(tags) && tags.every((tag) => typeof tag === 'string'))
  )
    throw wrong();
  return { tick: tick as number, change: change as unknown as Change['change'] };
}
