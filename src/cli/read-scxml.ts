import sax from 'sax';

/** Something that is no state chart, in part of a sentence. */
export class ScxmlFault extends Error {}

interface State {
  readonly id: string;
  readonly initial: string;
  readonly children: State[];
  readonly ways: { readonly event: string; readonly target: string }[];
  readonly isFinal: boolean;
}

const MOST_BYTES = 1 << 20;
const MOST_FAULTS = 20;
/** What stands for the id of what holds regions. */
const PARALLEL = '\u0000parallel';
/** Events that no input brings about. */
const INSIDE = /^(done|error|after|until|end|request)\b/;

/**
 * The skeleton of a moveset from a state chart: parallel regions are lanes, states within them abilities, states within these phases;
 * the initial state of a region is rest. What a chart cannot say is left to be filled in.
 * @param text State Chart XML.
 * @param name What the character is called.
 */
export function readScxml(text: string, name: string): string {
  const root = parse(text);
  const regions = regionsOf(root).filter(({ id }) => id !== 'the.stances');
  if (regions.length === 0) throw new ScxmlFault('it has no states');
  const names = new Names();
  const lanes = regions.map((region, i) =>
    names.of(regions.length === 1 ? 'body' : region.id.replace(/^lane\./, '') || `lane${i + 1}`, 'lane'),
  );
  const inputs = new Set<string>();
  const lines: string[] = [];
  for (const [i, region] of regions.entries()) {
    const rest = region.initial || region.children[0]?.id;
    const abilities = region.children.filter(({ id, isFinal }) => id !== rest && !isFinal);
    for (const ability of abilities) {
      const own = names.of(ability.id, 'ability');
      // Whatever leads here from rest, or else from anywhere.
      const into = region.children.flatMap((state) =>
        waysOf(state)
          .filter(({ target }) => target === ability.id)
          .map((way) => ({ ...way, from: state.id })),
      );
      const event = into.find(({ event }) => event !== '' && !INSIDE.test(event))?.event.split(/\s+/)[0];
      const input = event === undefined ? undefined : names.of(event.split('.')[0], 'input');
      if (input) inputs.add(input);
      const before = [
        ...new Set(into.filter(({ from }) => from !== rest).map(({ from }) => names.of(from, 'ability'))),
      ].filter((one) => one !== own);
      const isFree = into.some(({ from }) => from === rest) || into.length === 0;
      lines.push(`  ${own}:`);
      if (regions.length > 1) lines.push(`    lane: ${lanes[i]}`);
      lines.push(`    start: ${input ? `{ press: ${input} }` : '{ code: only } # to fill in: what starts it'}`);
      if (!isFree && before.length > 0) lines.push(`    follows: [${before.join(', ')}]`);
      const open = (state: State) => [
        ...new Set(
          state.ways
            .filter(({ target }) => target !== ability.id && abilities.some(({ id }) => id === target))
            .map(({ target }) => names.of(target, 'ability')),
        ),
      ];
      const whole = open(ability);
      if (whole.length > 0) lines.push(`    open: [${whole.join(', ')}]`);
      const phases = ability.children.filter(({ isFinal }) => !isFinal);
      if (phases.length === 0) {
        lines.push('    phases: [{ for: 12f }] # to fill in: how long it lasts, and what it does');
        continue;
      }
      lines.push('    phases:');
      for (const phase of phases) {
        const time = phase.ways.map(({ event }) => /^after\.(\d+f)$/.exec(event)?.[1]).find(Boolean);
        const lets = open(phase);
        const own = names.of(phase.id.split('.').at(-1) ?? phase.id, 'phase');
        lines.push(
          `      - { name: ${own}, for: ${time ?? '6f'}${lets.length > 0 ? `, open: [${lets.join(', ')}]` : ''} }${time ? '' : ' # to fill in'}`,
        );
      }
    }
  }
  if (lines.length === 0)
    throw new ScxmlFault('no state of it could be an ability: each region has a state of rest only');
  return [
    `# ${name}, from a state chart: what it cannot say is to be filled in.`,
    'loggia: 1',
    `name: ${name}`,
    ...(inputs.size > 0
      ? ['inputs:', ...[...inputs].map((input, i) => `  ${input}: { button: Digit${(i % 9) + 1} } # to fill in`)]
      : []),
    ...(lanes.length > 1 ? [`lanes: [${lanes.join(', ')}]`] : []),
    'stances: { stand: { when: grounded }, fall: {} }',
    'abilities:',
    ...lines,
    '',
  ].join('\n');
}

