import type { Plan } from '../compile/plan.js';
import type { NameTypes } from '../moveset/types.js';
import { A_KNOWN, B_PRESSED, B_RELEASED, BUTTON, LOADOUT, T } from '../record/slots.js';
import type { LoggiaEvent } from '../report/events.js';
import type { Reason } from '../report/reasons.js';
import { isAvailable } from '../tick/roster.js';

/** What became of the press or the release of an input. */
export interface Answer<N extends NameTypes = NameTypes> {
  readonly input: N['input'];
  /** The ability that it started, or null. */
  readonly started: N['ability'] | null;
  /** Where it started nothing: the ability that was most likely meant; else null. */
  readonly refused: N['ability'] | null;
  /** The one reason to show why that may not start, or null. */
  readonly reason: Reason | null;
  /** For how many seconds yet the press is kept: it may start something after all, and is answered once more then. */
  readonly kept: number;
}

/** Main reasons of what was hardly meant, the least likely first. What is refused for other reasons was meant. */
const UNLIKELY: readonly Reason['code'][] = ['locked', 'loadout', 'follows', 'from', 'when', 'running', 'outranked'];

/** One answer for each press and release of the tick that something listens to, in the order of its events. */
export function answersOf(plan: Plan, r: Float64Array, events: readonly LoggiaEvent[]): Answer[] {
  const answers = new Map<string, Answer>();
  const likelihood = ({ reason }: Answer) => {
    const at = reason ? UNLIKELY.indexOf(reason.code) : -1;
    return at < 0 ? UNLIKELY.length : at;
  };
  for (const event of events) {
    if (event.kind !== 'started' && event.kind !== 'refused') continue;
    const { input, ability } = event;
    if (input === null) continue;
    const known = answers.get(input);
    if (event.kind === 'started') answers.set(input, { input, started: ability, refused: null, reason: null, kept: 0 });
    else if (isFresh(plan, r, input)) {
      const answer = { input, started: null, refused: ability, reason: event.main, kept: event.kept };
      if (!known || (known.started === null && likelihood(answer) > likelihood(known))) answers.set(input, answer);
    }
  }
  plan.names.button.forEach((input, i) => {
    if (r[plan.layout.buttons + i * BUTTON + B_PRESSED] !== r[T]) return;
    const answer = unheard(plan, r, input);
    if (answer) answers.set(input, answer);
  });
  return [...answers.values()];
}

/** Whether a button was pressed or released in this tick. */
function isFresh({ names, layout }: Plan, r: Float64Array, input: string): boolean {
  const at = layout.buttons + names.button.indexOf(input) * BUTTON;
  return r[at + B_PRESSED] === r[T] || r[at + B_RELEASED] === r[T];
}

/** A press that nothing hears, because all that would is not learnt or not in the loadout: that is not told as a refusal. */
function unheard({ names, triggers, abilities }: Plan, r: Float64Array, input: string): Answer | undefined {
  const listening = triggers.filter((trigger) => trigger.input === input);
  if (listening.length === 0 || listening.some(({ ability }) => isAvailable(r, abilities[ability]))) return undefined;
  const learnt = listening.find(({ ability }) => r[abilities[ability].at + A_KNOWN] === 1);
  const refused = names.ability[(learnt ?? listening[0]).ability];
  const reason: Reason = learnt ? { code: 'loadout', active: names.loadout[r[LOADOUT]] ?? null } : { code: 'locked' };
  return { input, started: null, refused, reason, kept: 0 };
}
