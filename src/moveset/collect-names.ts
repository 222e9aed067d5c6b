import type { Sink } from '../report/diagnostic.js';
import { kindOf } from './inputs/index.js';
import { messagesOf } from './messages.js';
import { isName, isPlain, type Names, noNames } from './read.js';
import { MOVESET } from './schema.js';
import type { NameKind, Shape } from './shape.js';

/** Collects every name that a definition declares, before anything that refers to them is read. */
export function collectNames(source: Record<string, unknown>): Names {
  const names = noNames();
  const keys = (value: unknown): string[] => (isPlain(value) ? Object.keys(value).filter(isName) : []);
  const texts = (value: unknown): string[] =>
    Array.isArray(value) ? value.filter((v): v is string => typeof v === 'string' && isName(v)) : [];
  names.pool = keys(source.pools);
  names.probe = keys(source.probes);
  names.condition = keys(source.conditions);
  names.stance = keys(source.stances);
  names.ability = keys(source.abilities);
  names.loadout = keys(source.loadouts);
  names.kind = texts(source.kinds);
  names.summon = texts(source.summons);
  const messages = messagesOf(source);
  names.event = messages.map(({ name }) => name);
  const valuesOf = (type: string) =>
    messages.flatMap(({ name, values }) =>
      values.flatMap((value) => (value.type === type ? `${name}.${value.name}` : [])),
    );
  const blow = isPlain(source.hurt);
  names['point value'] = [...valuesOf('point'), ...(blow ? ['blow.from', 'blow.at'] : [])];
  names['direction value'] = [...valuesOf('direction'), ...(blow ? ['blow.push'] : [])];
  names['blow point'] = messages.flatMap(({ name, values }) =>
    ['by', 'from'].every((one) => values.some((value) => value.name === one))
      ? values.flatMap((value) => (value.type === 'point' ? `${name}.${value.name}` : []))
      : [],
  );
  names.target = keys(source.targets);
  names.place = texts(source.places);
  names.surface = texts(source.surfaces);
  const abilities = keys(source.abilities).map((name) => (source.abilities as Record<string, unknown>)[name]);
  // An ability that is like another has the very same list.
  const lists = new Set(abilities.map((owner) => (isPlain(owner) ? owner.marks : undefined)));
  names.mark = [...keys(source.marks), ...[...lists].flatMap(texts)];
  const { lanes = ['body'] } = source;
  names.lane = isPlain(lanes) ? keys(lanes) : texts(lanes);
  const shapes = isPlain(source.body) ? source.body.shapes : undefined;
  names.shape = shapes === undefined ? ['tall'] : keys(shapes);
  for (const name of keys(source.inputs)) {
    const input = (source.inputs as Record<string, unknown>)[name];
    if (isPlain(input)) kindOf(input)?.declare(name, names, input);
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

/** Kinds of names that share one room of words: in facts, as directions, as points. Inputs differ by their map. */
const SHARED: readonly NameKind[] = ['stick', 'aim', 'choice', 'probe', 'mark', 'place', 'target'];
const INPUT_KINDS: readonly NameKind[] = ['button', 'stick', 'aim', 'choice'];
/** Where the names of a kind stand, other than in a map that is called after them. */
const ROOMS: Partial<Record<NameKind, string>> = { ability: 'abilities' };
/** Kinds whose names are declared by a list. */
const LISTED: readonly NameKind[] = ['event', 'lane', 'place', 'surface', 'kind', 'summon'];

/** Groups of facts: `pool.wind`, `foe.distance`. A test holds them to those that there are. */
export const FACT_GROUPS = ['pool', 'stance', 'air', 'ground', 'facing', 'blow', 'foe', 'other'];

/**
 * Words that mean something by themselves where a name could stand, so that a name like them would be hidden: by the kind
 * of the name, with what they mean. They follow from the shapes of a moveset, and from the names of facts.
 */
export function takenWords(): ReadonlyMap<NameKind, ReadonlyMap<string, string>> {
  taken ??= collectTaken();
  return taken;
}

let taken: ReadonlyMap<NameKind, ReadonlyMap<string, string>> | undefined;

function collectTaken(): Map<NameKind, Map<string, string>> {
  const found = new Map<NameKind, Map<string, string>>();
  const add = (kinds: readonly NameKind[], words: readonly string[], meaning: string) => {
    for (const kind of kinds) {
      const known = found.get(kind) ?? new Map<string, string>();
      found.set(kind, known);
      for (const word of words) if (!known.has(word)) known.set(word, meaning);
    }
  };
  const seen = new Set<Shape>();
  const visit = (shape: Shape): void => {
    if (seen.has(shape)) return;
    seen.add(shape);
    if (shape.kind === 'name') {
      // What is declared as a value of a message is no name of its own there.
      add(
        shape.of.filter((kind) => kind !== 'blow point'),
        shape.words ?? [],
        shape.meaning ?? 'word',
      );
      for (const call of Object.values(shape.calls ?? {})) visit(call);
    } else if (shape.kind === 'list' || shape.kind === 'map') visit(shape.of);
    else if (shape.kind === 'fields') for (const field of Object.values(shape.fields)) visit(field.shape);
    else if (shape.kind === 'either') for (const form of [shape.plain, shape.list, shape.fields]) if (form) visit(form);
  };
  visit(MOVESET);
  add(SHARED, FACT_GROUPS, 'group of facts');
  add(['condition'], ['charge'], 'fact');
  return found;
}

/** Tags are declared where they are worn. */
function checkTags(source: Record<string, unknown>, sink: Sink): void {
  const words = takenWords().get('tag');
  const look = (scope: unknown, path: (string | number)[]) => {
    if (!isPlain(scope)) return;
    const listed = Array.isArray(scope.tags);
    [scope.tags].flat().forEach((tag, i) => {
      const second = typeof tag === 'string' ? words?.get(tag) : undefined;
      if (second !== undefined)
        sink.add('name-clash', [...path, 'tags', ...(listed ? [i] : [])], { name: tag, first: 'tag', second });
    });
    if (!Array.isArray(scope.phases)) return;
    for (const [i, phase] of scope.phases.entries()) look(phase, [...path, 'phases', i]);
  };
  for (const room of ['stances', 'abilities', 'loadouts'])
    if (isPlain(source[room])) for (const [name, scope] of Object.entries(source[room])) look(scope, [room, name]);
}

/** Reports names that stand for two things where both could be meant. */
export function checkClashes(source: Record<string, unknown>, names: Names, sink: Sink): void {
  const tell = (kind: NameKind, i: number, second: string) => {
    const name = names[kind][i];
    const room = INPUT_KINDS.includes(kind) ? 'inputs' : (ROOMS[kind] ?? `${kind}s`);
    const list = LISTED.includes(kind) ? source[room] : undefined;
    const listed = Array.isArray(list);
    // What is no name was left out before.
    const at = listed
      ? list.map((one, k) => (typeof one === 'string' && isName(one) ? k : -1)).filter((k) => k >= 0)[i]
      : i;
    sink.add('name-clash', [room, listed ? at : name], { name, first: kind, second }, { on: listed ? 'value' : 'key' });
  };
  const clash = (first: NameKind, second: NameKind) => {
    const known = new Set(names[second]);
    names[first].forEach((name, i) => {
      if (known.has(name)) tell(first, i, second);
    });
  };
  clash('stance', 'tag');
  clash('ability', 'tag');
  for (const first of ['probe', 'mark', 'place', 'target'] as const)
    for (const second of SHARED.slice(0, SHARED.indexOf(first))) clash(first, second);
  for (const [kind, words] of takenWords())
    names[kind].forEach((name, i) => {
      const meaning = words.get(name);
      if (meaning !== undefined && kind !== 'tag') tell(kind, i, meaning);
    });
  checkTags(source, sink);
  // `hook.x` could be the value of a message or the place of a mark.
  messagesOf(source).forEach(({ name, size }, i) => {
    const other = size > 0 && SHARED.find((kind) => names[kind].includes(name));
    if (other) tell('event', i, other);
    if (size > 0 && FACT_GROUPS.includes(name)) tell('event', i, 'group of facts');
  });
  for (const kind of [...LISTED, 'mark'] as const) {
    const seen = new Set<string>();
    names[kind].forEach((name, i) => {
      if (seen.has(name)) tell(kind, i, `second ${kind}`);
      seen.add(name);
    });
  }
}
