import { relative } from 'node:path';
import { originOf } from '../compile/origin.js';
import type { Plan } from '../compile/plan.js';
import { B_DOWN, BUTTON, R_COUNT, STICK } from '../record/slots.js';
import { Recording, type SeenMember } from '../recording/index.js';
import { rowsOf } from '../recording/rows-of.js';
import { want, wantOptions } from '../report/arguments.js';
import type { LoggiaEvent } from '../report/events.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import { wordDiagnostic } from '../report/wording.js';
import { KEY, keyAt } from '../tick/take-in/devices.js';
import { ROW } from '../tick/take-in/door-rows.js';
import { movesOf, type WorldData, worldOfData } from '../world/world-data.js';
import { runScenarioData } from './run-data.js';

/** How a recording becomes a scenario. */
export interface ToScenarioOptions {
  /** The tick before which it begins. Default: the first that was recorded. Where that is amid something that no scenario can begin with, it begins earlier. */
  from?: number | undefined;
  /** Its last tick. Default: the last that was recorded. */
  to?: number | undefined;
  /** Its sentence. Default: what happens first. */
  scenario?: string | undefined;
  /** The folder in which it will be, for the paths of movesets. Default: as they were loaded. */
  folder?: string | undefined;
  /** Files of movesets, by their names. Default: what they were loaded from. */
  movesets?: Readonly<Record<string, string>> | undefined;
}

type Data = Record<string, unknown>;

/** How near the end's place and pools must be. */
const NEAR = 0.05;
/** How many beginnings are tried, each earlier than the one before. */
const MOST_TRIES = 40;

/**
 * A scenario that plays what came in between two ticks, in the same world and from the same start, and expects what happened: what started,
 * ended and was refused, landings, blows, and where everybody is at the end. It was run, and passes.
 * @param recording Of a run in a world of Loggia's own.
 * @param options Which ticks, and what it is called.
 * @returns The text of its file, YAML.
 * @throws {UsageError} for what no scenario can say: another world, members who join or leave by a call, and the like.
 */
export function toScenario(recording: Recording, options: ToScenarioOptions = {}): string {
  want(recording instanceof Recording, 'toScenario', 'the first argument', 'a Recording', recording);
  wantOptions('toScenario', options, ['from', 'to', 'scenario', 'folder', 'movesets']);
  const { first, last } = recording;
  const { from = first + 1, to = last } = options;
  checkNumber('toScenario', 'from', from, first + 1, last);
  checkNumber('toScenario', 'to', to, from, last);
  let why = '';
  for (const begin of beginnings(recording, from)) {
    const data = new Writing(recording, begin, to, options).write();
    const [plan] = plansOf(recording, begin);
    const movesets = Object.fromEntries(
      [...recording.run.plans, ...Object.values(recording.run.summons)].map((one) => [fileOf(one, options), one]),
    );
    const report = runScenarioData(plan, data, 'nothing', movesets);
    if (report.result?.passed) return format(data);
    why = report.result
      ? `${report.result.failures[0].expected}: ${report.result.failures[0].was}`
      : report.diagnostics[0]
        ? wordDiagnostic(report.diagnostics[0])
        : '';
  }
  throw cannot(`it does not go the same from its start: ${why.replace(/\.$/, '')}`);
}

function cannot(why: string): UsageError {
  return new UsageError(`toScenario: no scenario can say this: ${why}.`, 'out-of-range');
}

function plansOf(recording: Recording, begin: number): Plan[] {
  return recording.at(begin - 1).members.map(({ plan }) => plan);
}

/** The wanted beginning, then earlier ones at which everybody rests, then the first. */
function beginnings(recording: Recording, from: number): number[] {
  const found = [from];
  for (let tick = from - 1; tick > recording.first && found.length < MOST_TRIES; tick--)
    if (recording.at(tick - 1).members.every(rests) && !recording.at(tick).members.every(rests)) found.push(tick);
  const all = recording.first + 1;
  return found.includes(all) ? found : [...found, all];
}

/** Nothing runs, waits or counts down. */
function rests({ plan, readout, record }: SeenMember): boolean {
  return (
    plan.names.lane.every((lane) => readout.ability(lane) === null) &&
    plan.names.ability.every((ability) => readout.cooldown(ability) === 0) &&
    plan.triggers.every(({ at }) => record[at + R_COUNT] === 0)
  );
}

