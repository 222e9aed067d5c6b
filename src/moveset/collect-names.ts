import type { Sink } from '../report/diagnostic.js';
import { kindOf } from './inputs/index.js';
import { isName, isPlain, type Names, noNames } from './read.js';
import type { NameKind } from './shape.js';

/** Collects every name that a definition declares, before anything that refers to them is read. */
export function collectNames(source: Record<string, unknown>): Names {
  const names = noNames();
  const keys = (value: unknown): string[] => (isPlain(value) ? Object.keys(value).filter(isName) : []);
  const texts = (value: unknown): string[] =>
    Array.isArray(value) ? value.filter((v): v is string => typeof v === 'string') : [];
  names.pool = keys(source.pools);
  names.probe = keys(source.probes);
  names.condition = keys(source.conditions);
  names.stance = keys(source.stances);
  names.ability = keys(source.abilities);
  names.loadout = keys(source.loadouts);
  names.event = texts(source.events);
  names.lane = source.lanes === undefined ? ['body'] : texts(source.lanes);
  const shapes = isPlain(source.body) ? source.body.shapes : undefined;
  names.shape = shapes === undefined ? ['tall'] : keys(shapes);
  for (const name of keys(source.inputs)) {
    const input = (source.inputs as Record<string, unknown>)[name];
    if (isPlain(input)) kindOf(input)?.declare(name, names);
  }
  const tags = new Set<string>();
  const collectTags = (scope: unknown) => {
    if (!isPlain(scope)) return;
    for (const tag of typeof scope.tags === 'string' ? [scope.tags] : texts(scope.tags)) tags.add(tag);
  };
  for (const group of [source.stances, source.abilities, source.loadouts]) {
    for (const name of keys(group)) {
      const scope = (group as Record<string, unknown>)[name];
      collectTags(scope);
      if (isPlain(scope) && Array.isArray(scope.phases)) scope.phases.forEach(collectTags);
    }
  }
  names.tag = [...tags];
  return names;
}

/** Words that mean something by themselves where a name of this kind could stand, so that the name would be hidden. */
const TAKEN: readonly [kind: NameKind, room: string, words: readonly string[], meaning: string][] = [
  ['stick', 'inputs', ['pool', 'stance', 'air', 'ground'], 'group of facts'],
  ['probe', 'probes', ['pool', 'stance', 'air', 'ground'], 'group of facts'],
  ['stick', 'inputs', ['facing', 'up', 'down', 'velocity'], 'direction'],
  ['button', 'inputs', ['forward', 'back', 'up', 'down', 'neutral'], 'direction'],
  ['event', 'events', ['start', 'end'], 'moment of an ability'],
  ['ability', 'abilities', ['all'], 'word for all others'],
  ['condition', 'conditions', ['charge'], 'fact'],
];

/** Reports names that stand for two things where both could be meant. */
export function checkClashes(names: Names, sink: Sink): void {
  const clash = (first: NameKind, second: NameKind, room: string) => {
    const known = new Set(names[second]);
    for (const name of names[first])
      if (known.has(name)) sink.add('name-clash', [room, name], { name, first, second }, { on: 'key' });
  };
  clash('stance', 'tag', 'stances');
  clash('ability', 'tag', 'abilities');
  clash('probe', 'stick', 'probes');
  for (const [kind, room, words, meaning] of TAKEN)
    names[kind].forEach((name, i) => {
      if (!words.includes(name)) return;
      const listed = kind === 'event';
      sink.add(
        'name-clash',
        [room, listed ? i : name],
        { name, first: kind, second: meaning },
        { on: listed ? 'value' : 'key' },
      );
    });
  for (const kind of ['event', 'lane'] as const) {
    const seen = new Set<string>();
    names[kind].forEach((name, i) => {
      if (seen.has(name)) sink.add('name-clash', [`${kind}s`, i], { name, first: kind, second: `second ${kind}` });
      seen.add(name);
    });
  }
}
