import { compileDirections } from '../moveset/directions/direction.js';
import { compilePoint } from '../moveset/directions/point.js';
import type { EffectTools } from '../moveset/effects/effect.js';
import { PROBES } from '../moveset/probes/index.js';
import type { Names } from '../moveset/read.js';
import type { ParsedMoveset, ParsedProbe } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import type { Making } from '../record/recipes.js';
import type { Sink } from '../report/diagnostic.js';
import { DEEPEST_CHAIN, measureChains } from './depth.js';
import type { FormulaCompiler } from './formula.js';
import type { ProbePlan } from './plan.js';

/** A probe as it is asked in a tick. */
export function compileProbe(
  name: string,
  parsed: ParsedProbe,
  effects: EffectTools,
  formulas: FormulaCompiler,
  making: Making,
): ProbePlan {
  const { ray = [], at = [], on, along, reach, flat, overlap, nearest, from } = parsed;
  const kind = PROBES.find(({ key }) => parsed[key] !== undefined);
  const box = parsed.box ?? overlap;
  const [x = 0, y = 0, z = 0] = ray;
  const length = Math.sqrt(x * x + y * y + z * z);
  const [width = 0, height = 0, depth = width] = Array.isArray(box) ? box : [];
  const [forward = 0, up = 0, side = 0] = at;
  return {
    name,
    asks: kind?.asks ?? null,
    joins: kind?.asks === null ? kind.key : null,
    from: from ? making.make('compilePoint', [from], effects, (tools) => compilePoint(from, tools)) : null,
    parts: sound(kind?.asks === null ? parsed[kind.key] : []).map((part) => effects.probe(part).index),
    ray: [x, y, z],
    aim: along
      ? making.make('compileDirections', [along, { flat }], effects, (tools) =>
          compileDirections(along, { flat }, tools),
        )
      : null,
    reach: along && reach ? formulas.number(reach) : formulas.constant(nearest ?? (along ? 1 : length)),
    at: [forward, up, side],
    on: on ? sound(on) : null,
    box: box === undefined ? null : [width / 2, height / 2, depth / 2],
    ownBox: box === 'body',
  };
}

/** A probe that is aimed or measured by another one must not be so by itself. */
export function checkProbes(parsed: ParsedMoveset, names: Names, formulas: FormulaCompiler, sink: Sink): void {
  const known = new Set(names.probe);
  const others = new Map(
    names.probe.map((name) => {
      const { along = [], reach, from, first = [], average = [] }: ParsedProbe = parsed.probes?.[name] ?? {};
      const aimed = [...along, from, ...first, ...average].flatMap(
        (source) => /(\w+)\)?$/.exec(source ?? '')?.[1] ?? [],
      );
      const read = reach?.node ? formulas.factsIn(reach.node).map((key) => key.split('.')[0]) : [];
      return [name, [...aimed, ...read].filter((other) => known.has(other))] as const;
    }),
  );
  for (const [name, { depth }] of measureChains(names.probe, others, () => 1)) {
    if (depth <= DEEPEST_CHAIN) continue;
    const way = depth === Number.POSITIVE_INFINITY ? cycleOf(name, others) : undefined;
    if (depth < Number.POSITIVE_INFINITY)
      sink.add('chain-depth', ['probes', name], { limit: DEEPEST_CHAIN, of: 'probes' }, { on: 'key' });
    if (way) sink.add('probe-cycle', ['probes', name], { way }, { on: 'key' });
  }
}

/** The way from a name back to itself, or undefined. */
function cycleOf(name: string, others: ReadonlyMap<string, readonly string[]>): string[] | undefined {
  const seen = new Set<string>();
  const ways: string[][] = [[name]];
  for (let way = ways.pop(); way; way = ways.pop())
    for (const next of others.get(way[way.length - 1]) ?? []) {
      if (next === name) return [...way, next];
      if (seen.has(next)) continue;
      seen.add(next);
      ways.push([...way, next]);
    }
  return undefined;
}