function fileOf(plan: Plan, { movesets = {}, folder }: ToScenarioOptions): string {
  const own = Object.hasOwn(movesets, plan.name) ? movesets[plan.name] : undefined;
  const file = own ?? originOf(plan).files?.[0] ?? `${plan.name.toLowerCase()}.yaml`;
  return folder === undefined || own !== undefined ? file : relative(folder, file);
}

/** One attempt: from one tick to another. */
class Writing {
  private readonly inputs: Data[] = [];
  private readonly expects: Data[] = [];
  private readonly rate: number;
  private readonly called = new Map<string, string>();
  private readonly members: readonly string[];

  constructor(
    private readonly recording: Recording,
    private readonly begin: number,
    private readonly to: number,
    private readonly options: ToScenarioOptions,
  ) {
    this.rate = recording.rate;
    const { members } = recording.at(begin - 1);
    if (members.length === 0) throw cannot('nobody is there');
    this.members = members.map(({ name }) => name);
    // A scenario calls its first character as its moveset is called.
    for (const [i, { name, plan }] of members.entries()) this.called.set(name, i === 0 ? plan.name : name);
  }

  write(): Data {
    const { recording, begin, to, options, rate } = this;
    const { run } = recording;
    if (run.world.kind !== 'ours') throw cannot('its world is not one of Loggia, but of a host or an engine');
    for (const { tick } of run.changes)
      if (tick >= begin && tick <= to)
        throw cannot(`before tick ${tick}, the host has somebody join or leave, or swaps a moveset`);
    const world = worldOf(run.world.data, rate);
    if (movesOf(worldOfData(run.world.data)) !== null && begin !== 0)
      throw cannot('its blocks move, and a scenario begins with where they begin: take it from the first tick on');
    const start = recording.at(begin - 1).members.map((member) => this.start(member));
    for (let tick = begin; tick <= to; tick++) this.takeIn(tick);
    this.shorten();
    for (let tick = begin; tick <= to; tick++) this.lookAt(tick);
    const title = this.expects[0];
    for (const name of this.members) this.lookAtEnd(name);
    const [own, ...others] = start;
    const { moveset: file, ...first } = own;
    const summons = Object.entries(run.summons).map(([name, plan]) => [name, fileOf(plan, options)]);
    const [firstName] = this.members;
    return {
      loggia: 1,
      scenario: options.scenario ?? titleOf(title),
      moveset: file,
      world,
      start: first,
      ...(others.length > 0 && {
        others: Object.fromEntries(
          others.map((other, i) => [this.members[i + 1], other.moveset === file ? without(other) : other]),
        ),
      }),
      ...(summons.length > 0 && { summons: Object.fromEntries(summons) }),
      run: this.time(to - begin + 1),
      ...(this.inputs.length > 0 && { inputs: this.inputs.map((row) => this.named(row, firstName)) }),
      expect: this.expects.map((row) => this.named(row, firstName)),
    };
  }

  /** Of the first one nothing is said. */
  private named({ of, ...row }: Data, first: string): Data {
    return of === first ? row : { ...row, of };
  }

  private time(ticks: number): string {
    const hundredths = (ticks * 100) / this.rate;
    return ticks > 0 && Number.isInteger(hundredths) ? `${hundredths / 100}s` : `${ticks}f`;
  }

  private start({ name, plan, readout, side, record }: SeenMember): Data {
    const moves = [readout.vx, readout.vy, ...(readout.vz === 0 ? [] : [readout.vz])];
    const pools = plan.names.pool.map((pool) => [pool, readout.pool(pool)] as const);
    const fresh = (pool: string, value: number) => {
      const { start } = plan.pools[plan.names.pool.indexOf(pool)];
      return value === (start ?? readout.poolLimits(pool).max);
    };
    const others = pools.filter(([pool, value]) => !fresh(pool, value));
    const at = { at: this.time(0), of: name };
    const held = plan.names.button.filter(
      (_, i) => record[plan.layout.buttons + i * BUTTON + B_DOWN] === 1 && this.byKey(this.begin - 1, name, i),
    );
    if (held.length > 0) this.inputs.push({ ...at, press: one(held) });
    plan.sticks.forEach(({ name: stick, at: place, sides }) => {
      const byKeys = [0, 1, 2, 3].some((k) => this.byKey(this.begin - 1, name, sides + k));
      const [x, y] = [record[place], record[place + STICK - 1]];
      if (!byKeys && (x !== 0 || y !== 0)) this.inputs.push({ ...at, stick: { [stick]: [x, y] } });
    });
    return {
      moveset: fileOf(plan, this.options),
      at: [readout.x, readout.y, ...(readout.z === 0 ? [] : [readout.z])].map(round),
      ...(readout.facing < 0 && { facing: 'left' }),
      ...(side !== null && { team: side }),
      ...(this.tagsOf(name).length > 0 && { tags: one(this.tagsOf(name)) }),
      ...(moves.some((n) => n !== 0) && { velocity: moves.map(round) }),
      ...(others.length > 0 && { pools: Object.fromEntries(others.map(([pool, value]) => [pool, round(value)])) }),
    };
  }

