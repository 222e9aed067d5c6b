import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect, test } from 'vitest';
import { movesetSchema } from '../../src/format/index.js';
import { checkMoveset, type Diagnostic } from '../../src/index.js';
import { forRandom, MOVESETS } from '../random/for-random.js';
import { makeSource } from '../random/moveset.js';
import { spoil } from '../random/spoil.js';

/** Faults that no schema sees: names, formulas, and what several parts must be together. */
function isBeyondSchema({ code, path, params }: Diagnostic, source: unknown): boolean {
  const value = path.reduce<any>((part, key) => part?.[key], source);
  // What an event carries, its declaration says.
  const within = path.indexOf('emit') >= 0 && path.indexOf('emit') < path.length - 2;
  if (within && (code === 'unknown-name' || code === 'bad-time')) return true;
  if (within && code === 'wrong-type' && typeof value === 'number') return true;
  // A map changes the list that what it is like has: whether that has one, no schema knows.
  const owner = path.slice(0, -1).reduce<any>((part, key) => part?.[key], source);
  if (code === 'wrong-type' && path.at(-1) === 'phases' && owner?.like !== undefined && params.found === 'a map')
    return true;
  // A distance needs a time elsewhere, and no speed beside it.
  if (params.title === 'what goes a distance' || (code === 'pointless-key' && params.key === 'distance')) return true;
  if (code === 'unknown-name') return !['word', 'key or button', 'warning', 'ending'].includes(String(params.what));
  if (code === 'out-of-range' && typeof value === 'string') return !/^[\d.]+%$/.test(value);
  if (code === 'out-of-range') return path[0] === 'pools' && Math.abs(value) <= 1e6;
  // Times that round to nothing at this rate.
  if (code === 'time-range') return /[1-9]/.test(value) && Number.parseFloat(value) < 3600;
  return (
    code.startsWith('formula-') ||
    [
      'name-clash',
      'never-ends',
      'stance-last',
      'stance-unreachable',
      'condition-cycle',
      'probe-cycle',
      'beat-place',
      'like-cycle',
      'is-part',
    ].includes(code)
  );
}

test('loader and schema agree on random movesets, sound and spoiled', () => {
  const validate = new Ajv2020({ strict: false }).compile(movesetSchema());
  let refused = 0;
  forRandom(MOVESETS, (random) => {
    const source = JSON.parse(JSON.stringify(makeSource(random, { functions: false })));
    for (let i = random.whole(0, 2); i > 0; i--) spoil(random, source);
    const { diagnostics } = checkMoveset(source);
    const errors = diagnostics.filter((d) => d.severity === 'error');
    const told = errors.filter((d) => !isBeyondSchema(d, source));
    if (told.length > 0) refused++;
    // What is like another may say a part only, which editors do not know.
    const isPartial = ({ instancePath }: { instancePath: string }) => {
      const [, room, name] = instancePath.split('/');
      return source[room]?.[name]?.like !== undefined;
    };
    const strict = validate(source) || (told.length === 0 && (validate.errors ?? []).every(isPartial));
    const agrees = strict === (told.length === 0);
    if (!agrees) expect({ loader: told, schema: validate.errors, source }).toBe('in agreement');
  });
  expect(refused).toBeGreaterThan(MOVESETS / 10);
});
