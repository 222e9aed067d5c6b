import { compileDirections } from '../moveset/directions/direction.js';
import type { ValuePlace } from '../moveset/directions/point.js';
import type { ParsedTarget } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import { type Insight, NO_FOE, SIGHT, type TargetPlan, W_AT, W_FROM, W_PUSH } from '../record/combat.js';
import { cosine } from '../world/cosine.js';
import type { Compiling } from './compiling.js';
import { OTHER_FACTS, sightFact } from './facts/blows.js';
import { type Fact, numberAt, truthAt } from './facts/fact.js';

/** Compiles what a character knows of others: foes, targets, and what they tell. */
export class OthersCompiler {
  readonly insights: Insight[] = [];
  /** Something asks for the nearest foe. */
  readsFoe = false;

  constructor(private readonly c: Compiling) {}

  compileTarget(given: ParsedTarget, name: string, i: number): TargetPlan {
    const { among = 'foes', tagged, reach, along, arc = 90, when, least } = given;
    this.c.formulas.others = OTHER_FACTS;
    const target: TargetPlan = {
      name,
      sight: 2 + i,
      among,
      tagged: tagged ? sound(tagged) : null,
      reach: this.c.effects.amount(reach, NO_FOE),
      aim: along
        ? this.c.making.make('compileDirections', [along, {}], this.c.effects, (tools) =>
            compileDirections(along, {}, tools),
          )
        : null,
      cos: cosine(arc / 2),
      when: when ? this.c.formulas.truth(when) : null,
      least: least ? this.c.formulas.number(least) : null,
    };
    this.c.formulas.others = [];
    return target;
  }

  /** Which sight is that of a name: the foe, a target, or whom one looks at to choose it; -1 for none. */
  sightOf(name: string): number {
    if (name === 'foe') return 0;
    if (name === 'other') return this.c.formulas.others.length > 0 ? 1 : -1;
    const target = this.c.indexOf('target', name);
    return target < 0 ? -1 : 2 + target;
  }

  /** Facts of others: what formulas read of them by a name of theirs, and all of whom a target is chosen from. */
  insight(key: string): Fact | undefined {
    // Code may ask for anything.
    if (typeof key !== 'string') return undefined;
    const [, name = '', rest = '', of] = /^(\w+)\.(\w+)(?:\((\w+)\))?$/.exec(key) ?? [];
    const sight = this.sightOf(name);
    if (sight < 0) return undefined;
    if (of === undefined) return name === 'other' ? sightFact(this.c.behind.foeAt + SIGHT, rest) : undefined;
    if (rest !== 'pool' && rest !== 'tagged' && rest !== 'in') return undefined;
    let known = this.insights.find((one) => one.what === rest && one.name === of);
    if (!known) {
      const at = this.c.formulas.take(this.c.behind.sights);
      if (at < 0) return undefined;
      known = { what: rest, name: of, at };
      this.insights.push(known);
    }
    if (sight === 0) this.readsFoe = true;
    return rest === 'pool' ? numberAt(known.at + sight) : truthAt(known.at + sight);
  }

  /** Where a value of a message stands: in an ability that its message has started, as it was then; else as it came last. */
  valueAt(source: string | undefined): ValuePlace | undefined {
    const [name, value] = (source ?? '').split('.');
    if (name === 'blow' && this.c.layout.combat >= 0) {
      const blow = BLOW_PLACES[value];
      return blow === undefined ? undefined : { at: this.c.behind.blowAt + 1 + blow, since: this.c.behind.blowAt };
    }
    const event = this.c.indexOf('event', name);
    const at = this.c.messages[event]?.values.find((one) => one.name === value)?.at;
    if (at === undefined) return undefined;
    const { own, runs } = this.c.formulas;
    const { heard } = this.c.layout.abilities[this.c.indexOf('ability', own ?? '')] ?? { heard: [] };
    const inside = runs ? heard.find((one) => one.event === name) : undefined;
    const since = inside?.at ?? this.c.layout.events[event];
    return { at: since + 1 + at, since };
  }
}

/** Places of the points and directions of a blow that is taken. */
const BLOW_PLACES: Record<string, number | undefined> = { push: W_PUSH, from: W_FROM, at: W_AT };