  private tagsOf(name: string): string[] {
    const { tags, plan } = this.recording.at(this.begin - 1).of(name);
    return tags.filter((tag) => !plan.tags.includes(tag));
  }

  /** Whether a key holds a button after a tick, and not a stick that is pushed. */
  private byKey(tick: number, name: string, button: number): boolean {
    const seen = this.recording.at(tick).of(name) as SeenMember & { c: { r: Float64Array } };
    return seen.c.r[keyAt(seen.plan, button) + KEY - 2] > 0;
  }

  /** What came in before a tick. */
  private takeIn(tick: number): void {
    const { recording } = this;
    for (const { id, rows } of rowsOf(recording.run, tick)) {
      const before = recording.at(tick - 1).members.find((one) => one.id === id);
      if (!before) continue;
      const { name, plan } = before;
      const row = (what: Data) => this.inputs.push({ at: this.time(tick - this.begin), of: name, ...what, tick });
      let event: Data | null = null;
      for (const [kind, what, a, b, c] of rows) {
        const point = [a, b, ...(c === 0 ? [] : [c])].map(round);
        const { names } = plan;
        const of = (names: readonly string[]) => names[what];
        if (kind === ROW.press || kind === ROW.release) {
          const side = plan.stickOf[what] >= 0;
          const byKey = this.byKey(kind === ROW.press ? tick : tick - 1, name, what);
          if (!side || byKey) row({ [kind === ROW.press ? 'press' : 'release']: of(names.button) });
        } else if (kind === ROW.stick) {
          const { sides } = plan.sticks[what];
          const keys = [0, 1, 2, 3].some(
            (k) => this.byKey(tick, name, sides + k) || this.byKey(tick - 1, name, sides + k),
          );
          if (!keys) row({ stick: { [of(names.stick)]: [round(a), round(b)] } });
        } else if (kind === ROW.event) {
          event = { event: of(names.event) };
          row(event);
          if (plan.messages[what].size > 0) {
            const values = valuesOf(
              plan,
              what,
              rows,
              rows.findIndex((one) => one[0] === kind && one[1] === what),
            );
            Object.assign(this.inputs[this.inputs.length - 1], { event: { [of(names.event)]: values } });
          }
        } else if (kind === ROW.request) row({ request: of(names.ability) });
        else if (kind === ROW.freeze) row({ freeze: `${a}f` });
        else if (kind === ROW.pool) row({ pool: { [of(names.pool)]: a } });
        else if (kind === ROW.place) row({ teleport: point });
        else if (kind === ROW.velocity) row({ velocity: point });
        else if (kind === ROW.camera) row({ camera: [a, b] });
        else if (kind === ROW.face) row({ face: [a, b] });
        else if (kind === ROW.end) row({ end: of(names.ability) });
        else if (kind === ROW.learn) row({ [a === 1 ? 'learn' : 'forget']: of(names.ability) });
        else if (kind === ROW.loadout) row({ loadout: of(names.loadout) });
        else if (kind === ROW.reset) row({ reset: of(names.ability) });
        else if (kind === ROW.mark) row({ mark: { [of(names.mark)]: point } });
        else if (kind === ROW.aim) row({ aim: { [of(names.aim)]: point } });
        else if (kind === ROW.aimAt) row({ aimAt: { [of(names.aim)]: point } });
        else if (kind === ROW.choose) row({ tap: of(names.button) });
        else if (kind !== ROW.values)
          throw cannot(`before tick ${tick}, the host calls what scenarios do not have (latch, unmark)`);
      }
    }
  }

