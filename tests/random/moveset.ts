import { checkMoveset, type Facts, type Plan } from '../../src/index.js';
import { collectNames } from '../../src/moveset/collect-names.js';
import { heading } from '../../src/moveset/directions/direction.js';
import { point } from '../../src/moveset/directions/point.js';
import { strikeShape } from '../../src/moveset/effects/strike.js';
import { hasNeeded, type Names, namesOf } from '../../src/moveset/read.js';
import { MOVESET } from '../../src/moveset/schema.js';
import type { FieldsShape, FormulaShape, Shape } from '../../src/moveset/shape.js';
import type { Random } from './random.js';

export interface Wanted {
  /** Conditions and numbers may be functions. Default true. */
  readonly functions?: boolean;
  /** It may ask the world: probes, warps, what bodies pass through and bounce off. Default true. */
  readonly probes?: boolean;
  readonly view?: 'side' | 'open';
  /** It strikes and can be struck. Default false: as it comes. */
  readonly fights?: boolean;
}

type Plain = Record<string, unknown>;

/** A random moveset as it is written, mostly without faults. */
export function makeSource(random: Random, wanted: Wanted = {}): Record<string, unknown> {
  return new Maker(random, wanted).make();
}

/**
 * A random moveset without faults, made from the format's own shapes: whatever key the format has, it comes up.
 * Only what must fit together is chosen beforehand: names, a last stance without a condition, abilities that end.
 */
export function makeMoveset(random: Random, wanted: Wanted = {}): Plan {
  return makeSound(random, wanted).plan;
}

/** The same, and how it is written. */
export function makeSound(random: Random, wanted: Wanted = {}): { source: Record<string, unknown>; plan: Plan } {
  for (;;) {
    const source = new Maker(random, wanted).make();
    const { plan, diagnostics } = checkMoveset(source);
    if (plan) return { source, plan };
    // A fault may be a matter of luck (two names for one thing), but not always of the same kind.
    if (
      diagnostics.some(
        ({ code, severity }) =>
          severity === 'error' &&
          !['never-ends', 'out-of-range', 'one-of-keys', 'condition-cycle', 'name-clash'].includes(code),
      )
    )
      throw new Error(
        `the generator made a fault: ${JSON.stringify(diagnostics.filter(({ severity }) => severity === 'error'))}`,
      );
  }
}

const PADS = ['Space', 'KeyF', 'KeyJ', 'KeyE'];
const BLOWS = ['struck', 'hit', 'blocked', 'guardBroken'];
const VALUES = { loud: 'number', long: 'time', spot: 'point', way: 'direction', tone: ['high', 'low'] };
const TAGS = ['floor', 'loud', 'bright'];
const LIKE = ['like', 'without'];
/** It looks like a formula, and is none. */
const DATA = { percent: true, path: ['hop', { file: 'hop.glb' }] };
const CLIPS = { idle: '20f', swing: { for: '9f', data: DATA } };

/** Whether a phase has a time that is no formula. */
function isTimed({ for: time, charge }: Plain): boolean {
  const { full, over } = (charge ?? {}) as Plain;
  return [time, ...(full === 'go' ? [over] : [])].every(
    (one) => typeof one === 'string' && /^[\d.]+(f|s|ms)$/.test(one),
  );
}

/** What goes a distance has a time for it, and neither a speed nor a mode that adds. */
function mendDistance(move: Plain | undefined, timed: boolean): void {
  if (move?.distance === undefined) return;
  if (timed) delete move.speed;
  else {
    move.speed ??= move.distance;
    delete move.distance;
  }
  if (['add', 'accelerate'].includes(move.mode as string)) delete move.mode;
}

class Maker {
  private readonly names: Names;
  private readonly skeleton: Plain;
  private facts: { numbers: string[]; times: string[]; truths: string[] } = { numbers: [], times: [], truths: [] };
  private own = '';

  constructor(
    private readonly random: Random,
    private readonly wanted: Wanted,
  ) {
    const { skeleton } = this.choose();
    this.skeleton = skeleton;
    const stance = Object.keys(skeleton.stances as Plain);
    this.names = { ...collectNames({ ...skeleton, stances: { fall: { tags: TAGS } } }), stance };
  }

