import type { AbilityPlan } from '../../compile/plan.js';
import {
  all,
  any,
  asked,
  at,
  Block,
  type Code,
  closure,
  constant,
  enclose,
  equal,
  FALSE,
  indexOf,
  item,
  js,
  type Lines,
  library,
  literal,
  not,
  TRUE,
  tight,
  to,
} from '../../record/code.js';
import type { Operand } from '../../record/frame.js';
import { ENOUGH } from '../../record/pool-line.js';
import { C_READY, C_WAITING, L_ABILITY, L_PHASE, L_SINCE, LANE, N_LEFT, P_MIN, STANCE, T } from '../../record/slots.js';
import { expressionOf } from '../../record/written.js';
import { commentText } from '../../report/words.js';
import { type Emitter, indexesOf } from '../../text/emitter.js';
import { AGAINST, bitOf, COST_BIT, COST_BITS, UPKEEP_BIT, UPKEEP_BITS, WHEN_BIT, WHEN_BITS } from './against.js';

/** What a function that judges requests reads more than once, as variables of it: named here as somebody asks for them. */
export class Judging {
  private readonly lanes = new Map<number, 'in' | 'busy'>();
  private readonly words = new Set<'now' | 'stance' | 'tells'>();

  constructor(
    private readonly e: Emitter,
    /** Whether something that starts may change what is known, or in the loadout. */
    readonly vanishes: boolean,
  ) {}

  now(): Code {
    this.words.add('now');
    return tight(js`now`);
  }

  stance(): Code {
    this.words.add('stance');
    return tight(js`stance`);
  }

  /** Whether anybody is told why. */
  tells(): Code {
    this.words.add('tells');
    return tight(js`tells`);
  }

  /** The ability that runs in a lane, or -1. */
  running(lane: number): Code {
    if (!this.lanes.has(lane)) this.lanes.set(lane, 'in');
    return tight(js`in${this.nameOf(lane)}`);
  }

  /** 0 where nothing runs in a lane, else what stands against whatever it does not let in. */
  busy(lane: number): Code {
    this.lanes.set(lane, 'busy');
    return tight(js`busy${this.nameOf(lane)}`);
  }

  locals(): Lines {
    const { words } = this;
    const lines = [...this.lanes].flatMap(([lane, which]) => {
      const name = this.nameOf(lane);
      const running = js`const in${name} = ${at(lane + L_ABILITY)} | 0;`;
      if (which === 'in') return [running];
      const fresh = js`${at(lane + L_SINCE)} === ${this.now()}`;
      const against = js`${fresh} ? ${said('outranked')} : ${said('busy')}`;
      return [running, js`const busy${name} = in${name} < 0 ? 0 : ${against};`];
    });
    return [
      ...(words.has('now') ? [js`const now = ${at(T)};`] : []),
      ...(words.has('stance') ? [js`const stance = ${at(STANCE)} | 0;`] : []),
      ...(words.has('tells') ? [js`const tells = c.tellsRefusals === true;`] : []),
      ...lines,
    ];
  }

  private nameOf(lane: number): string {
    const { lanesAt, names } = this.e.plan;
    const index = (lane - lanesAt) / LANE;
    const word = (name: string) => name[0].toUpperCase() + name.slice(1);
    const own = word(names.lane[index]);
    const isPlain = /^[A-Z]\w*$/.test(own) && names.lane.filter((name) => word(name) === own).length === 1;
    return isPlain ? own : String(index + 1);
  }
}

/**
 * Writes the judgement of a request for one ability that is known and in the loadout, since others are not asked for: equal to
 * `judge` of judge.ts, in the same order; whole only where somebody is told. Gives lines that make `against`; its pools are up to date.
 */
