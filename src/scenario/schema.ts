import { OPPONENT } from '../arena/opponent.js';
import { toJsonSchema, wantNames } from '../format/json-schema.js';
import type { Names } from '../moveset/read.js';
import { SCENARIO } from './shape.js';

/**
 * A JSON Schema (draft 2020-12) of the scenario format, for editors.
 * @param names Names to offer where one is expected. Default: any.
 */
export function scenarioSchema(names?: Names): Record<string, unknown> {
  wantNames('scenarioSchema', names);
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Loggia scenario',
    ...toJsonSchema(SCENARIO, names),
  };
}

/** The same of the format of opponents. */
export function opponentSchema(names?: Names): Record<string, unknown> {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Loggia opponent',
    ...toJsonSchema(OPPONENT, names),
  };
}
