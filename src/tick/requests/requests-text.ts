import { isBreaker } from '../../compile/breakers.js';
import type { AbilityPlan, TriggerPlan } from '../../compile/plan.js';
import { A_KNOWN, L_ABILITY, LOADOUT, PENDING, R_COUNT, R_TOLD, STANCE, T } from '../../record/slots.js';
import type { Path } from '../../report/diagnostic.js';
import { commentText } from '../../report/words.js';
import { type Emitter, functionOf, indexesOf } from '../../text/emitter.js';
import { emitJudge, emitSignature } from '../judge/judge-text.js';
import { emitLife } from '../phases/abilities-text.js';

/** Writes how requests are judged, in their order: equal to requests.ts. */
export function emitRequests(e: Emitter): string {
  const { plan } = e;
  const judges = plan.abilities.map((a) => e.functionName('judge', a.name));
  const requests = plan.abilities.map((a) => e.functionName('request', a.name));
  const functions = plan.abilities.flatMap((a, i) => [
    emitJudge(e, a, judges[i]),
    functionOf(
      `Starts ${a.name} if it may, and notes what stands against it if not.`,
      requests[i],
      'c, trigger',
      [
        'const { r } = c;',
        `if (${e.not(availability(e, a))}) return;`,
        `const against = ${judges[i]}(c);`,
        'if (against === 0) {',
        `  ${e.use('usePress')}(c, trigger);`,
        `  ${e.abilityNames[a.index].start}(c, trigger);`,
        '} else if (c.tellsRefusals) {',
        ...emitSignature(e, a).map((one) => `  ${one}`),
        `  if (sign !== r[trigger.at + ${R_TOLD}]) ${e.use('noteRefusal')}(c, trigger, against, sign);`,
        '}',
      ],
      ['abilities', a.name],
    ),
    ...emitLife(e, a),
  ]);
  const body: string[] = [];
  plan.triggers.forEach((trigger, i) => {
    const waits = trigger.sustained === null;
    // Of neighbours that wait for a moment, it is asked once whether any has come.
    if (waits && plan.triggers[i - 1]?.sustained !== null) body.push('if (pending) {');
    const lines = evaluation(e, trigger, requests[trigger.ability]);
    body.push(...(waits ? lines.map((one) => `  ${one}`) : lines));
    if (waits && plan.triggers[i + 1]?.sustained !== null) body.push('}');
  });
  const breakers = plan.triggers.filter((trigger) => isBreaker(plan, trigger));
  if (breakers.length > 0)
    functions.push(
      functionOf('What messages start that breaks what runs, before phases go on.', 'evaluateInterruptions', 'c', [
        'const { r } = c;',
        'const { here } = c.roster;',
        ...breakers.map(({ ability, index, at }) => {
          const { name } = plan.abilities[ability];
          const start = `(c, a, trigger) => ${e.abilityNames[ability].start}(c, trigger)`;
          const interrupt = `${e.use('interruptBy')}(c, triggers[${index}], judge, ${e.keep(start, 'start')});`;
          return e.from(`if (r[${at + R_COUNT}] > 0 && ${e.here(ability)}) ${interrupt}`, 'abilities', name, 'start');
        }),
      ]),
    );
  e.use('refused');
  e.use('tellRefusals');
  functions.push(
    functionOf('Judges all requests in their order, then tells why some were refused.', 'evaluateRequests', 'c', [
      'const { r } = c;',
      'const { here } = c.roster;',
      `const pending = r[${PENDING}] > 0;`,
      'const from = refused.count;',
      ...body,
      'if (refused.count > from) tellRefusals(c, from);',
    ]),
  );
  functions.push(
    `const judges = [${judges.join(', ')}];`,
    functionOf('Whether an ability may start now: 0, or a bit for each reason against it.', 'judge', 'c, ability', [
      `return ${e.use('judgeWith')}(judges, c, ability);`,
    ]),
  );
  return functions.join('\n\n');
}

/** Whether an ability is known, and in the loadout. */
function availability(e: Emitter, a: AbilityPlan): string {
  const known = `r[${a.at + A_KNOWN}] === 1`;
  if (a.loadouts === null) return known;
  return `${known} && ${e.oneOf(`r[${LOADOUT}]`, indexesOf(a.loadouts), 'loadout')}`;
}

/** Whether several occurrences of it wait beside each other. */
function addsUp({ on }: TriggerPlan): boolean {
  return on === 'event' || on === 'code';
}

function evaluation(e: Emitter, trigger: TriggerPlan, request: string): string[] {
  const { index, ability, at, sustained, start } = trigger;
  const a = e.plan.abilities[ability];
  const origin: Path = ['abilities', a.name, 'start'];
  const here = e.here(ability);
  const lines = [e.from(`// ${a.name}: ${commentText(wordsOf(start))}`, ...origin)];
  if (sustained === null) {
    const waits = `r[${at + R_COUNT}] > 0 && ${here}`;
    if (addsUp(trigger)) {
      const judge = `${e.use('evaluateWaiting')}(c, triggers[${index}], ${request});`;
      return [...lines, e.from(`if (${waits}) ${judge}`, ...origin)];
    }
    const still = `${e.use('stillWaits')}(r, ${e.constant(`TRIGGER_${index}_AT`, at)})`;
    return [...lines, e.from(`if (${waits} && ${still}) ${request}(c, triggers[${index}]);`, ...origin)];
  }
  return [
    ...lines,
    // Of what it has started, nothing is asked.
    `if (${here} && (r[${a.laneAt + L_ABILITY}] !== ${ability} || r[${at + R_TOLD}] !== 0)) {`,
    e.from(`  if (${e.test(sustained, `triggers[${index}].sustained`)}) {`, ...origin),
    `    if (r[${a.laneAt + L_ABILITY}] !== ${ability}) ${request}(c, triggers[${index}]);`,
    `  } else r[${at + R_TOLD}] = 0;`,
    '}',
  ];
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
