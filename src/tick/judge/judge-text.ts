import type { AbilityPlan } from '../../compile/plan.js';
import type { Operand } from '../../record/frame.js';
import { ENOUGH } from '../../record/pool-line.js';
import {
  C_READY,
  C_WAITING,
  L_ABILITY,
  L_PHASE,
  L_SINCE,
  LANE,
  N_LEFT,
  P_MIN,
  RUNNING,
  STANCE,
  T,
} from '../../record/slots.js';
import { expressionOf, writeNumber } from '../../record/written.js';
import { commentText } from '../../report/words.js';
import { bare, type Emitter, functionOf, indexesOf } from '../../text/emitter.js';
import { AGAINST, bitOf, COST_BIT, COST_BITS, UPKEEP_BIT, UPKEEP_BITS, WHEN_BIT, WHEN_BITS } from './against.js';

/**
 * Writes the judgement of a request for one ability that is known and in the loadout, since others are not asked for: equal to
 * `judge` of judge.ts, in the same order.
 */
export function emitJudge(e: Emitter, a: AbilityPlan, name: string): string {
  const { plan } = e;
  const path = `abilities[${a.index}]`;
  const body = ['const { r } = c;', 'let against = 0;'];
  const own = ['abilities', a.name];
  const line = (test: string, bit: string, ...key: string[]) =>
    e.from(`if (${test}) against |= ${bit};`, ...own, ...key);
  body.push(...running(e, a));
  if (a.follows !== null) {
    const ways = a.follows.map(
      ({ ability, endedAt, within }) =>
        `r[${a.laneAt + L_ABILITY}] === ${ability}${within > 0 ? ` || r[${T}] - r[${endedAt}] <= ${within}` : ''}`,
    );
    body.push(line(ways.length === 0 ? 'true' : e.not(ways.join(' || ')), said(e, 'follows'), 'follows'));
  }
  const enough = ['if (against !== 0 && !c.tellsRefusals) return against;'];
  if (body.length > 2) body.push(...enough);
  const where: string[] = [];
  if (a.from !== null)
    where.push(line(e.not(e.oneOf(`r[${STANCE}]`, indexesOf(a.from), 'stance')), said(e, 'from'), 'from'));
  a.when.forEach(({ test, text }, i) => {
    const fails = e.not(e.test(test, `${path}.when[${i}].test`));
    const bit = e.constant(`REASON_WHEN_${i + 1}`, bitOf(WHEN_BIT, WHEN_BITS, i));
    where.push(e.from(`if (${fails}) against |= ${bit}; // when: ${commentText(text)}`, ...own, 'when'));
  });
  if (where.length > 0 && a.eligibleAt >= 0)
    body.push(
      e.from(`if (!(r[${T}] - r[${a.eligibleAt}] <= ${a.grace})) {`, ...own, 'grace'),
      ...where.map((one) => `  ${one}`),
      '}',
    );
  else body.push(...where);
  if (where.length > 0) body.push(...enough);
  if (a.cooldownAt >= 0) {
    const runs = `r[${T}] < r[${a.cooldownAt + C_READY}]`;
    const waits = plan.abilities.some(({ cooldownAt, waitsAt }) => cooldownAt === a.cooldownAt && waitsAt >= 0);
    body.push(line(waits ? `${runs} || r[${a.cooldownAt + C_WAITING}] > 0` : runs, said(e, 'cooldown'), 'cooldown'));
  }
  if (a.chargesAt >= 0) body.push(line(`r[${a.chargesAt + N_LEFT}] < 1`, said(e, 'charges'), 'charges'));
  a.costs.forEach(({ pool, amount, price }, i) => {
    const { at, value, name: of } = plan.pools[pool];
    const bit = e.constant(`REASON_COST_${i + 1}`, bitOf(COST_BIT, COST_BITS, i));
    const least = `r[${at + P_MIN}] + r[${price}]`;
    body.push(`${e.updatePool(pool)};`);
    body.push(e.from(`r[${price}] = ${operandOf(e, amount, `${path}.costs[${i}].amount`)};`, ...own, 'cost', of));
    body.push(line(`!(r[${value}] + ${ENOUGH} >= ${least})`, bit, 'cost', of));
  });
  a.upkeeps.forEach(({ pool, restart }, i) => {
    const { at, value, name: of } = plan.pools[pool];
    const bit = e.constant(`REASON_UPKEEP_${i + 1}`, bitOf(UPKEEP_BIT, UPKEEP_BITS, i));
    const least = `r[${at + P_MIN}] + ${writeNumber(restart)}`;
    const short = a.ranOutAt < 0 ? '' : ` || (r[${a.ranOutAt}] !== 0 && r[${value}] + ${ENOUGH} < ${least})`;
    body.push(`${e.updatePool(pool)};`);
    body.push(line(`r[${value}] <= r[${at + P_MIN}]${short}`, bit, 'upkeep', of));
  });
  if (a.warp !== null) body.push(e.from(`against |= ${e.use('warpAgainst')}(c, ${path}.warp);`, ...own, 'warp'));
  if (a.summon >= 0) body.push(line(`!c.fits(${a.summon})`, said(e, 'room'), 'summon'));
  body.push('return against;');
  return functionOf(
    `Whether ${a.name} may start: 0, or a bit for each reason against it; for some of them where none is told.`,
    name,
    'c',
    body,
    own,
  );
}

