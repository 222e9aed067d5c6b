import type { ParsedFormula } from '../moveset/formula.js';
import type { Names } from '../moveset/read.js';
import type { ParsedAbility, ParsedMoveset, ParsedStart } from '../moveset/schema.js';
import { STARTS } from '../moveset/starts/index.js';
import type { StartKind, StartTools } from '../moveset/starts/start.js';
import { parseTime } from '../moveset/time.js';
import type { Test } from '../record/frame.js';
import type { Layout } from '../record/layout.js';
import type { Making } from '../record/recipes.js';
import { A_BROKEN, BUTTON, STICK, TRIGGER } from '../record/slots.js';
import type { TriggerPlan } from './plan.js';

/** One way in which one ability is requested, as the moveset says it. */
export interface AbilityStart {
  readonly ability: number;
  readonly kind: StartKind;
  readonly start: ParsedStart;
}

/** All ways to start, in the order of the abilities; each can also be requested by code. */
export function collectStarts(abilities: readonly (ParsedAbility | undefined)[]): AbilityStart[] {
  return abilities.flatMap((a, ability) => {
    const starts = [a?.start].flat().filter((start) => start !== undefined);
    if (!starts.some((start) => start.code !== undefined)) starts.push({ code: 'only' });
    return starts.flatMap((start) => {
      const kind = STARTS.find(({ key }) => start[key] !== undefined);
      return kind ? [{ ability, kind, start }] : [];
    });
  });
}

export interface TriggerTools {
  readonly parsed: ParsedMoveset;
  readonly names: Names;
  readonly layout: Layout;
  readonly rate: number;
  indexOf(kind: keyof Names, name: string | undefined): number;
  truth(ability: number, parsed: ParsedFormula | undefined): Test;
  readonly making: Making;
  /** By ability: 1 for those that it breaks. */
  readonly breaks: readonly (Uint8Array | null)[];
}

/** Compiles all ways to start and puts them in the order in which their requests are judged. */
export function compileTriggers(starts: readonly AbilityStart[], tools: TriggerTools): TriggerPlan[] {
  const { parsed, names, layout, rate, indexOf, truth, breaks, making } = tools;
  const walking = Math.max(0, indexOf('stick', parsed.body?.stick));
  const buttonAt = (input: string) => layout.buttons + indexOf('button', input) * BUTTON;
  const triggers = starts.map(({ ability, kind, start }, i): TriggerPlan => {
    const a: ParsedAbility = parsed.abilities?.[names.ability[ability]] ?? {};
    const piece = making.make(
      `${kind.key}Start.compile`,
      [start],
      {
        buttonAt,
        stickAt: () => (names.stick.length === 0 ? -1 : layout.sticks + walking * STICK),
        sidesAt: () => buttonAt(`${names.stick[walking]}.left`),
        eventIndex: (event) => indexOf('event', event),
        abilityIndex: (other) => indexOf('ability', other),
        own: layout.triggerOwn[i],
        latchAt: layout.abilities[ability].latched,
        brokenAt: layout.abilities[ability].at + A_BROKEN,
        user: ability + 1,
        ticks: (time) => Math.round(parseTime(time, rate) ?? 0),
        view: parsed.view ?? 'side',
        truth: (formula) => truth(ability, formula),
      } satisfies StartTools,
      (given) => kind.compile(start as never, given),
    );
    return {
      index: -1,
      ability,
      at: layout.triggers + i * TRIGGER,
      own: layout.triggerOwn[i],
      rank: piece.rank,
      on: piece.on ?? null,
      happens: piece.happens ?? null,
      sustained: piece.sustained ?? null,
      button: piece.button ?? -1,
      input: piece.input ?? null,
      event: piece.event ?? -1,
      after: piece.after ?? -1,
      kind: kind.key,
      wants: piece.wants ?? null,
      start,
      sign: JSON.stringify(start),
      byCode: kind.key === 'code',
      // An ability may end while requests are judged, too late for what comes before it in their order.
      buffer: a.buffer ?? parsed.inputs?.[piece.input ?? '']?.buffer ?? (piece.on === 'ending' ? 1 : 0),
      latch: piece.latch ?? false,
      unlatch: piece.unlatch ?? [],
      keepsFacing: piece.keepsFacing ?? false,
      wokenByPress: piece.wokenByPress ?? false,
    };
  });
  const levels = breakingLevels(breaks);
  return triggers
    .sort((a, b) => levels[b.ability] - levels[a.ability] || b.rank - a.rank || a.ability - b.ability)
    .map((trigger, index) => ({ ...trigger, index }));
}

/**
 * How many abilities stand below each by breaking: what breaks another goes first, what breaks nothing is at 0. Where
 * abilities break each other in a circle, the one declared first goes first.
 */
function breakingLevels(breaks: readonly (Uint8Array | null)[]): number[] {
  const levels = breaks.map(() => -1);
  const breakers = breaks.flatMap((mask, i) => (mask ? [i] : []));
  const levelOf = (ability: number): number => {
    if (levels[ability] >= 0) return levels[ability];
    levels[ability] = 0;
    const mask = breaks[ability];
    if (!mask) return 0;
    let below = 0;
    for (const other of breakers) if (other !== ability && mask[other] === 1) below = Math.max(below, levelOf(other));
    levels[ability] = below + 1;
    return levels[ability];
  };
  for (let i = 0; i < breaks.length; i++) levelOf(i);
  return levels;
}