export function emitJudge(e: Emitter, here: Judging, a: AbilityPlan): Lines {
  const { plan } = e;
  const path = `abilities[${a.index}]`;
  const own = ['abilities', a.name];
  const line = (test: Code, bit: Code, ...key: string[]) => js`if (${test}) against |= ${bit};`.from(...own, ...key);
  const lines: Lines[number][] = [
    js`let against = ${inLane(e, here, a)};`.from(...own),
    ...outranked(e, here, a),
    ...barring(e, here, a),
  ];
  if (a.follows !== null) {
    const ways = a.follows.flatMap(({ ability, endedAt, within, time }, i) => {
      const runs = equal(here.running(a.laneAt), indexOf('ability', ability));
      const since = js`${here.now()} - ${at(endedAt)}`;
      if (time === null) return within > 0 ? [runs, tight(js`${since} <= ${within}`)] : [runs];
      const longest = operandOf(e, time, `${path}.follows[${i}].time`);
      return [runs, js`(${to(time.at)} = ${longest}) > 0 && ${since} <= ${at(time.at)}`];
    });
    lines.push(line(not(any(...ways)), said('follows'), 'follows'));
  }
  const more: Lines[number][] = [];
  const where: Code[] = [];
  if (a.from !== null) where.push(line(not(e.oneOf(here.stance(), indexesOf(a.from), 'stance')), said('from'), 'from'));
  a.when.forEach(({ test, text }, i) => {
    const fails = not(e.test(test, `${path}.when[${i}].test`));
    const bit = constant(`REASON_WHEN_${i + 1}`, bitOf(WHEN_BIT, WHEN_BITS, i));
    where.push(js`if (${fails}) against |= ${bit}; // when: ${commentText(text)}`.from(...own, 'when'));
  });
  if (where.length > 0 && a.eligibleAt >= 0) {
    const late = js`if (!(${here.now()} - ${at(a.eligibleAt)} <= ${a.grace})) {`.from(...own, 'grace');
    more.push(new Block([late, where, js`}`]));
  } else more.push(...where);
  if (a.cooldownAt >= 0) {
    const runs = tight(js`${here.now()} < ${at(a.cooldownAt + C_READY)}`);
    const waits = plan.abilities.some(({ cooldownAt, waitsAt }) => cooldownAt === a.cooldownAt && waitsAt >= 0);
    const test = waits ? any(runs, tight(js`${at(a.cooldownAt + C_WAITING)} > 0`)) : runs;
    more.push(line(test, said('cooldown'), 'cooldown'));
  }
  if (a.chargesAt >= 0) more.push(line(js`${at(a.chargesAt + N_LEFT)} < 1`, said('charges'), 'charges'));
  a.costs.forEach(({ pool, amount, price }, i) => {
    const { at: slot, value, name: of } = plan.pools[pool];
    const bit = constant(`REASON_COST_${i + 1}`, bitOf(COST_BIT, COST_BITS, i));
    const least = js`${at(slot + P_MIN)} + ${at(price)}`;
    more.push(
      js`${to(price)} = ${operandOf(e, amount, `${path}.costs[${i}].amount`)};`.from(...own, 'cost', of),
      line(js`!(${at(value)} + ${ENOUGH} >= ${least})`, bit, 'cost', of),
    );
  });
  a.upkeeps.forEach(({ pool, restart }, i) => {
    const { at: slot, value, name: of } = plan.pools[pool];
    const bit = constant(`REASON_UPKEEP_${i + 1}`, bitOf(UPKEEP_BIT, UPKEEP_BITS, i));
    const least = at(slot + P_MIN);
    const dry = tight(js`${at(value)} <= ${least}`);
    const short = js`${at(a.ranOutAt)} !== 0 && ${at(value)} + ${ENOUGH} < ${least} + ${restart}`;
    more.push(line(a.ranOutAt < 0 ? dry : any(dry, short), bit, 'upkeep', of));
  });
  if (a.warp !== null)
    more.push(js`against |= ${library('warpAgainst')}(c, ${item('abilities', a.index)}.warp);`.from(...own, 'warp'));
  if (a.summon >= 0) more.push(line(js`!${asked('fits')}(${a.summon})`, said('room'), 'summon'));
  if (more.length > 0) lines.push(new Block([js`if (against === 0 || ${here.tells()}) {`, more, js`}`]));
  return lines;
}

