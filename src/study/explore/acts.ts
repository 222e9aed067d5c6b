import type { Character } from '../../character/character.js';
import type { Plan } from '../../compile/plan.js';
import type { MessageInput } from '../../tick/presses/values.js';
import { keyAt } from '../../tick/take-in/devices.js';

/** What is done with the devices for a while: everything that it does not name is let go. */
export interface Act {
  /** How many steps that lasts. */
  readonly steps: number;
  /** Buttons that are down; with `tap`, for one tick only. */
  readonly buttons: readonly string[];
  readonly tap: boolean;
  /** Where the stick is pushed. */
  readonly stick: readonly [x: number, y: number];
  /** What code does as the step begins. */
  readonly event?: string;
  readonly request?: string;
  readonly loadout?: string;
}

const REST = [0, 0] as const;
const WAYS: readonly (readonly [number, number])[] = [REST, [1, 0], [-1, 0], [0, 1], [0, -1]];

/** Buttons that are no sides of sticks. */
export function buttonsOf({ names, stickOf }: Plan): string[] {
  return names.button.filter((_, i) => stickOf[i] < 0);
}

/** Everything that a player, and code, can do in a step. */
export function actsOf(plan: Plan): Act[] {
  const { names } = plan;
  const buttons = buttonsOf(plan);
  const ways = names.stick.length > 0 ? WAYS : [REST];
  const one = { steps: 1, buttons: [], tap: false, stick: REST };
  const acts: Act[] = ways.map((stick) => ({ ...one, stick }));
  // Until something is over, and until what is held or charged is full.
  for (const stick of ways.slice(0, 3)) acts.push({ ...one, stick, steps: SOME });
  const steps = longestHold(plan);
  for (const button of buttons) acts.push({ ...one, buttons: [button], steps });
  for (const button of buttons)
    for (const stick of ways)
      for (const tap of [true, false]) {
        // A button held while a stick is pushed is a step after it was tapped like that.
        if (!tap && stick !== REST && stick[1] !== 0) continue;
        acts.push({ ...one, buttons: [button], tap, stick });
      }
  for (const { wants, input } of plan.triggers)
    if (wants?.with && input) acts.push({ ...one, buttons: [wants.with, input] });
  // What is held, with each other button besides.
  const held = new Set(
    plan.triggers.flatMap(({ kind, input }) => (kind === 'hold' && input && buttons.includes(input) ? input : [])),
  );
  for (const first of held)
    for (const second of buttons) if (first !== second) acts.push({ ...one, buttons: [first, second] });
  for (const event of names.event) acts.push({ ...one, event });
  for (const { name, triggers } of plan.abilities)
    if (triggers.every(({ byCode }) => byCode)) acts.push({ ...one, request: name });
  for (const loadout of names.loadout) acts.push({ ...one, loadout });
  return acts;
}

/** Steps of a tenth of a second that let most things end. */
const SOME = 5;
/** Longest time that a button is held at once, in steps. */
const MOST = 20;

/** As many steps as the longest hold or charge of the moveset takes. */
function longestHold({ triggers, phases, rate }: Plan): number {
  const ticks = [
    ...triggers.map(({ wants }) => wants?.held ?? 0),
    ...phases.map(({ charge }) => (charge && charge.over < rate * 10 ? charge.over : 0)),
  ];
  return Math.min(MOST, Math.max(SOME, Math.ceil((Math.max(0, ...ticks) / rate) * 10) + 1));
}

/** Values that an event carries when it is tried. */
export function valuesFor(plan: Plan, event: string): Record<string, MessageInput> {
  const message = plan.messages[plan.names.event.indexOf(event)];
  return Object.fromEntries(
    message.values.map(({ name, type, words }): [string, MessageInput] => [
      name,
      type === 'number'
        ? 1
        : type === 'time'
          ? '0.25s'
          : type === 'point'
            ? [0, 1, 0]
            : type === 'direction'
              ? [1, 0, 0]
              : (words[0] ?? ''),
    ]),
  );
}

/** Does the first tick of a step. */
export function begin(c: Character, act: Act): void {
  const { plan, door } = c;
  const [stick] = plan.names.stick;
  if (stick !== undefined) door.stick(stick, act.stick[0], act.stick[1]);
  const { button: names } = plan.names;
  for (let i = 0; i < names.length; i++)
    if (c.r[keyAt(plan, i)] > 0 && plan.stickOf[i] < 0 && (act.tap || !act.buttons.includes(names[i])))
      door.release(names[i]);
  for (const button of act.buttons) door.press(button);
  if (act.event !== undefined) door.event(act.event, valuesFor(plan, act.event));
  if (act.request !== undefined) door.request(act.request);
  if (act.loadout !== undefined) door.loadout(act.loadout);
}

/** What comes after its first tick. */
export function goOn(c: Character, act: Act): void {
  if (act.tap) for (const button of act.buttons) c.door.release(button);
}

/** Rows of a scenario that do the same, step by step. */
export function rowsOf(plan: Plan, acts: readonly Act[], step: number, from: number): Record<string, unknown>[] {
  const rows: Record<string, unknown>[] = [];
  const [stick] = plan.names.stick;
  let down: readonly string[] = [];
  let pushed = '0,0';
  let tick = from;
  for (const act of acts) {
    const at = `${tick}f`;
    tick += act.steps * step;
    if (stick !== undefined && act.stick.join() !== pushed) {
      pushed = act.stick.join();
      rows.push({ at, stick: { [stick]: [...act.stick] } });
    }
    const lifted = down.filter((button) => act.tap || !act.buttons.includes(button));
    if (lifted.length > 0) rows.push({ at, release: lifted });
    const fresh = act.buttons.filter((button) => !down.includes(button) || act.tap);
    if (fresh.length > 0) rows.push({ at, [act.tap ? 'tap' : 'press']: fresh });
    down = act.tap ? [] : act.buttons;
    if (act.event !== undefined) {
      const values = valuesFor(plan, act.event);
      rows.push({ at, event: Object.keys(values).length > 0 ? { [act.event]: values } : act.event });
    }
    if (act.request !== undefined) rows.push({ at, request: act.request });
    if (act.loadout !== undefined) rows.push({ at, loadout: act.loadout });
  }
  return rows;
}

/** How many steps some acts take. */
export function stepsOf(acts: readonly Act[]): number {
  return acts.reduce((sum, { steps }) => sum + steps, 0);
}