  /** Names, and as little else as makes a moveset of them. */
  private choose(): { skeleton: Plain } {
    const { random } = this;
    const some = (list: string[], least = 0) => random.some(list, least);
    const of = (list: string[], value: () => unknown) => Object.fromEntries(list.map((name) => [name, value()]));
    const buttons = some(['jump', 'gaff', 'gale', 'keel'], 2);
    const inputs: Plain = of(buttons, () => ({ button: random.pick(PADS), ...(random.chance(0.2) && { data: DATA }) }));
    if (random.chance(0.4)) inputs.aim = { aim: random.pick<Plain>([{ pad: 'right' }, { pointer: true }]) };
    if (random.chance(0.3)) inputs.berth = { choice: { slip: [], mast: 'KeyM' } };
    for (const stick of some(['move', 'look'], random.chance(0.9) ? 1 : 0))
      inputs[stick] = {
        stick: { ...(random.chance(0.2) && { pad: 'left' }), left: 'KeyA', right: 'KeyD', up: 'KeyW', down: 'KeyS' },
      };
    const skeleton: Plain = {
      loggia: 1,
      name: 'Pell',
      rate: this.wanted.fights ? 60 : random.pick([60, 60, 60, 10, 30, 240]),
      view: this.wanted.view ?? random.pick(['side', 'side', 'open']),
      pools: of(some(['wind', 'oil', 'grit'], this.wanted.fights ? 1 : 0), () => ({ max: random.whole(1, 20) })),
      inputs,
      kinds: some(['blunt', 'spark']),
      ...(this.wanted.fights && { summons: ['gull'] }),
      events: of([...some(['bell', 'splash', 'tea'], 1), ...(this.wanted.fights ? some(BLOWS) : [])], () => ({
        ...(random.chance(0.5) && { values: VALUES }),
        ...(random.chance(0.3) && { hears: 'own' }),
        ...(random.chance(0.2) && { data: DATA }),
      })),
      conditions: of(some(['ready', 'tired'], 1), () => 'grounded'),
      body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } },
      lanes: random.pick<unknown>([
        ['body'],
        ['body', 'legs'],
        ['body', 'legs', 'hands'],
        { body: { waits: 'last' }, legs: {} },
        { body: { waits: 'turn' }, legs: { waits: 'last' }, hands: { waits: 'all' } },
        { body: { waits: 'turn' } },
      ]),
      stances: of([...some(['duck', 'stand', 'run', 'rise']), 'fall'], () => ({})),
      abilities: of(some(['act', 'bolt', 'cut', 'dash', 'ease', 'fend'], 2), () => ({
        start: { code: 'only' },
        phases: [{ for: '1f', charge: { over: '2f', levels: { full: 1 } } }],
      })),
    };
    skeleton.places = some(['slip', 'mast']);
    skeleton.surfaces = some(['rough', 'plank', 'oneWay']);
    skeleton.marks = of(some(['moored', 'spot']), () => (random.chance(0.2) ? { saved: true } : {}));
    skeleton.targets = of(some(['prey']), () => ({}));
    if (this.wanted.probes !== false)
      skeleton.probes = of(some(['ahead', 'below']), () => ({ ray: [random.whole(-2, 2), random.whole(-1, 1)] }));
    if (random.chance(0.5))
      skeleton.loadouts = of(some(['rigger', 'lantern'], 1), () => ({
        abilities: some(Object.keys(skeleton.abilities as Plain), 1),
      }));
    return { skeleton };
  }

  make(): Plain {
    this.findFacts();
    const made = this.fields(MOVESET, [
      ...['include', 'without', 'part', 'allow', 'rate', 'view', 'events', 'lanes', 'loggia', 'name'],
      ...['places', 'surfaces', 'marks', 'kinds', 'summons', 'targets'],
    ]);
    const moveset: Plain = { ...this.skeleton, ...made };
    const { rate, view, events, kinds, lanes, loggia, name } = this.skeleton;
    Object.assign(moveset, { rate, view, events, kinds, lanes, loggia, name, clips: CLIPS });
    if (this.wanted.fights)
      moveset.hurt = { ...this.fields(MOVESET.fields.hurt.shape as FieldsShape, []), pool: this.names.pool[0] };
    moveset.inputs = this.inputs();
    moveset.stances = this.likes(this.stances());
    const abilities = Object.fromEntries(this.names.ability.map((ability) => [ability, this.ability(ability)]));
    moveset.abilities = this.likes(abilities);
    this.own = '';
    moveset.pools = this.likes(Object.fromEntries(this.names.pool.map((pool) => [pool, this.pool()])));
    moveset.conditions = Object.fromEntries(
      this.names.condition.map((name) => {
        const when = this.truth(2);
        return [name, this.random.chance(0.3) ? { when, says: 'Not now.' } : when];
      }),
    );
    const target = (MOVESET.fields.targets.shape as { of: FieldsShape }).of;
    moveset.targets = Object.fromEntries(this.names.target.map((name) => [name, this.fields(target, [])]));
    moveset.body = this.body();
    if (this.skeleton.loadouts) moveset.loadouts = this.loadouts();
    else delete moveset.loadouts;
    moveset.probes = this.probes();
    return moveset;
  }

  /** Some of the later parts are like an earlier one, but for a few keys. */
  private likes(parts: Record<string, Plain>): Plain {
    const { random } = this;
    const names = Object.keys(parts);
    names.forEach((name, i) => {
      const like = random.pick(names.slice(0, Math.max(1, i)));
      if (i === 0 || name === 'fall' || !random.chance(0.2)) return;
      const base = parts[like];
      const keeps = ['when', 'start', 'cooldown', 'gravity', 'from', 'regen'].filter((key) => key in parts[name]);
      const loses = ['tags', 'cost', 'cooldown', 'rest'].filter((key) => key in base && !('like' in base));
      const phase = Array.isArray(base.phases) ? base.phases[0] : undefined;
      parts[name] = {
        like,
        ...Object.fromEntries(keeps.map((key) => [key, parts[name][key]])),
        ...(loses.length > 0 && random.chance(0.5) && { without: random.pick(loses) }),
        ...(phase && random.chance(0.5) && { phases: { [phase.name ?? '1']: { steer: 0.5 } } }),
      };
    });
    return parts;
  }

  /** Each may be made of those before it. */
  private probes(): Plain {
    const shape = (MOVESET.fields.probes.shape as { of: FieldsShape }).of;
    const all = this.names.probe;
    const { facts } = this;
    const probes = all.map((name, i) => {
      const later = all.slice(i);
      const known = (list: string[]) => list.filter((fact) => !later.some((one) => fact.split(/\W/).includes(one)));
      this.names.probe = all.slice(0, i);
      this.facts = { numbers: known(facts.numbers), times: known(facts.times), truths: known(facts.truths) };
      return [name, this.fields(shape, [])];
    });
    this.names.probe = all;
    this.facts = facts;
    return Object.fromEntries(probes);
  }

  private findFacts(): void {
    const last = { ...(this.skeleton.stances as Plain) };
    const stances = Object.keys(last).map((name, i, all) => [name, i + 1 < all.length ? { when: 'grounded' } : {}]);
    const { plan, diagnostics } = checkMoveset({
      ...this.skeleton,
      stances: Object.fromEntries(stances.map(([name, stance]) => [name, { ...(stance as Plain), tags: TAGS }])),
    });
    if (!plan) throw new Error(`the skeleton has a fault: ${JSON.stringify(diagnostics[0])}`);
    for (const fact of plan.factNames()) {
      // Levels and phases are those of the skeleton; the moveset itself may have others.
      if (/^(level|phase)\(/.test(fact)) continue;
      const type = plan.reading(fact)?.type;
      (type === 'truth' ? this.facts.truths : type === 'time' ? this.facts.times : this.facts.numbers).push(fact);
    }
  }

  private inputs(): Plain {
    const { random } = this;
    return Object.fromEntries(
      Object.entries(this.skeleton.inputs as Plain).map(([name, input]) => {
        const more: Plain = {};
        if ('stick' in (input as Plain)) {
          if (random.chance(0.3)) more.opposite = random.pick(['last', 'neutral']);
          if (random.chance(0.3)) more.deadzone = random.pick([0, 0.1, 0.4]);
        } else if ('button' in (input as Plain)) {
          if (random.chance(0.5)) more.buffer = this.time(0);
          if (random.chance(0.3)) more.grace = this.time(0);
        }
        return [name, { ...(input as Plain), ...more }];
      }),
    );
  }

  private stances(): Record<string, Plain> {
    const { names, random } = this;
    const shape = (MOVESET.fields.stances.shape as { of: FieldsShape }).of;
    return Object.fromEntries(
      names.stance.map((name, i) => {
        const stance = this.fields(shape, ['allow', 'when', ...LIKE]);
        if (i < names.stance.length - 1) stance.when = random.chance(0.4) ? 'grounded' : this.condition();
        else stance.tags = TAGS; // so that each is known
        return [name, stance];
      }),
    );
  }

  private loadouts(): Plain {
    const shape = (MOVESET.fields.loadouts.shape as { of: FieldsShape }).of;
    return Object.fromEntries(
      this.names.loadout.map((name) => [
        name,
        { ...this.fields(shape, ['allow']), abilities: this.random.some(this.names.ability, 1) },
      ]),
    );
  }

  private pool(): Plain {
    const shape = (MOVESET.fields.pools.shape as { of: FieldsShape }).of;
    const pool = this.fields(shape, ['allow', 'min', 'max', 'start', ...LIKE]);
    pool.max = this.random.chance(0.8) ? this.random.whole(1, 20) : this.number(1, 20);
    if (this.random.chance(0.3)) pool.min = this.random.chance(0.7) ? this.random.whole(-3, 0) : this.number(-3, 1);
    if (this.random.chance(0.3)) pool.start = this.random.whole(0, 1);
    return pool;
  }

  private body(): Plain {
    const { random } = this;
    return {
      ...this.fields(MOVESET.fields.body.shape as FieldsShape, ['gravity', 'fall', 'walk', 'shapes']),
      ...(this.skeleton.body as Plain),
      ...(random.chance(0.5) && { gravity: random.pick([0, 10, 40]) }),
      ...(random.chance(0.5) && { fall: random.pick([4, 18]) }),
      ...(random.chance(0.5) && {
        walk: {
          speed: random.whole(1, 9),
          accel: random.pick([10, 60, 1000]),
          ...(random.chance(0.3) && { brake: 30 }),
        },
      }),
    };
  }

  private ability(name: string): Plain {
    this.own = name;
    const { random } = this;
    const shape = (MOVESET.fields.abilities.shape as { of: FieldsShape }).of;
    const ability = this.fields(shape, ['allow', 'phases', 'pay', 'locked', 'from', 'when', ...LIKE]);
    const phases = Array.from({ length: random.whole(1, 3) }, (_, i, all: unknown[] = []) => this.phase(i, all.length));
    (phases.at(-1) as Plain).for ??= this.time(1);
    ability.phases = phases;
    const timed = phases.every(isTimed);
    mendDistance(ability.move as Plain | undefined, timed);
    if (random.chance(0.2))
      ability.pay = random.pick(phases.map((phase, i) => (phase.name as string) ?? String(i + 1)));
    if (random.chance(0.15)) ability.locked = true;
    if (random.chance(0.25)) ability.from = random.some([...this.names.stance, ...TAGS], 1);
    if (random.chance(0.25)) ability.when = this.condition();
    return ability;
  }

  private phase(i: number, count: number): Plain {
    const ability = (MOVESET.fields.abilities.shape as { of: FieldsShape }).of;
    const shape = (ability.fields.phases.shape as { of: FieldsShape }).of;
    const phase = this.fields(shape, []);
    if (phase.name !== undefined) phase.name = `phase${i}`;
    if (this.wanted.fights && this.random.chance(0.5)) phase.strike = this.fields(strikeShape, []);
    if (this.random.chance(0.7) || i === count - 1) phase.for ??= this.time(1);
    mendDistance(phase.move as Plain | undefined, isTimed(phase));
    return phase;
  }

  /** Any value that a shape allows. */
  private value(shape: Shape): unknown {
    const { random } = this;
    switch (shape.kind) {
      case 'number': {
        const value = random.whole(Math.max(shape.min, -3), Math.min(shape.max, 12));
        return shape.whole || random.chance(0.5) ? value : Math.min(shape.max, value + 0.25);
      }
      case 'formula':
        return this.formula(shape);
      case 'time':
        if (shape.formula && random.chance(0.3)) return this.timeFormula();
        return this.time(shape.min);
      case 'text':
        return shape.pattern ? random.pick(TAGS) : random.pick(['idle', 'swing']);
      case 'truth':
        return random.chance(0.5);
      case 'data':
        return DATA;
      case 'word':
        return random.pick(shape.of);
      case 'name': {
        const known = namesOf(shape, this.names);
        return known.length > 0 ? random.pick(known) : undefined;
      }
      case 'list': {
        const items = Array.from({ length: Math.max(shape.min ?? 0, random.whole(1, 2)) }, () => this.value(shape.of));
        if (items.includes(undefined)) return undefined;
        return shape.orOne && random.chance(0.5) ? items[0] : items;
      }
      case 'map': {
        const keys = shape.keys === 'new' ? ['full', 'half'] : shape.keys === 'code' ? [] : this.names[shape.keys];
        return Object.fromEntries(random.some(keys, shape.min ?? 0).map((key) => [key, this.value(shape.of)]));
      }
      case 'fields': {
        const made = this.fields(shape, []);
        return Object.entries(shape.fields).some(([key, { required }]) => required && !(key in made))
          ? undefined
          : made;
      }
      case 'either': {
        const forms = [shape.plain, shape.list, shape.fields].filter((form) => form !== undefined);
        return this.value(random.pick(forms) as Shape);
      }
    }
  }

  private fields(shape: FieldsShape, without: readonly string[]): Plain {
    const { random } = this;
    const only = shape.oneOf && random.pick(shape.oneOf.filter((key) => this.canBe(shape, key)));
    const made: Plain = {};
    // Where there are few, each comes more often.
    const often = Object.keys(shape.fields).length > 8 ? 0.16 : 0.3;
    for (const [key, field] of Object.entries(shape.fields)) {
      if (this.wanted.probes === false && ['warp', 'passes', 'bounce'].includes(key)) continue;
      if (without.includes(key) || (shape.oneOf?.includes(key) && key !== only)) continue;
      const owners = Object.values(shape.together ?? {}).filter((keys) => keys.includes(key));
      if (only && owners.length > 0 && !shape.together?.[only].includes(key)) continue;
      if (!field.required && key !== only && !random.chance(often)) continue;
      const value = key === 'emit' ? this.emitted() : this.value(field.shape);
      if (value !== undefined) made[key] = value;
    }
    const needs = Object.entries(shape.needs ?? {});
    // What is added may itself need something.
    for (const [key, needed] of [...needs, ...needs]) {
      if (made[key] !== undefined && hasNeeded(made, needed)) continue;
      if (made[key] !== undefined) made[needed.key] ??= this.value(shape.fields[needed.key].shape);
      if (made[needed.key] === undefined) delete made[key];
    }
    const beats = [made.beats ?? []].flat() as Plain[];
    if (beats.some(({ place }) => place !== undefined)) made.clip = random.pick(Object.keys(CLIPS));
    return made;
  }

  private emitted(): unknown {
    const { random, names } = this;
    const events = random.some([...names.event], 1);
    if (random.chance(0.4)) return events;
    const given = (): Plain => ({
      loud: random.chance(0.5) ? random.whole(-3, 9) : this.number(-3, 9),
      long: random.chance(0.5) ? this.time(0) : random.pick(this.facts.times),
      spot: random.pick(namesOf(point, names)),
      way: random.pick(namesOf(heading, names)),
      tone: random.pick(VALUES.tone),
    });
    const declared = this.skeleton.events as Record<string, Plain>;
    return Object.fromEntries(
      events.map((event) => {
        const all = Object.entries(given()).filter(() => random.chance(0.7));
        return [event, declared[event].values ? Object.fromEntries(all) : {}];
      }),
    );
  }

  private canBe(shape: FieldsShape, key: string): boolean {
    const one = shape.fields[key].shape;
    const inner = one.kind === 'list' ? one.of : one;
    if (inner.kind === 'name') return inner.of.some((kind) => this.names[kind].length > 0);
    return true;
  }

  private time(least: number): string {
    const { random } = this;
    const ticks = random.whole(Math.max(1, least), random.chance(0.8) ? 12 : 40);
    return least === 0 && random.chance(0.2) ? '0f' : `${ticks}f`;
  }

  private formula({ gives, percent, fixed, min = -20, max = 20 }: FormulaShape): unknown {
    const { random } = this;
    if (gives === 'truth') return this.condition();
    if (gives === 'time') return random.chance(0.5) ? this.time(0) : random.pick(this.facts.times);
    if (percent && random.chance(0.3)) return `${random.whole(0, 100)}%`;
    if (gives === 'value' && random.chance(0.3))
      return random.chance(0.5) ? this.time(0) : random.pick(this.facts.times);
    if (fixed || random.chance(0.5)) return random.whole(Math.max(min, -20), Math.min(max, 20));
    return this.number(Math.max(min, -20), Math.min(max, 20));
  }

  /** A time that depends on something; some of them are no time at all, or without end. */
  private timeFormula(): unknown {
    const { random } = this;
    if (this.wanted.functions !== false && random.chance(0.2)) {
      const time = random.pick([Number.NaN, 0.1, -1, Number.POSITIVE_INFINITY]);
      return () => time;
    }
    return random.pick([`max(2f, ${random.pick(this.facts.times)})`, `pick(${this.truth(1)}, 3f, 9f)`]);
  }

  /** A number as text or as a function. */
  private number(low: number, high: number): unknown {
    const { random } = this;
    const fact = random.pick(this.facts.numbers);
    if (this.wanted.functions !== false && random.chance(0.25)) {
      if (random.chance(0.1)) return () => Number.NaN;
      return (facts: Facts) => low + Math.abs(facts.fact(fact)) * 0.5;
    }
    return random.pick([
      `${high} - abs(${fact})`,
      `${low} + ${this.sum()}`,
      `clamp(${fact} * 2, ${low}, ${high})`,
      `pick(${this.truth(1)}, ${low}, ${high})`,
      `min(${this.sum()}, ${high})`,
      `sqrt(abs(${fact})) / ${random.whole(0, 3)}`,
    ]);
  }

  private sum(): string {
    const { random, facts } = this;
    return `${random.pick(facts.numbers)} ${random.pick(['+', '-', '*', '/', '%'])} ${random.whole(0, 4)}`;
  }

  private condition(): unknown {
    const { random } = this;
    if (this.wanted.functions !== false && random.chance(0.12)) {
      const fact = random.pick([...this.facts.truths, ...this.facts.numbers]);
      return (facts: Facts) => facts.fact(fact) > 0;
    }
    return this.truth(2);
  }

  private truth(depth: number): string {
    const { random, facts } = this;
    if (depth > 0 && random.chance(0.35)) {
      const parts = `${this.truth(depth - 1)} ${random.pick(['and', 'or'])} ${this.truth(depth - 1)}`;
      return random.chance(0.3) ? `not (${parts})` : parts;
    }
    const compare = random.pick(['<', '<=', '>', '>=', '==', '!=']);
    switch (random.whole(0, 4)) {
      case 0:
      case 1:
        return `${random.chance(0.3) ? 'not ' : ''}${random.pick(facts.truths)}`;
      case 2:
        return `${random.pick(facts.numbers)} ${compare} ${random.whole(-2, 6)}`;
      case 3:
        return `${random.pick(facts.times)} ${compare} ${random.pick(['2f', '6f', '0.1s', '0.5s'])}`;
      default:
        return this.own ? `charge >= 0.5 or ${random.pick(facts.truths)}` : random.pick(facts.truths);
    }
  }
}