/** The bit of a reason by its name. */
export function said(reason: keyof typeof AGAINST): Code {
  return constant(`REASON_${reason.toUpperCase()}`, AGAINST[reason]);
}

/** Whether something of a lane says a word about an ability: one of its abilities, or of its phases. */
function saying(e: Emitter, a: AbilityPlan, word: 'open' | 'bars', lane: number, running: Code): Code {
  const { abilities, phases } = e.plan;
  const sayers = e.sayersOf(word, a.index);
  const by = sayers.abilities.filter((index) => abilities[index].laneAt === lane);
  const byPhase = sayers.phases.filter((index) => abilities[phases[index].ability].laneAt === lane);
  return any(e.oneOf(running, by, 'ability'), e.oneOf(at(lane + L_PHASE), byPhase, 'phase'));
}

/** Those of a lane that an ability breaks. */
function brokenIn({ plan }: Emitter, { breaks }: AbilityPlan, lane: number): number[] {
  return indexesOf(breaks).filter((index) => plan.abilities[index].laneAt === lane);
}

/** Its lane is free, or what runs there lets it in, or it breaks in: an expression for what stands against it. */
function inLane(e: Emitter, here: Judging, a: AbilityPlan): Code {
  const { abilities, phases } = e.plan;
  const breaks = brokenIn(e, a, a.laneAt);
  const inIt = abilities.filter(({ laneAt, index }) => laneAt === a.laneAt && !breaks.includes(index));
  if (inIt.length === 0) return literal(0);
  const running = here.running(a.laneAt);
  const itself = equal(running, indexOf('ability', a.index));
  const opened = e.sayersOf('open', a.index);
  const ownPhases = opened.phases.filter((index) => phases[index].ability === a.index);
  const again = opened.abilities.includes(a.index) ? TRUE : e.oneOf(at(a.laneAt + L_PHASE), ownPhases, 'phase');
  if (inIt.length === 1 && inIt[0] === a && again === FALSE) return js`${itself} ? ${said('running')} : 0`;
  const busy = here.busy(a.laneAt);
  const open = saying(e, a, 'open', a.laneAt, running);
  const ways: [test: Code, against: Code | number][] = [
    [e.oneOf(running, breaks, 'ability'), 0],
    [inIt.includes(a) ? all(itself, not(again)) : FALSE, said('running')],
    // What has just started there outranks it, whatever it lets in.
    [all(equal(busy, said('busy')), open), 0],
  ];
  return ways.reduceRight(
    (rest, [test, against]) => (test === FALSE ? rest : js`${test} ? ${against} : ${rest}`),
    busy,
  );
}

/** It breaks nothing that has started in this very tick, but itself. */
function outranked(e: Emitter, here: Judging, a: AbilityPlan): Lines {
  const { lanesAt, lanesEnd } = e.plan;
  const ways: Code[] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE) {
    const others = brokenIn(e, a, lane).filter((index) => index !== a.index);
    if (others.length === 0) continue;
    ways.push(all(equal(here.busy(lane), said('outranked')), e.oneOf(here.running(lane), others, 'ability')));
  }
  if (ways.length === 0) return [];
  return [js`if (${any(...ways)}) against |= ${said('outranked')};`.from('abilities', a.name, 'breaks')];
}

/** Nothing that runs bars it, in any lane. */
function barring(e: Emitter, here: Judging, a: AbilityPlan): Lines {
  const { plan } = e;
  if (plan.barred[a.index] !== 1) return [];
  const lines: Code[] = [];
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const running = here.running(lane);
    const bars = saying(e, a, 'bars', lane, running);
    if (bars === FALSE) continue;
    const test = all(bars, not(e.oneOf(running, brokenIn(e, a, lane), 'ability')));
    lines.push(js`if (${test}) against |= ${said('barred')};`.from('abilities', a.name));
  }
  return lines;
}

/** What an operand comes to, as an expression. */
function operandOf(e: Emitter, operand: Operand, path: string): Code {
  return (
    expressionOf(operand, e.plan.constants) ?? enclose(js`${closure(`${path}.run`, 'number')}(c), ${at(operand.at)}`)
  );
}
