import type { Test } from '../moveset/effects/effect.js';
import type { Names, WrittenFormula } from '../moveset/read.js';
import { A_LATCHED, ABILITY, BUTTON, STICK } from '../moveset/slots.js';
import { STARTS } from '../moveset/starts/index.js';
import type { AskPiece, StartTools } from '../moveset/starts/start.js';
import { parseTime } from '../moveset/time.js';
import type { Layout } from './layout.js';
import type { Ask } from './plan.js';
import { restless } from './tests.js';

type Written = Record<string, any>;

/** How many asks and sequences there are, for the layout: each ability can also be asked for by code. */
export function countAsks(abilities: Written): { asks: number; sequences: number } {
  const starts: Written[] = Object.values(abilities).flatMap((a) => startsOf(a));
  const byCode = starts.filter((start) => start.code !== undefined).length;
  return {
    asks: starts.length + Object.keys(abilities).length - byCode,
    sequences: starts.filter((start) => start.sequence).length,
  };
}

/** Every way in which each ability may be asked for, in the order in which they are heard. */
export function compileAsks(
  written: Written,
  names: Names,
  layout: Layout,
  rate: number,
  truth: (ability: string, written: WrittenFormula | undefined) => Test,
): Ask[] {
  const view = written.view ?? 'side';
  const walking = Math.max(0, names.stick.indexOf(written.body?.stick));
  let memory = layout.memory;
  const compileStart = (name: string, ability: number, start: Written): AskPiece[] => {
    const tools: StartTools = {
      buttonAt: (input) => layout.buttons + names.button.indexOf(input) * BUTTON,
      stickAt: () => (names.stick.length === 0 ? -1 : layout.sticks + walking * STICK),
      sidesAt: () => layout.buttons + names.button.indexOf(`${names.stick[walking]}.left`) * BUTTON,
      eventAt: (event) => layout.events + names.event.indexOf(event),
      memory: () => {
        memory += 2;
        return memory - 2;
      },
      latchAt: layout.abilities + ability * ABILITY + A_LATCHED,
      requestAt: layout.requests + ability,
      ticks: (time) => Math.round(parseTime(time, rate) ?? 0),
      view,
      truth: (w) => truth(name, w),
    };
    const kind = STARTS.find(({ key }) => start[key] !== undefined);
    return kind ? [kind.compile(start as never, tools)] : [];
  };
  const asks = names.ability.flatMap((name, ability) => {
    const a: Written = written.abilities[name] ?? {};
    const starts = startsOf(a);
    if (!starts.some((start) => start.code !== undefined)) starts.push({ code: 'only' });
    return starts
      .flatMap((start) => compileStart(name, ability, start).map((piece) => ({ start, piece })))
      .map(({ start, piece }) => ({
        sign: JSON.stringify(start),
        byCode: start.code !== undefined,
        moment: piece.moment ?? null,
        ability,
        abilityAt: layout.abilities + ability * ABILITY,
        at: -1,
        turn: piece.turn,
        rank: piece.rank,
        happens: piece.happens ?? null,
        stands: piece.stands ?? null,
        button: piece.button ?? -1,
        input: piece.input ?? null,
        buffer: a.buffer ?? (piece.input && written.inputs?.[piece.input]?.buffer) ?? 0,
        latch: piece.latch ?? false,
        unlatch: piece.unlatch ?? [],
        restless: restless(piece.unlatch ?? []),
      }));
  });
  return asks
    .sort((a, b) => a.turn - b.turn || b.rank - a.rank || a.ability - b.ability)
    .map((ask, i) => ({ ...ask, at: layout.asks + i }));
}

function startsOf(ability: Written | undefined): Written[] {
  const { start } = ability ?? {};
  return (Array.isArray(start) ? start : [start]).filter((one) => one !== undefined);
}
