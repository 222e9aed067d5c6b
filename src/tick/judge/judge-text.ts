import type { AbilityPlan } from '../../compile/plan.js';
import type { Operand } from '../../record/frame.js';
import { ENOUGH } from '../../record/pool-line.js';
import { C_READY, C_WAITING, L_ABILITY, L_PHASE, L_SINCE, LANE, N_LEFT, P_MIN, STANCE, T } from '../../record/slots.js';
import { expressionOf, writeNumber } from '../../record/written.js';
import { commentText } from '../../report/words.js';
import { bare, type Emitter, indexesOf } from '../../text/emitter.js';
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

  now(): string {
    this.words.add('now');
    return 'now';
  }

  stance(): string {
    this.words.add('stance');
    return 'stance';
  }

  /** Whether anybody is told why. */
  tells(): string {
    this.words.add('tells');
    return 'tells';
  }

  /** The ability that runs in a lane, or -1. */
  running(lane: number): string {
    if (!this.lanes.has(lane)) this.lanes.set(lane, 'in');
    return `in${this.nameOf(lane)}`;
  }

  /** 0 where nothing runs in a lane, else what stands against whatever it does not let in. */
  busy(lane: number): string {
    this.lanes.set(lane, 'busy');
    return `busy${this.nameOf(lane)}`;
  }

  locals(): string[] {
    const { e, words } = this;
    const lines = [...this.lanes].flatMap(([lane, which]) => {
      const running = `const in${this.nameOf(lane)} = r[${lane + L_ABILITY}] | 0;`;
      if (which === 'in') return [running];
      const fresh = `r[${lane + L_SINCE}] === ${this.now()}`;
      const against = `${fresh} ? ${said(e, 'outranked')} : ${said(e, 'busy')}`;
      return [running, `const busy${this.nameOf(lane)} = in${this.nameOf(lane)} < 0 ? 0 : ${against};`];
    });
    return [
      ...(words.has('now') ? [`const now = r[${T}];`] : []),
      ...(words.has('stance') ? [`const stance = r[${STANCE}] | 0;`] : []),
      ...(words.has('tells') ? ['const tells = c.tellsRefusals;'] : []),
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
 * `judge` of judge.ts, in the same order; whole only where somebody is told. Gives statements that make `against`.
 */
export function emitJudge(e: Emitter, here: Judging, a: AbilityPlan): string[] {
  const { plan } = e;
  const path = `abilities[${a.index}]`;
  const own = ['abilities', a.name];
  const line = (test: string, bit: string, ...key: string[]) =>
    e.from(`if (${test}) against |= ${bit};`, ...own, ...key);
  const lines = [
    e.from(`let against = ${inLane(e, here, a)};`, ...own),
    ...outranked(e, here, a),
    ...barring(e, here, a),
  ];
  if (a.follows !== null) {
    const ways = a.follows.map(({ ability, endedAt, within, time }, i) => {
      const runs = `${here.running(a.laneAt)} === ${e.index('ability', ability)}`;
      const since = `${here.now()} - r[${endedAt}]`;
      if (time === null) return `${runs}${within > 0 ? ` || ${since} <= ${within}` : ''}`;
      const longest = operandOf(e, time, `${path}.follows[${i}].time`);
      return `${runs} || ((r[${time.at}] = ${longest}) > 0 && ${since} <= r[${time.at}])`;
    });
    lines.push(line(ways.length === 0 ? 'true' : e.not(ways.join(' || ')), said(e, 'follows'), 'follows'));
  }
  const more: string[] = [];
  const where: string[] = [];
  if (a.from !== null)
    where.push(line(e.not(e.oneOf(here.stance(), indexesOf(a.from), 'stance')), said(e, 'from'), 'from'));
  a.when.forEach(({ test, text }, i) => {
    const fails = e.not(e.test(test, `${path}.when[${i}].test`));
    const bit = e.constant(`REASON_WHEN_${i + 1}`, bitOf(WHEN_BIT, WHEN_BITS, i));
    where.push(e.from(`if (${fails}) against |= ${bit}; // when: ${commentText(text)}`, ...own, 'when'));
  });
  if (where.length > 0 && a.eligibleAt >= 0)
    more.push(
      e.from(`if (!(${here.now()} - r[${a.eligibleAt}] <= ${a.grace})) {`, ...own, 'grace'),
      ...where.map((one) => `  ${one}`),
      '}',
    );
  else more.push(...where);
  if (a.cooldownAt >= 0) {
    const runs = `${here.now()} < r[${a.cooldownAt + C_READY}]`;
    const waits = plan.abilities.some(({ cooldownAt, waitsAt }) => cooldownAt === a.cooldownAt && waitsAt >= 0);
    more.push(line(waits ? `${runs} || r[${a.cooldownAt + C_WAITING}] > 0` : runs, said(e, 'cooldown'), 'cooldown'));
  }
  if (a.chargesAt >= 0) more.push(line(`r[${a.chargesAt + N_LEFT}] < 1`, said(e, 'charges'), 'charges'));
  a.costs.forEach(({ pool, amount, price }, i) => {
    const { at, value, name: of } = plan.pools[pool];
    const bit = e.constant(`REASON_COST_${i + 1}`, bitOf(COST_BIT, COST_BITS, i));
    const least = `r[${at + P_MIN}] + r[${price}]`;
    more.push(`${e.updatePool(pool)};`);
    more.push(e.from(`r[${price}] = ${operandOf(e, amount, `${path}.costs[${i}].amount`)};`, ...own, 'cost', of));
    more.push(line(`!(r[${value}] + ${ENOUGH} >= ${least})`, bit, 'cost', of));
  });
  a.upkeeps.forEach(({ pool, restart }, i) => {
    const { at, value, name: of } = plan.pools[pool];
    const bit = e.constant(`REASON_UPKEEP_${i + 1}`, bitOf(UPKEEP_BIT, UPKEEP_BITS, i));
    const least = `r[${at + P_MIN}] + ${writeNumber(restart)}`;
    const short = a.ranOutAt < 0 ? '' : ` || (r[${a.ranOutAt}] !== 0 && r[${value}] + ${ENOUGH} < ${least})`;
    more.push(`${e.updatePool(pool)};`);
    more.push(line(`r[${value}] <= r[${at + P_MIN}]${short}`, bit, 'upkeep', of));
  });
  if (a.warp !== null) more.push(e.from(`against |= ${e.use('warpAgainst')}(c, ${path}.warp);`, ...own, 'warp'));
  if (a.summon >= 0) more.push(line(`!c.fits(${a.summon})`, said(e, 'room'), 'summon'));
  if (more.length > 0) lines.push(`if (against === 0 || ${here.tells()}) {`, ...more.map((one) => `  ${one}`), '}');
  return lines;
}

/** The bit of a reason by its name. */
function said(e: Emitter, reason: keyof typeof AGAINST): string {
  return e.constant(`REASON_${reason.toUpperCase()}`, AGAINST[reason]);
}

/** What of a lane says a word about an ability: an expression for its abilities, one for its phases. */
function saying(e: Emitter, a: AbilityPlan, word: 'open' | 'bars', lane: number, running: string): string[] {
  const { abilities, phases } = e.plan;
  const sayers = e.sayersOf(word, a.index);
  const by = sayers.abilities.filter((index) => abilities[index].laneAt === lane);
  const byPhase = sayers.phases.filter((index) => abilities[phases[index].ability].laneAt === lane);
  return [e.oneOf(running, by, 'ability'), e.oneOf(`r[${lane + L_PHASE}]`, byPhase, 'phase')].filter(
    (text) => text !== 'false',
  );
}

/** Those of a lane that an ability breaks. */
function brokenIn({ plan }: Emitter, { breaks }: AbilityPlan, lane: number): number[] {
  return indexesOf(breaks).filter((index) => plan.abilities[index].laneAt === lane);
}

/** Its lane is free, or what runs there lets it in, or it breaks in: an expression for what stands against it. */
function inLane(e: Emitter, here: Judging, a: AbilityPlan): string {
  const { abilities, phases } = e.plan;
  const breaks = brokenIn(e, a, a.laneAt);
  const inIt = abilities.filter(({ laneAt, index }) => laneAt === a.laneAt && !breaks.includes(index));
  if (inIt.length === 0) return '0';
  const running = here.running(a.laneAt);
  const itself = `${running} === ${e.index('ability', a.index)}`;
  const opened = e.sayersOf('open', a.index);
  const ownPhases = opened.phases.filter((index) => phases[index].ability === a.index);
  const again = opened.abilities.includes(a.index) ? 'true' : e.oneOf(`r[${a.laneAt + L_PHASE}]`, ownPhases, 'phase');
  if (inIt.length === 1 && inIt[0] === a && again === 'false') return `${itself} ? ${said(e, 'running')} : 0`;
  const busy = here.busy(a.laneAt);
  const open = bare(saying(e, a, 'open', a.laneAt, running).join(' || '));
  const unless = again === 'false' ? '' : ` && !(${bare(again)})`;
  return [
    ...(breaks.length > 0 ? [`${bare(e.oneOf(running, breaks, 'ability'))} ? 0`] : []),
    ...(inIt.includes(a) && again !== 'true' ? [`${itself}${unless} ? ${said(e, 'running')}`] : []),
    // What has just started there outranks it, whatever it lets in.
    ...(open === '' ? [] : [`${busy} === ${said(e, 'busy')} && (${open}) ? 0`]),
    busy,
  ].join(' : ');
}

/** It breaks nothing that has started in this very tick, but itself. */
function outranked(e: Emitter, here: Judging, a: AbilityPlan): string[] {
  const { lanesAt, lanesEnd } = e.plan;
  const ways: string[] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE) {
    const others = brokenIn(e, a, lane).filter((index) => index !== a.index);
    if (others.length === 0) continue;
    ways.push(`${here.busy(lane)} === ${said(e, 'outranked')} && ${e.oneOf(here.running(lane), others, 'ability')}`);
  }
  if (ways.length === 0) return [];
  const test = ways.length === 1 ? ways[0] : ways.map((way) => `(${way})`).join(' || ');
  return [e.from(`if (${test}) against |= ${said(e, 'outranked')};`, 'abilities', a.name, 'breaks')];
}

/** Nothing that runs bars it, in any lane. */
function barring(e: Emitter, here: Judging, a: AbilityPlan): string[] {
  const { plan } = e;
  if (plan.barred[a.index] !== 1) return [];
  const lines: string[] = [];
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const running = here.running(lane);
    const bars = saying(e, a, 'bars', lane, running);
    if (bars.length === 0) continue;
    const broken = e.oneOf(running, brokenIn(e, a, lane), 'ability');
    const test = broken === 'false' ? bare(bars.join(' || ')) : `(${bars.join(' || ')}) && ${e.not(broken)}`;
    lines.push(e.from(`if (${test}) against |= ${said(e, 'barred')};`, 'abilities', a.name));
  }
  return lines;
}

/** What an operand comes to, as an expression. */
function operandOf(e: Emitter, operand: Operand, path: string): string {
  const text = expressionOf(operand, e.plan.constants);
  return text === undefined ? `(${e.keep(`${path}.run`, 'number')}(c), r[${operand.at}])` : e.known(text);
}
