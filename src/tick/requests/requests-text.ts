import type { AbilityPlan, TriggerPlan } from '../../compile/plan.js';
import {
  all,
  any,
  at,
  Block,
  type Code,
  call,
  equal,
  indexOf,
  item,
  js,
  type Lines,
  library,
  not,
  poolFunction,
  TRUE,
  tight,
  to,
  when,
} from '../../record/code.js';
import type { Test } from '../../record/frame.js';
import { AWAKE_BITS } from '../../record/layout.js';
import { A_KNOWN, L_ABILITY, LOADOUT, PENDING, R_COUNT, R_TOLD, R_UNTIL, STANCE, T } from '../../record/slots.js';
import type { Path } from '../../report/diagnostic.js';
import { commentText } from '../../report/words.js';
import { type Emitter, functionOf, indexesOf } from '../../text/emitter.js';
import { bitOf } from '../awake.js';
import { bitsTogether } from '../awake-text.js';
import { emitJudge, Judging, said } from '../judge/judge-text.js';

/** Writes how requests are judged, in their order: equal to requests.ts, which does what is called here. */
export function emitRequests(e: Emitter): Lines[] {
  const words = Math.ceil(e.plan.triggers.length / AWAKE_BITS);
  return Array.from({ length: words }, (_, word) => judging(e, word));
}

/** Lines that judge the requests of a tick, if any is awake, then tell why some were refused. */
export function emitEvaluation(e: Emitter): Lines {
  const { plan } = e;
  const { awakeAt, triggers } = plan;
  const words = Math.ceil(triggers.length / AWAKE_BITS);
  if (words === 0) return [];
  const refused = library('refused');
  const lines = [js`const from = ${refused}.count;`, js`const happened = c.events.count;`];
  // What an end requests is judged in this tick only if something waited before; what holds is judged in any case.
  const ends = triggers.some(({ on }) => on === 'ending');
  if (ends) lines.push(js`const waits = ${at(PENDING)} > 0;`);
  const calls: Code[] = [];
  const awakes: Code[] = [];
  for (let word = 0; word < words; word++) {
    const always = bitsTogether(triggersOf(e, word).filter(isAlways));
    const awake = at(awakeAt + word);
    awakes.push(always === 0 ? tight(js`${awake} !== 0`) : TRUE);
    let which = js`c.roster.bits[${word}]`;
    if (ends) {
      const holding = bitsTogether(triggersOf(e, word).filter(({ sustained }) => sustained !== null));
      lines.push(js`const which${word} = waits ? -1 : ${holding === 0 ? awake : js`${awake} | ${holding}`};`);
      which = js`${which} & which${word}`;
    }
    const judge = js`${judgingName(word)}(c, ${which}, from);`;
    calls.push(always === 0 && words > 1 ? js`if (${awake} !== 0) ${judge}` : judge);
  }
  const tell = js`if (${refused}.count > from) ${library('tellRefusals')}(c, from, c.events.count > happened);`;
  const judging = [...lines, ...calls, tell];
  const some = any(...awakes);
  return some === TRUE ? judging : [when(some, judging)];
}

/** Whether nothing wakes it: it is looked at in each tick. */
function isAlways({ sustained, latch, wokenByPress }: TriggerPlan): boolean {
  return sustained !== null && !latch && !wokenByPress;
}

/** Whether several occurrences of it wait beside each other: these are judged by the library. */
function addsUp({ on }: TriggerPlan): boolean {
  return on === 'event' || on === 'code';
}

function judgingName(word: number): string {
  return `judgeRequests${word === 0 ? '' : word + 1}`;
}

function triggersOf({ plan }: Emitter, word: number): TriggerPlan[] {
  return plan.triggers.slice(word * AWAKE_BITS, (word + 1) * AWAKE_BITS);
}

/** Judges those triggers that have their bits in one number. */
function judging(e: Emitter, word: number): Lines {
  const { plan } = e;
  const name = judgingName(word);
  const triggers = triggersOf(e, word);
  const awake = plan.awakeAt + word;
  const always = bitsTogether(triggers.filter(isAlways));
  const here = new Judging(e, mayVanish(e));
  const blocks = triggers.flatMap((trigger) => {
    const { ability, start } = trigger;
    const a = plan.abilities[ability];
    const origin: Path = ['abilities', a.name, 'start'];
    const asked = js`asked & ${bitOf(trigger)}`;
    const judge = trigger.sustained === null ? requestedOnce : requestedLong;
    return [
      js`// ${a.name}: ${commentText(wordsOf(start))}`.from(...origin),
      addsUp(trigger)
        ? waiting(asked, trigger, name).from(...origin)
        : new Block([js`if (${asked}) {`.from(...origin), judge(e, here, trigger, name), js`}`]),
    ];
  });
  return functionOf(
    'Judges what may request, in its order: starts what may start, and notes what may not.',
    name,
    'c, which, from',
    [
      js`const { r } = c;`,
      js`const asked = ${always === 0 ? at(awake) : js`(${at(awake)} | ${always})`} & which;`,
      js`if (asked === 0) return;`,
      ...here.locals(),
      ...poolsFirst(e, triggers),
      js`let asleep = 0;`,
      ...blocks,
      js`if (asleep !== 0) ${to(awake)} = ${at(awake)} & ~asleep;`,
    ],
  );
}

