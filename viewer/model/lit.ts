import { originOf } from '../../src/compile/origin.js';
import { L_ABILITY, L_DUE, L_PHASE, L_PHASE_SINCE, LANE, NEVER, T } from '../../src/record/slots.js';
import type { Seen } from '../../src/recording/moment.js';
import type { Why } from '../../src/recording/why.js';
import { type Formula, formulasIn, shown, wordFormula } from './formulas.js';

/** What is said of a line of a moveset, for one moment. */
export interface LineNote {
  readonly file: string;
  /** From 1 on. */
  readonly line: number;
  /** It is what is active, how far a phase is, what stood against something, or what a formula is. */
  readonly kind: 'active' | 'phase' | 'against' | 'value';
  /** Said at its end. */
  readonly text: string;
  /** How far a phase is, from 0 to 1. */
  readonly part?: number;
}

/**
 * The lines of what is active now, of what stood against an ability, and of formulas: named conditions, and those of what runs and of what was chosen.
 * @param look Shows whom it is about: again, once formulas are known.
 */
export function notesOf(look: () => Seen | undefined, why: Why | null, chosen: string | null): LineNote[] {
  const formulas = formulasNow(look(), chosen);
  const one = look();
  if (!one) return [];
  const { plan } = one;
  const { r } = one.c;
  const { placeOf } = originOf(plan);
  const notes: LineNote[] = [];
  if (!placeOf) return notes;
  // What is said of one line in one way stands there once.
  const put = ({ text, ...note }: LineNote) => {
    const same = notes.findIndex(
      ({ file, line, kind }) => file === note.file && line === note.line && kind === note.kind,
    );
    if (same < 0) notes.push({ ...note, text });
    else if (text !== '')
      notes[same] = { ...notes[same], ...note, text: notes[same].text === '' ? text : `${notes[same].text}; ${text}` };
  };
  const add = (path: readonly (string | number)[], kind: LineNote['kind'], text: string, part?: number) => {
    const place = placeOf([...path]);
    if (place) put({ file: place.file, line: place.line, kind, text, ...(part !== undefined && { part }) });
  };
  add(['stances', one.readout.stance], 'active', 'this stance');
  const { loadout } = one.readout;
  if (loadout !== null) add(['loadouts', loadout], 'active', 'this loadout');
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const ability = plan.abilities[r[lane + L_ABILITY]];
    if (!ability) continue;
    const phase = r[lane + L_PHASE];
    const passed = r[T] - r[lane + L_PHASE_SINCE];
    const due = r[lane + L_DUE];
    const lasts = due >= NEVER ? 0 : due - r[lane + L_PHASE_SINCE];
    add(['abilities', ability.name], 'active', `${ability.name} runs`);
    if (phase < 0) continue;
    const { name } = plan.phases[phase];
    const far = lasts > 0 ? Math.min(1, (passed + 1) / lasts) : undefined;
    const said = far === undefined ? `${name}, ${passed + 1}f` : `${name} ${passed + 1} of ${lasts}f`;
    add(['abilities', ability.name, 'phases', phase - ability.firstPhase], 'phase', said, far);
  }
  for (const { text, place, operands } of why?.reasons ?? []) {
    if (!place) continue;
    const values = operands.filter((one) => !text.includes(one.text)).map((one) => `${one.text} ${shown(one.value)}`);
    put({ file: place.file, line: place.line, kind: 'against', text: [text, ...values].join(', ') });
  }
  for (const formula of formulas) {
    const { file, line } = formula;
    if (notes.some((note) => note.kind === 'against' && note.file === file && note.line === line)) continue;
    put({ file, line, kind: 'value', text: wordFormula(one, formula) });
  }
  return notes;
}

function formulasNow(one: Seen | undefined, chosen: string | null): readonly Formula[] {
  if (!one) return [];
  const { plan, readout } = one;
  const running = plan.names.lane.flatMap((lane) => readout.ability(lane) ?? []);
  return [
    ...formulasIn(plan, ['conditions']),
    ...formulasIn(plan, ['stances', readout.stance]),
    ...[...new Set([...running, ...(chosen === null ? [] : [chosen])])].flatMap((name) =>
      formulasIn(plan, ['abilities', name]),
    ),
  ];
}
