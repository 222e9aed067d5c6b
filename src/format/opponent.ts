import { checkOpponent, OPPONENT, type Opponent, type OpponentSource } from '../arena/opponent.js';
import type { Plan } from '../compile/plan.js';
import { noNames, read } from '../moveset/read.js';
import { wantPlan, wantText } from '../report/arguments.js';
import { Sink } from '../report/diagnostic.js';
import { place } from './parse.js';
import type { PlacedDiagnostic } from './show.js';
import { YamlFile } from './yaml-file.js';

/**
 * Reads an opponent for a moveset from the text of a YAML or JSON file. Never throws for what is wrong with it.
 * @param text YAML or JSON.
 * @param plan The moveset that it plays.
 * @param file What messages call it.
 */
export function parseOpponent(
  text: string,
  plan: Plan,
  file = 'opponent',
): { opponent?: Opponent; diagnostics: readonly PlacedDiagnostic[] } {
  wantText('parseOpponent', 'the text', text);
  wantPlan('parseOpponent: of its moveset', plan);
  wantText('parseOpponent', 'the name of the file', file);
  const source = fileOf(text, file);
  if (source.diagnostics.length > 0) return { diagnostics: place(source) };
  const { opponent, diagnostics } = checkOpponent(plan, source.data);
  source.add(diagnostics);
  return { ...(opponent && { opponent }), diagnostics: place(source) };
}

/**
 * An opponent as data, for `compileOpponent`: checked as far as that goes without the moveset that it is for. Never throws for what
 * is wrong with it.
 * @internal
 */
export function parseOpponentSource(
  text: string,
  file: string,
): { source?: OpponentSource; diagnostics: readonly PlacedDiagnostic[] } {
  const source = fileOf(text, file);
  const sink = new Sink();
  if (source.diagnostics.length === 0) read(OPPONENT, source.data, [], noNames(), 60, sink, true);
  // How long a tick is, the moveset says.
  source.add(sink.list.filter(({ severity }) => severity === 'error'));
  if (source.diagnostics.length > 0) return { diagnostics: place(source) };
  return { source: source.data as OpponentSource, diagnostics: [] };
}

function fileOf(text: string, file: string): YamlFile {
  return new YamlFile(text, file, 'begin with "loggia: 1" and "acts"');
}