  /** A press and its release become a tap, or are held so long. */
  private shorten(): void {
    const { inputs } = this;
    for (let i = 0; i < inputs.length; i++) {
      const { press, of, tick } = inputs[i];
      if (typeof press !== 'string' || typeof tick !== 'number') continue;
      const up = inputs.findIndex((row, k) => k > i && row.of === of && row.release === press);
      if (up < 0) continue;
      const length = (inputs[up].tick as number) - tick;
      // What is released in the tick of its press is said as it is.
      if (length === 0 || inputs.some((row, k) => k > i && k < up && row.press === press && row.of === of)) continue;
      inputs.splice(up, 1);
      const { press: _, ...rest } = inputs[i];
      inputs[i] = length === 1 ? { ...rest, tap: press } : { ...rest, hold: press, for: this.time(length) };
    }
    for (const row of inputs) delete row.tick;
  }

  /** What happened in a tick, as far as it is told. */
  private lookAt(tick: number): void {
    const then = this.recording.at(tick);
    const at = this.time(tick - this.begin);
    for (const { name, readout } of then.members) {
      if (!this.members.includes(name)) continue;
      for (const event of readout.eventCount > 0 ? readout.events : []) {
        const row = this.expected(event, name, tick);
        if (row) this.expects.push({ ...row, at, of: name });
      }
    }
    for (const event of then.events) {
      if (event.kind !== 'blow' || !this.members.includes(event.to)) continue;
      const other = this.members.includes(event.by) ? { other: this.called.get(event.by) } : {};
      this.expects.push({
        takes: event.outcome,
        ...(event.damage > 0 && { damage: event.damage }),
        ...other,
        at,
        of: event.to,
      });
    }
  }

  private readonly refused = new Map<string, number>();

  private expected(event: LoggiaEvent, of: string, tick: number): Data | undefined {
    switch (event.kind) {
      case 'started':
        return { started: event.ability };
      case 'ended':
        return { ended: event.ability, why: event.why };
      case 'landed':
        return { landed: true };
      case 'refused': {
        // A request that waits is refused again whenever its reasons change: once is enough.
        const key = `${of} ${event.ability}`;
        const until = this.refused.get(key) ?? -1;
        this.refused.set(key, tick + Math.round(event.kept * this.rate));
        if (tick <= until) return undefined;
        return { refused: event.ability, because: one([...new Set(event.reasons.map(({ code }) => code))]) };
      }
      default:
        return undefined;
    }
  }

  /** Where somebody is at the end, and what is in their pools. */
  private lookAtEnd(name: string): void {
    const { plan } = this.recording.at(this.begin - 1).of(name);
    const before = this.recording.at(this.begin - 1).of(name).readout;
    const amounts = new Map(plan.names.pool.map((pool) => [pool, before.pool(pool)]));
    const there = this.recording.at(this.to).members.find((one) => one.name === name);
    if (!there) return;
    const { readout } = there;
    // What has not changed shows nothing.
    const spent = plan.names.pool.filter((pool) => readout.pool(pool) !== amounts.get(pool));
    const that = spent.map((pool) => {
      const has = Math.round(readout.pool(pool) * 100) / 100;
      return `abs(pool.${pool} - ${has}) < ${NEAR}`.replace('- -', '+ ');
    });
    this.expects.push({
      at: 'end',
      of: name,
      stance: readout.stance,
      place: [readout.x, readout.y, ...(readout.z === 0 ? [] : [readout.z])].map((n) => Math.round(n * 1000) / 1000),
      within: NEAR,
      ...(that.length > 0 && { that: one(that) }),
    });
  }
}

function without({ moveset: _, ...rest }: Data): Data {
  return rest;
}

function one<T>(list: readonly T[]): T | readonly T[] {
  return list.length === 1 ? list[0] : list;
}

/** As exactly as it takes to go the same: numbers in a file are short where they can be. */
function round(n: number): number {
  const short = Math.round(n * 1e6) / 1e6;
  return Math.abs(short - n) < 1e-12 ? short : n;
}