/** Statements that make the signature of what stands against a request: equal to `signatureOf` of reasons.ts. */
export function emitSignature(e: Emitter, a: AbilityPlan): string[] {
  const another = e.constant('REASONS_BY_ANOTHER', AGAINST.busy | AGAINST.outranked);
  return [
    'let sign = against;',
    `if (sign & ${another}) sign = (Math.imul(sign, 31) + r[${a.laneAt + L_ABILITY}]) | 0;`,
    ...(a.from === null ? [] : [`if (against & ${said(e, 'from')}) sign = (Math.imul(sign, 31) + r[${STANCE}]) | 0;`]),
    'sign |= 1;',
  ];
}

/** The bit of a reason by its name. */
function said(e: Emitter, reason: keyof typeof AGAINST): string {
  return e.constant(`REASON_${reason.toUpperCase()}`, AGAINST[reason]);
}

/** Its lane is free, or what runs there lets it in, or it breaks in; and nothing that runs bars it. */
function running(e: Emitter, a: AbilityPlan): string[] {
  const { plan } = e;
  const { abilities, phases } = plan;
  const breaks = indexesOf(a.breaks);
  /** What of a lane says a word about this ability: an expression for its abilities, one for its phases. */
  const saying = (word: 'open' | 'bars', lane: number, running: string) => {
    const sayers = e.sayersOf(word, a.index);
    const by = sayers.abilities.filter((index) => abilities[index].laneAt === lane);
    const byPhase = sayers.phases.filter((index) => abilities[phases[index].ability].laneAt === lane);
    return [e.oneOf(running, by, 'ability'), e.oneOf(`r[${lane + L_PHASE}]`, byPhase, 'phase')].filter(
      (text) => text !== 'false',
    );
  };
  const lines: string[] = [];
  const own = ['abilities', a.name];
  const breaksIn = e.oneOf('running', breaks, 'ability');
  const open = bare(saying('open', a.laneAt, 'running').join(' || '));
  const ownPhases = e.sayersOf('open', a.index).phases.filter((index) => phases[index].ability === a.index);
  const again = e.sayersOf('open', a.index).abilities.includes(a.index)
    ? 'true'
    : e.oneOf(`r[${a.laneAt + L_PHASE}]`, ownPhases, 'phase');
  const itself = e.index('ability', a.index);
  const inLane = abilities.filter(({ laneAt, index }) => laneAt === a.laneAt && !breaks.includes(index));
  if (inLane.length === 1 && inLane[0] === a && again === 'false')
    lines.push(e.from(`if (r[${a.laneAt + L_ABILITY}] === ${itself}) against = ${said(e, 'running')};`, ...own));
  else if (inLane.length > 0) {
    const unless = again === 'false' ? '' : ` && !(${bare(again)})`;
    lines.push(
      `const running = r[${a.laneAt + L_ABILITY}];`,
      e.from(`if (running >= 0${breaksIn === 'false' ? '' : ` && ${e.not(breaksIn)}`}) {`, ...own, 'breaks'),
      `  if (running === ${itself}${unless}) against = ${said(e, 'running')};`,
      `  else if (r[${a.laneAt + L_SINCE}] === r[${T}] && !c.asked) against = ${said(e, 'outranked')};`,
      `  else${open === '' ? '' : ` if (!(${open}))`} against = ${said(e, 'busy')};`,
      '}',
    );
  }
  const breakable = breaks.filter((index) => index !== a.index);
  if (breakable.length > 0)
    lines.push(
      e.from(
        `if (${e.use('outranking')}(c, abilities[${a.index}]) >= 0) against |= ${said(e, 'outranked')};`,
        ...own,
        'breaks',
      ),
    );
  if (plan.barred[a.index] === 1)
    for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
      const bars = saying('bars', lane, `r[${lane + L_ABILITY}]`);
      if (bars.length === 0) continue;
      const broken = e.oneOf(
        `r[${lane + L_ABILITY}]`,
        breaks.filter((index) => abilities[index].laneAt === lane),
        'ability',
      );
      const unless = broken === 'false' ? '' : ` && ${e.not(broken)}`;
      lines.push(
        e.from(
          `if (${unless === '' ? bars.join(' || ') : `(${bars.join(' || ')})${unless}`}) against |= ${said(e, 'barred')};`,
          ...own,
        ),
      );
    }
  return lines.length === 0 ? [] : [`if (r[${RUNNING}] > 0) {`, ...lines.map((one) => `  ${one}`), '}'];
}

/** What an operand comes to, as an expression. */
function operandOf(e: Emitter, operand: Operand, path: string): string {
  const text = expressionOf(operand, e.plan.constants);
  return text === undefined ? `(${e.keep(`${path}.run`, 'number')}(c), r[${operand.at}])` : e.known(text);
}
