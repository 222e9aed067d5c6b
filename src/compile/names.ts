import type { Sink } from '../moveset/diagnostic.js';
import { isName, isPlain, type Names, noNames } from '../moveset/read.js';
import type { NameKind } from '../moveset/shape.js';

const SIDES = ['left', 'right', 'up', 'down'] as const;

/** Collects every name that a definition declares, before anything that refers to them is read. */
export function collectNames(source: Record<string, unknown>): Names {
  const names = noNames();
  const keys = (value: unknown): string[] => (isPlain(value) ? Object.keys(value).filter(isName) : []);
  const texts = (value: unknown): string[] =>
    Array.isArray(value) ? value.filter((v): v is string => typeof v === 'string') : [];
  names.pool = keys(source.pools);
  names.probe = keys(source.probes);
  names.stance = keys(source.stances);
  names.ability = keys(source.abilities);
  names.loadout = keys(source.loadouts);
  names.event = texts(source.events);
  names.lane = source.lanes === undefined ? ['body'] : texts(source.lanes);
  const shapes = isPlain(source.body) ? source.body.shapes : undefined;
  names.shape = shapes === undefined ? ['tall'] : keys(shapes);
  for (const name of keys(source.inputs)) {
    const input = (source.inputs as Record<string, unknown>)[name];
    if (!isPlain(input)) continue;
    if (input.stick === undefined) {
      names.button.push(name);
    } else {
      names.stick.push(name);
    }
  }
  // Sides stand behind the buttons proper: the door counts on it.
  for (const stick of names.stick) names.button.push(...SIDES.map((side) => `${stick}.${side}`));
  const tags = new Set<string>();
  const collectTags = (scope: unknown) => {
    if (!isPlain(scope)) return;
    for (const tag of typeof scope.tags === 'string' ? [scope.tags] : texts(scope.tags)) tags.add(tag);
  };
  for (const group of [source.stances, source.abilities]) {
    for (const name of keys(group)) {
      const scope = (group as Record<string, unknown>)[name];
      collectTags(scope);
      if (isPlain(scope) && Array.isArray(scope.phases)) scope.phases.forEach(collectTags);
    }
  }
  names.tag = [...tags];
  return names;
}

/** Words that facts begin with, so that an input or probe of that name would hide them. */
const FACT_WORDS = ['pool', 'stance', 'air', 'ground'];

/** Reports names that stand for two things where both could be meant. */
export function checkClashes(names: Names, sink: Sink): void {
  const clash = (first: NameKind, second: NameKind, room: string) => {
    for (const name of names[first])
      if (names[second].includes(name)) sink.add('name-clash', [room, name], { name, first, second }, { on: 'key' });
  };
  clash('stance', 'tag', 'stances');
  clash('ability', 'tag', 'abilities');
  clash('probe', 'stick', 'probes');
  for (const [kind, room] of [
    ['stick', 'inputs'],
    ['probe', 'probes'],
  ] as const)
    for (const name of names[kind])
      if (FACT_WORDS.includes(name))
        sink.add('name-clash', [room, name], { name, first: kind, second: 'group of facts' }, { on: 'key' });
  for (const kind of ['event', 'lane'] as const) {
    const seen = new Set<string>();
    names[kind].forEach((name, i) => {
      if (seen.has(name)) sink.add('name-clash', [`${kind}s`, i], { name, first: kind, second: `second ${kind}` });
      seen.add(name);
    });
  }
}