/** Of a state, and of all that is within it. */
function waysOf(state: State): State['ways'] {
  return [...state.ways, ...state.children.flatMap(waysOf)];
}

/** What lies side by side, or the one region that there is. */
function regionsOf(root: State): State[] {
  const [only] = root.children;
  if (root.children.length === 1 && only.id === PARALLEL) return only.children;
  if (root.children.length === 1 && only.children.some(({ children }) => children.length > 0))
    return regionsOf({ ...root, children: only.children, initial: only.initial });
  return root.children.length === 0 ? [] : [root];
}

function parse(text: string): State {
  if (text.length > MOST_BYTES) throw new ScxmlFault(`it is larger than ${MOST_BYTES} bytes`);
  const root: State = { id: '', initial: '', children: [], ways: [], isFinal: false };
  const ids = new Set<string>();
  const targets = new Set<string>();
  const faults: string[] = [];
  let isScxml = false;
  const open: State[] = [root];
  const parser = sax.parser(true);
  parser.ondoctype = () => {
    throw new ScxmlFault('it has a document type, which no state chart needs');
  };
  parser.onerror = ({ message }) => {
    throw new ScxmlFault(`it is not well formed: ${message.split('\n')[0]} (line ${parser.line + 1})`);
  };
  parser.onopentag = ({ name, attributes }) => {
    const kind = name.replace(/^.*:/, '');
    const given = attributes as Record<string, string>;
    const parent = open[open.length - 1];
    if (/^(state|parallel|final|history)$/.test(kind) && given.id !== undefined) {
      if (ids.has(given.id)) faults.push(`the id "${given.id}" stands twice, in line ${parser.line + 1} again`);
      ids.add(given.id);
    }
    if (kind === 'scxml') {
      isScxml = true;
      open.push({ ...root, initial: given.initial ?? '', children: root.children, ways: root.ways });
    } else if (kind === 'state' || kind === 'parallel' || kind === 'final') {
      if (open.length > 32) throw new ScxmlFault('its states lie too deep within one another');
      const state: State = {
        id: kind === 'parallel' ? PARALLEL : (given.id ?? `state${parent.children.length + 1}`),
        initial: given.initial ?? '',
        children: [],
        ways: [],
        isFinal: kind === 'final',
      };
      parent.children.push(state);
      open.push(state);
    } else {
      if (kind === 'transition') {
        const into = (given.target ?? '').split(/\s+/).filter(Boolean);
        for (const target of into) targets.add(target);
        parent.ways.push({ event: given.event ?? '', target: into[0] ?? '' });
      }
      open.push(parent);
    }
  };
  parser.onclosetag = () => {
    open.pop();
  };
  parser.write(text).close();
  if (!isScxml) throw new ScxmlFault('it is no state chart: its outermost element is not "scxml"');
  for (const target of targets)
    if (!ids.has(target)) faults.push(`a transition leads to "${target}", which is the id of nothing`);
  if (faults.length > 0) throw new ScxmlFault(faults.slice(0, MOST_FAULTS).join('; '));
  return root;
}

/** Names of a moveset for those of a chart: no two for one, none for two. */
class Names {
  private readonly known = new Map<string, string>();
  private readonly taken = new Map<string, Set<string>>();

  of(id: string, kind: string): string {
    const key = `${kind} ${id}`;
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const words = id.split(/[^A-Za-z0-9]+/).filter(Boolean);
    const joined = words.map((word, i) => (i === 0 ? word : word[0].toUpperCase() + word.slice(1))).join('');
    const plain = /^[A-Za-z]/.test(joined) ? joined : `${kind}${joined}`;
    const base = RESERVED.test(plain) ? `${plain}It` : plain.slice(0, 60);
    // One name means one thing in a moveset, whatever it is a name of; phases are their ability's own.
    const room = kind === 'phase' ? 'phase' : 'all';
    const taken = this.taken.get(room) ?? new Set<string>();
    this.taken.set(room, taken);
    let name = base;
    for (let i = 2; kind !== 'phase' && taken.has(name); i++) name = `${base}${i}`;
    taken.add(name);
    this.known.set(key, name);
    return name;
  }
}

const RESERVED = /^(and|or|not|true|false|all|none|stand|fall|constructor|prototype)$/;