/** Lines that bring the pools up to date of which something takes that may request. */
function poolsFirst(e: Emitter, triggers: readonly TriggerPlan[]): Lines {
  return e.plan.pools.flatMap(({ index }) => {
    const takes = ({ ability }: TriggerPlan) => {
      const { costs, upkeeps } = e.plan.abilities[ability];
      return [...costs, ...upkeeps].some(({ pool }) => pool === index);
    };
    const bits = bitsTogether(triggers.filter((trigger) => !addsUp(trigger) && takes(trigger)));
    return bits === 0 ? [] : [js`if (asked & ${bits}) ${poolFunction('update', index)}(r);`];
  });
}

/** By code or an event: several of them may wait beside each other. */
function waiting(asked: Code, trigger: TriggerPlan, name: string): Code {
  const started = call(library('judgeWaiting'), 'c', planned(trigger), 'asleep', 'from');
  return js`if (${asked} && ${started}) ${goOn(trigger, name)}`;
}

const planned = ({ index }: TriggerPlan): Code => item('triggers', index);

/** After a start, what comes later is judged by what is so then. */
function goOn(trigger: TriggerPlan, name: string): Code {
  return js`return ${name}(c, which & ${-2 * bitOf(trigger)}, from);`;
}

/** At a moment, which is kept for its buffer. */
function requestedOnce(e: Emitter, here: Judging, trigger: TriggerPlan, name: string): Lines {
  const { at: slot } = trigger;
  return [
    new Block([
      js`if (${at(slot + R_COUNT)} > 0 && ${at(slot + R_UNTIL)} >= ${here.now()}) {`,
      judged(e, here, trigger, name),
      js`} else {`,
      // What came too long ago is dropped.
      [js`asleep |= ${bitOf(trigger)};`, js`${library('dropRequests')}(r, ${planned(trigger)});`],
      js`}`,
    ]),
  ];
}

/** As long as something holds. */
function requestedLong(e: Emitter, here: Judging, trigger: TriggerPlan, name: string): Lines {
  const { ability, at: slot, sustained, index, latch, wokenByPress } = trigger;
  const a = e.plan.abilities[ability];
  const runs = equal(here.running(a.laneAt), indexOf('ability', ability));
  const sleep = js`asleep |= ${bitOf(trigger)};`;
  const holds = e.test(sustained as Test, `triggers[${index}].sustained`);
  return [
    // Of what it has started, nothing is asked until that ends.
    js`if (${runs} && ${at(slot + R_TOLD)} === 0) ${sleep}`,
    new Block([
      js`else if (${not(holds)}) {`.from('abilities', a.name, 'start'),
      [
        js`${to(slot + R_TOLD)} = 0;`,
        ...(wokenByPress ? [sleep] : []),
        // What is latched may be kept from requesting for one tick only.
        ...(latch ? [js`if (${at(a.latchedAt)} === 0) ${sleep}`] : []),
      ],
      js`} else if (${not(runs)}) {`,
      judged(e, here, trigger, name),
      js`}`,
    ]),
  ];
}

/** Judges what a trigger requests. */
function judged(e: Emitter, here: Judging, trigger: TriggerPlan, name: string): Lines {
  const a = e.plan.abilities[trigger.ability];
  const grant = [js`${library('grantRequest')}(c, ${planned(trigger)}, asleep, from);`, goOn(trigger, name)];
  const inTurn =
    e.plan.waitsTurn[a.lane] === 1
      ? [new Block([js`if (!${library('waitsItsTurn')}(c, ${planned(trigger)})) {`, grant, js`}`])]
      : grant;
  const refuse = js`} else if (${here.tells()}) {`;
  const lines = [
    ...emitJudge(e, here, a),
    new Block([js`if (against === 0) {`, inTurn, refuse, refusal(e, here, trigger), js`}`]),
  ];
  return here.vanishes ? [new Block([js`if (${availability(e, a)}) {`, lines, js`}`])] : lines;
}

