import { wordDiagnostic } from '../moveset/wording.js';
import { readText } from './read-text.js';
import { type Loaded, parseMoveset } from './text.js';

/** Reads a moveset from a YAML or JSON file. Never throws for what is wrong with the file. */
export async function loadMoveset(file: string): Promise<Loaded> {
  const read = await readText(file);
  if ('text' in read) return parseMoveset(read.text, file);
  return { diagnostics: [{ ...read.fault, file, line: 1, column: 1, sentence: wordDiagnostic(read.fault) }] };
}

export { movesetSchema, toJsonSchema } from './json-schema.js';
export { formatDiagnostic, type Loaded, type PlacedDiagnostic, parseMoveset } from './text.js';
