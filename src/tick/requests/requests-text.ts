import type { AbilityPlan, TriggerPlan } from '../../compile/plan.js';
import type { Test } from '../../record/frame.js';
import { AWAKE_BITS } from '../../record/layout.js';
import { A_KNOWN, L_ABILITY, LOADOUT, PENDING, R_COUNT, R_TOLD, R_UNTIL, STANCE, T } from '../../record/slots.js';
import type { Path } from '../../report/diagnostic.js';
import { commentText } from '../../report/words.js';
import { bare, type Emitter, functionOf, indexesOf } from '../../text/emitter.js';
import { bitOf } from '../awake.js';
import { bitsTogether } from '../awake-text.js';
import { emitJudge, Judging } from '../judge/judge-text.js';
import { emitLife } from '../phases/abilities-text.js';

/** Writes how requests are judged, in their order: equal to requests.ts, which does what is called here. */
export function emitRequests(e: Emitter): string {
  const { plan } = e;
  const words = Math.ceil(plan.triggers.length / AWAKE_BITS);
  return [
    ...plan.abilities.flatMap((a) => emitLife(e, a)),
    ...Array.from({ length: words }, (_, word) => judging(e, word)),
    `const starts = [${e.abilityNames.map(({ start }) => start).join(', ')}];`,
    functionOf('Starts what a trigger requests.', 'start', 'c, trigger', ['starts[trigger.ability](c, trigger);']),
  ].join('\n\n');
}