/** Notes what is refused, unless it was told already: equal to `signatureOf` and `noteRefusal`, whose calls would take longer. */
function refusal(e: Emitter, here: Judging, { ability, index, at: slot }: TriggerPlan): Lines {
  const { laneAt, from } = e.plan.abilities[ability];
  const by = js`against & (${said('busy')} | ${said('outranked')})`;
  return [
    js`let sign = ${by} ? (Math.imul(against, 31) + ${here.running(laneAt)}) | 0 : against;`,
    ...(from === null ? [] : [js`if (against & ${said('from')}) sign = (Math.imul(sign, 31) + ${here.stance()}) | 0;`]),
    js`sign = (sign << 1) | 1;`,
    js`if (sign !== ${at(slot + R_TOLD)}) ${library('refused')}.add(${index}, against, sign);`,
  ];
}

/** Whether something that starts may change what is known, or in the loadout. */
function mayVanish({ plan }: Emitter): boolean {
  const { loadouts, forgets, stances, abilities, phases } = plan;
  return (
    loadouts.length > 0 ||
    forgets ||
    [...stances, ...abilities, ...phases].some(({ scope }) =>
      [...scope.begins, ...scope.ends].some(({ key }) => key === 'learn'),
    )
  );
}

/** Whether an ability is known, and in the loadout. */
function availability(e: Emitter, a: AbilityPlan): Code {
  const known = equal(at(a.at + A_KNOWN), 1);
  return a.loadouts === null ? known : all(known, e.oneOf(at(LOADOUT), indexesOf(a.loadouts), 'loadout'));
}

/** A way to start as the moveset says it. */
function wordsOf(start: unknown): string {
  if (Array.isArray(start)) return `[${start.map(wordsOf).join(', ')}]`;
  if (typeof start !== 'object' || start === null) return String(start);
  if ('source' in start) return String(start.source);
  return Object.entries(start)
    .map(([key, value]) => `${key}: ${wordsOf(value)}`)
    .join(', ');
}

/** Lines that find the first stance that holds: what is to be done with each but the last, and the last. */
function firstStance(e: Emitter, found: (test: Code, stance: Code, isFirst: boolean) => Code): [Lines, last: Code] {
  const { stances } = e.plan;
  const always = stances.findIndex(({ when }) => when === null);
  const last = always < 0 ? stances.length - 1 : always;
  const lines = stances.slice(0, last).map(({ when, name }, i) => {
    const test = e.test(when as Test, `stances[${i}].when`);
    return found(test, indexOf('stance', i), i === 0).from('stances', name, 'when');
  });
  return [lines, indexOf('stance', last)];
}

/** Writes the first stance that holds. */
export function emitStance(e: Emitter): Lines {
  const [lines, last] = firstStance(e, (test, stance) => js`if (${test}) return ${stance};`);
  return functionOf('The first stance that holds.', 'pickStance', 'c', [
    js`const { r } = c;`,
    ...lines,
    js`return ${last};`,
  ]);
}

/** Lines that make it `stance`: in a tick, a call takes longer than what it asks. */
export function emitStanceNow(e: Emitter): Lines {
  const [lines, last] = firstStance(
    e,
    (test, stance, isFirst) => js`${isFirst ? '' : 'else '}if (${test}) stance = ${stance};`,
  );
  return [js`${lines.length > 0 ? 'let' : 'const'} stance = ${last};`, ...lines];
}

/** Writes in which tick `from` and `when` last held, for abilities with grace: equal to grace.ts. */
export function emitGrace(e: Emitter): Lines {
  const { abilities } = e.plan;
  return abilities.flatMap((a, i) => {
    if (a.eligibleAt < 0) return [];
    const lifting = abilities.flatMap(({ lifts, laneAt, index }) =>
      laneAt === a.laneAt && (lifts || index === i) ? index : [],
    );
    const holds = all(
      ...(a.from === null ? [] : [e.oneOf(at(STANCE), indexesOf(a.from), 'stance')]),
      not(e.oneOf(at(a.laneAt + L_ABILITY), lifting, 'ability')),
      e.here(i),
      ...a.when.map(({ test }, k) => e.test(test, `abilities[${i}].when[${k}].test`)),
    );
    return js`if (${holds}) ${to(a.eligibleAt)} = ${at(T)};`.from('abilities', a.name, 'grace');
  });
}

/** Writes which latches are undone: equal to `checkLatches`. */
export function emitLatches(e: Emitter): Lines {
  return e.plan.triggers.flatMap((trigger) => {
    const { latch, unlatch, ability, index } = trigger;
    if (!latch || unlatch.length === 0) return [];
    const { latchedAt, name } = e.plan.abilities[ability];
    const undone = all(
      equal(js`known[${indexOf('ability', ability)}]`, 1),
      tight(js`${at(latchedAt)} !== 0`),
      e.any(unlatch, `triggers[${index}].unlatch`),
    );
    return js`if (${undone}) ${library('setLatch')}(c, ${planned(trigger)}, 0);`.from('abilities', name, 'start');
  });
}
