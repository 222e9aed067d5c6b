import { checkOpponent, type Opponent } from '../arena/opponent.js';
import type { Plan } from '../compile/plan.js';
import { wantPlan, wantText } from '../report/arguments.js';
import { place } from './parse.js';
import type { PlacedDiagnostic } from './show.js';
import { YamlFile } from './yaml-file.js';

/** Reads an opponent for a moveset from the text of a YAML or JSON file. Never throws for what is wrong with it. */
export function parseOpponent(
  text: string,
  plan: Plan,
  file = 'opponent',
): { opponent?: Opponent; diagnostics: readonly PlacedDiagnostic[] } {
  wantText('parseOpponent', 'the text', text);
  wantPlan('parseOpponent: of its moveset', plan);
  wantText('parseOpponent', 'the name of the file', file);
  const source = new YamlFile(text, file, 'begin with "loggia: 1" and "acts"');
  if (source.diagnostics.length > 0) return { diagnostics: place(source) };
  const { opponent, diagnostics } = checkOpponent(plan, source.data);
  source.add(diagnostics);
  return { ...(opponent && { opponent }), diagnostics: place(source) };
}