/** Values of an event as a scenario says them. */
function valuesOf(plan: Plan, event: number, rows: readonly (readonly number[])[], at: number): Data {
  const numbers: number[] = [];
  for (let i = at + 1; i < rows.length && rows[i][0] === ROW.values; i++) numbers.push(...rows[i].slice(2, 5));
  return Object.fromEntries(
    plan.messages[event].values.flatMap(({ name, type, words, at: place }): [string, unknown][] => {
      const n = numbers[place] ?? 0;
      if (type === 'word') return words[n] === undefined ? [] : [[name, words[n]]];
      if (type === 'time') return [[name, `${n}f`]];
      if (type === 'number') return [[name, n]];
      return [[name, [numbers[place], numbers[place + 1], numbers[place + 2]]]];
    }),
  );
}

function titleOf(first: Data | undefined): string {
  if (first === undefined) return 'What was recorded goes the same again';
  const [key, what] = Object.entries(first)[0];
  const words: Record<string, string> = { started: 'starts', ended: 'ends', refused: 'is refused', landed: '' };
  return key === 'landed'
    ? 'Landing, as it was recorded'
    : `${String(what)} ${words[key] ?? 'happens'}, as it was recorded`;
}

/** A world as a scenario says it. */
function worldOf(data: WorldData, rate: number): Data {
  const blocksOf = (blocks: readonly object[] = []) =>
    blocks.map((block) => {
      const { path, ...rest } = block as { path?: { points: readonly { at: number }[] } };
      if (path === undefined) return rest;
      return {
        ...rest,
        path: { ...path, points: path.points.map((point) => ({ ...point, at: `${Math.round(point.at * rate)}f` })) },
      };
    });
  if ('flat' in data) return { blocks: [{ from: [-1000, data.flat - 10], to: [1000, data.flat] }] };
  if ('blocks' in data) {
    const { bounds, edges, places } = data.options;
    if (bounds || edges) throw cannot('its world of blocks has bounds or edges');
    return { blocks: blocksOf(data.blocks), ...(places && { places }) };
  }
  const { legend = {}, size, blocks, places, edges } = data.options;
  return {
    rows: data.rows,
    ...(Object.keys(legend).length > 0 && {
      legend: Object.fromEntries(
        Object.entries(legend).map(([letter, tile], i) => [tile.tags?.[0] ?? `tile${i + 1}`, { letter, ...tile }]),
      ),
    }),
    ...(size !== undefined && { size }),
    ...(blocks && blocks.length > 0 && { blocks: blocksOf(blocks) }),
    ...(places && { places }),
    ...(edges && { edges }),
  };
}

/** The data as YAML: a line each for what people read line by line. */
function format(data: Data): string {
  const lines: string[] = [];
  for (const [key, value] of Object.entries(data)) {
    if (key === 'world' || key === 'others') {
      lines.push(`${key}:`);
      for (const [name, part] of Object.entries(value as Data))
        if (Array.isArray(part))
          lines.push(`  ${name}:`, ...part.map((item) => `    - ${flow(item, name === 'rows')}`));
        else lines.push(`  ${keyText(name)}: ${flow(part)}`);
    } else if (Array.isArray(value)) lines.push(`${key}:`, ...value.map((item) => `  - ${flow(item)}`));
    else if (typeof value === 'string' && SENTENCE.test(value)) lines.push(`${key}: ${value}`);
    else lines.push(`${key}: ${flow(value)}`);
  }
  return `${lines.join('\n')}\n`;
}

const PLAIN = /^(?:\.\.\/)*[A-Za-z_][\w./-]*$|^\d+(?:\.\d+)?(?:s|f)$/;
/** What needs no quotes where a line has nothing else. */
const SENTENCE = /^[A-Za-z](?:[\w ,.'()/-]|:(?! ))*$/;
const WORDS = /^(?:true|false|null|yes|no|on|off|y|n|~)$/i;

function keyText(key: string): string {
  return PLAIN.test(key) && !WORDS.test(key) ? key : JSON.stringify(key);
}

function flow(value: unknown, quoted = false): string {
  if (Array.isArray(value)) return `[${value.map((item) => flow(item)).join(', ')}]`;
  if (typeof value === 'object' && value !== null) {
    const parts = Object.entries(value).flatMap(([key, item]) =>
      item === undefined ? [] : `${keyText(key)}: ${flow(item)}`,
    );
    return parts.length === 0 ? '{}' : `{ ${parts.join(', ')} }`;
  }
  if (typeof value === 'string')
    return !quoted && PLAIN.test(value) && !WORDS.test(value) ? value : JSON.stringify(value);
  return String(value);
}