/** Statements that judge the requests of a tick, then tell why some were refused. */
export function emitEvaluation(e: Emitter): string[] {
  const { plan } = e;
  const { awakeAt, triggers } = plan;
  const words = Math.ceil(triggers.length / AWAKE_BITS);
  if (words === 0) return [];
  e.use('refused');
  const lines = ['const from = refused.count;', 'const happened = c.events.count;'];
  // What an end requests is judged in this tick only if something waited before.
  const ends = triggers.some(({ on }) => on === 'ending');
  if (ends) lines.push(`const waits = r[${PENDING}] > 0;`);
  const calls: string[] = [];
  for (let word = 0; word < words; word++) {
    const always = bitsTogether(triggersOf(e, word).filter(isAlways));
    const awake = always === 0 ? `r[${awakeAt + word}]` : `(r[${awakeAt + word}] | ${always})`;
    let which = `c.roster.bits[${word}]`;
    if (ends) {
      lines.push(`const which${word} = waits ? -1 : ${bare(awake)};`);
      which = `${which} & which${word}`;
    }
    const call = `${judgingName(word)}(c, ${which}, from);`;
    calls.push(always === 0 ? `if (r[${awakeAt + word}] !== 0) ${call}` : call);
  }
  return [
    ...lines,
    ...calls,
    `if (refused.count > from) ${e.use('tellRefusals')}(c, from, c.events.count > happened);`,
  ];
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
function judging(e: Emitter, word: number): string {
  const { plan } = e;
  const name = judgingName(word);
  const triggers = triggersOf(e, word);
  const awake = `r[${plan.awakeAt + word}]`;
  const always = bitsTogether(triggers.filter(isAlways));
  const here = new Judging(e, mayVanish(e));
  const blocks = triggers.flatMap((trigger) => {
    const { ability, start } = trigger;
    const a = plan.abilities[ability];
    const origin: Path = ['abilities', a.name, 'start'];
    const body = addsUp(trigger)
      ? waiting(e, trigger, name)
      : trigger.sustained === null
        ? requestedOnce(e, here, trigger, name)
        : requestedLong(e, here, trigger, name);
    return [
      e.from(`// ${a.name}: ${commentText(wordsOf(start))}`, ...origin),
      e.from(`if (asked & ${bitOf(trigger)}) {`, ...origin),
      ...body.map((line) => `  ${line}`),
      '}',
    ];
  });
  return functionOf(
    'Judges what may request, in its order: starts what may start, and notes what may not.',
    name,
    'c, which, from',
    [
      'const { r } = c;',
      `const asked = ${always === 0 ? awake : `(${awake} | ${always})`} & which;`,
      'if (asked === 0) return;',
      ...here.locals(),
      'let asleep = 0;',
      ...blocks,
      `if (asleep !== 0) ${awake} = ${awake} & ~asleep;`,
    ],
  );
}

/** By code or an event: several of them may wait beside each other. */
function waiting(e: Emitter, trigger: TriggerPlan, name: string): string[] {
  const { index, at } = trigger;
  return [
    `if (${e.use('evaluateWaiting')}(c, triggers[${index}], asleep, from)) ${goOn(trigger, name)}`,
    `if (r[${at + R_COUNT}] === 0) asleep |= ${bitOf(trigger)};`,
  ];
}

/** After a start, what comes later is judged by what is so then. */
function goOn(trigger: TriggerPlan, name: string): string {
  return `return ${name}(c, which & ${-2 * bitOf(trigger)}, from);`;
}

/** At a moment, which is kept for its buffer. */
function requestedOnce(e: Emitter, here: Judging, trigger: TriggerPlan, name: string): string[] {
  const { at, index } = trigger;
  return [
    `if (r[${at + R_COUNT}] > 0 && r[${at + R_UNTIL}] >= ${here.now()}) {`,
    ...judged(e, here, trigger, name).map((line) => `  ${line}`),
    '} else {',
    `  asleep |= ${bitOf(trigger)};`,
    // What came too long ago is dropped.
    `  ${e.use('dropRequests')}(r, triggers[${index}]);`,
    '}',
  ];
}

/** As long as something holds. */
function requestedLong(e: Emitter, here: Judging, trigger: TriggerPlan, name: string): string[] {
  const { ability, at, sustained, index, latch, wokenByPress } = trigger;
  const a = e.plan.abilities[ability];
  const runs = `${here.running(a.laneAt)} === ${e.index('ability', ability)}`;
  const sleep = `asleep |= ${bitOf(trigger)};`;
  const holds = e.part(sustained as Test, `triggers[${index}].sustained`);
  return [
    // Of what it has started, nothing is asked until that ends.
    `if (${runs} && r[${at + R_TOLD}] === 0) ${sleep}`,
    e.from(`else if (${e.not(holds)}) {`, 'abilities', a.name, 'start'),
    `  r[${at + R_TOLD}] = 0;`,
    ...(wokenByPress ? [`  ${sleep}`] : []),
    // What is latched may be kept from requesting for one tick only.
    ...(latch ? [`  if (r[${a.latchedAt}] === 0) ${sleep}`] : []),
    `} else if (${e.not(runs)}) {`,
    ...judged(e, here, trigger, name).map((line) => `  ${line}`),
    '}',
  ];
}

/** Judges what a trigger requests. */
function judged(e: Emitter, here: Judging, trigger: TriggerPlan, name: string): string[] {
  const { ability, index } = trigger;
  const a = e.plan.abilities[ability];
  // The same as `signatureOf` of reasons.ts.
  const sign = `${e.use('signOf')}(against, ${here.running(a.laneAt)}, ${a.from === null ? 0 : here.stance()})`;
  const turns = e.plan.waitsTurn[a.lane] === 1;
  const grant = [`${e.use('grantRequest')}(c, triggers[${index}], asleep, from);`, goOn(trigger, name)];
  const granted = turns
    ? [`  if (!${e.use('waitsItsTurn')}(c, triggers[${index}])) {`, ...grant.map((one) => `    ${one}`), '  }']
    : grant.map((one) => `  ${one}`);
  const lines = [
    ...emitJudge(e, here, a),
    'if (against === 0) {',
    ...granted,
    `}${turns ? ' else' : ''}`,
    `if (${here.tells()}) ${e.use('noteRefusal')}(r, triggers[${index}], against, ${sign});`,
  ];
  return here.vanishes ? [`if (${availability(e, a)}) {`, ...lines.map((line) => `  ${line}`), '}'] : lines;
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
function availability(e: Emitter, a: AbilityPlan): string {
  const known = `r[${a.at + A_KNOWN}] === 1`;
  if (a.loadouts === null) return known;
  return `${known} && ${e.oneOf(`r[${LOADOUT}]`, indexesOf(a.loadouts), 'loadout')}`;
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

/** Writes the first stance that holds. */
export function emitStance(e: Emitter): string {
  const { stances } = e.plan;
  const always = stances.findIndex(({ when }) => when === null);
  const last = always < 0 ? stances.length - 1 : always;
  const lines = stances.slice(0, last).map(({ when, name }, i) => {
    const holds = when === null ? 'true' : e.test(when, `stances[${i}].when`);
    return e.from(`if (${holds}) return ${e.index('stance', i)};`, 'stances', name, 'when');
  });
  return functionOf('The first stance that holds.', 'pickStance', 'c', [
    'const { r } = c;',
    ...lines,
    `return ${e.index('stance', last)};`,
  ]);
}

/** Writes in which tick `from` and `when` last held, for abilities with grace: equal to grace.ts. */
export function emitGrace(e: Emitter): string[] {
  const { abilities } = e.plan;
  return abilities.flatMap((a, i) => {
    if (a.eligibleAt < 0) return [];
    const lifting = abilities.flatMap(({ lifts, laneAt, index }) =>
      laneAt === a.laneAt && (lifts || index === i) ? index : [],
    );
    const holds = [
      e.here(i),
      e.not(e.oneOf(`r[${a.laneAt + L_ABILITY}]`, lifting, 'ability')),
      ...(a.from === null ? [] : [e.oneOf(`r[${STANCE}]`, indexesOf(a.from), 'stance')]),
      ...a.when.map(({ test }, k) => e.part(test, `abilities[${i}].when[${k}].test`)),
    ];
    return [e.from(`if (${holds.join(' && ')}) r[${a.eligibleAt}] = r[${T}];`, 'abilities', a.name, 'grace')];
  });
}

/** Writes which latches are undone: equal to `checkLatches`. */
export function emitLatches(e: Emitter): string[] {
  return e.plan.triggers.flatMap(({ latch, unlatch, ability, index }) => {
    if (!latch || unlatch.length === 0) return [];
    const { latchedAt, name } = e.plan.abilities[ability];
    const undone = e.any(unlatch, `triggers[${index}].unlatch`);
    const latched = `known[${e.index('ability', ability)}] === 1 && r[${latchedAt}] !== 0`;
    return [
      e.from(
        `if (${latched} && (${undone})) ${e.use('setLatch')}(c, triggers[${index}], 0);`,
        'abilities',
        name,
        'start',
      ),
    ];
  });
}
