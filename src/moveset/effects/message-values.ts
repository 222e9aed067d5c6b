import type { Run } from '../../record/frame.js';
import { compileDirections } from '../directions/direction.js';
import { compilePoint, type Spot } from '../directions/point.js';
import type { ParsedFormula } from '../formula.js';
import type { MessageValue } from '../messages.js';
import type { EffectTools } from './effect.js';

type MessageSource = Record<string, ParsedFormula | undefined>;

/** What writes the values of a message behind the record, for `emit`; what is not given is 0 or, of words, none. */
export function compileMessage(name: string, given: MessageSource, tools: EffectTools): Run {
  const { values, size, at } = tools.message(name);
  const known = values.map((value) => value.name);
  for (const [value, from] of Object.entries(given))
    if (!known.includes(value))
      tools.unknown(from?.path ?? [], { value, what: `value of ${name}`, known }, { on: 'key' });
  const blank = Float64Array.from({ length: size }, (_, i) =>
    values.some((v) => v.at === i && v.type === 'word') ? -1 : 0,
  );
  const writes = values.flatMap((value) => {
    const from = given[value.name];
    return from ? compileValue(value, from, at + value.at, tools) : [];
  });
  return (c) => {
    c.r.set(blank, at);
    for (let i = 0; i < writes.length; i++) writes[i](c);
  };
}

function compileValue({ type, words }: MessageValue, from: ParsedFormula, at: number, tools: EffectTools): Run {
  const text = String(from.source);
  const out = new Float64Array(3);
  const vector =
    (spot: Spot): Run =>
    (c) => {
      if (spot(c, out)) c.r.set(out, at);
    };
  switch (type) {
    case 'word': {
      const index = words.indexOf(text);
      if (index < 0) tools.unknown(from.path, { value: text, what: 'word', known: words });
      return ({ r }) => {
        r[at] = index;
      };
    }
    case 'point':
    case 'direction':
      return vector(type === 'point' ? compilePoint(text, tools) : compileDirections([text], {}, tools));
    default: {
      const { at: found, run } = type === 'time' ? tools.time(from) : tools.number(from);
      return (c) => {
        run?.(c);
        const value = c.r[found];
        c.r[at] = Number.isNaN(value) ? 0 : type === 'time' ? Math.round(value) : value;
      };
    }
  }
}
