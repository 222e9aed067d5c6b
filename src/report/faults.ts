import { nearestName, relativesOf, suggestFact } from './nearest.js';
import { count, describe, escapeText, withArticle } from './words.js';

/**
 * Every fault that a moveset or scenario can have: its code, the data that the rule passes, and its sentence.
 * A new one is an entry here, a `sink.add` in the rule, and an example for the reference.
 */
export const FAULTS = {
  'alias-expansion': (p: { limit: unknown }) =>
    `This file has more than ${p.limit} values once its aliases are expanded; use fewer aliases or split the file.`,
  'alias-unknown': (p: { name: unknown }) =>
    `There is no anchor ${describe(p.name)} above this alias. Mark the value that it repeats with "&" and this name.`,
  'bad-name': (p: { value: unknown }) =>
    `${describe(p.value)} cannot be a name. A name starts with a letter, continues with letters, digits or underscores (64 at most), and is not a word of formulas such as "and" or "true".`,
  'bad-text': (p: { expected: unknown; value: unknown }) => `${describe(p.value)} is not ${p.expected}.`,
  'bad-time': (p: { value: unknown }) =>
    `${describe(p.value)} is not a time: write seconds, milliseconds or ticks, like 0.2s, 200ms or 12f.`,
  'chain-depth': (p: { limit: unknown; of: unknown }) =>
    `More than ${p.limit} ${p.of} stand in a row behind this one; make it of fewer.`,
  'condition-cycle': (p: { way: readonly string[] }) =>
    `This condition reads itself: ${p.way.join(' reads ')}. Take one of them out.`,
  'duplicate-key': (p: { key: unknown }) => `The key ${describe(p.key)} appears twice here; remove one of them.`,
  empty: (p: { hint?: unknown }) => `This file is empty; ${p.hint}.`,
  'file-too-large': (p: { limit: unknown }) => `This file is larger than ${p.limit} bytes, the most that Loggia reads.`,
  'file-unreadable': (p: { why: unknown }) => `This file cannot be read: ${p.why}.`,
  'formula-argument': (p: { expected: unknown; found: unknown; name: unknown }) =>
    `${p.name} takes ${p.expected}, not ${p.found}.`,
  'formula-depth': (p: { limit: unknown; of: unknown }) => `This formula has more than ${p.limit} ${p.of}; split it.`,
  'formula-name': (p: { facts: ReadonlyMap<string, unknown>; functions: readonly string[]; name: string }) => {
    if (p.name.startsWith('other.') && ![...p.facts.keys()].some((fact) => fact.startsWith('other.')))
      return `${describe(p.name)} can be read in "targets" only, where somebody is chosen; here, read the target, as in ${describe(p.name.replace('other', 'prey'))}.`;
    const nearest = suggestFact(p.name, p.facts, p.functions);
    const some = relativesOf(p.name, p.facts);
    const way =
      !nearest && (some.length === 0 || some.length > LISTED)
        ? '. "loggia facts" lists what formulas here can use.'
        : tail(undefined, some, 'It can be', nearest && `Did you mean ${describe(nearest)}?`);
    return `There is no fact or function ${describe(p.name)} here${way}`;
  },
  'formula-syntax': (p: { expected: unknown; found: unknown; hint?: unknown }) =>
    `Expected ${p.expected} but found ${p.found}${p.hint ? `; ${p.hint}` : ''}.`,
  'formula-type': (p: { expected: string; found: string; hint?: unknown; what: unknown }) =>
    `${p.what} must be ${typeName(p.expected)}, but this is ${typeName(p.found)}${p.hint ? `; ${p.hint}` : ''}.`,
  'like-cycle': (p: { way: readonly string[] }) => `This is like itself: ${p.way.join(' is like ')}.`,
  'missing-key': (p: { doc?: unknown; key: unknown; title: string }) =>
    `${capital(p.title)} needs ${describe(p.key)}: ${p.doc}`,
  'name-clash': (p: { first: string; name: unknown; second: string }) =>
    `${describe(p.name)} is the name of both ${withArticle(p.first)} and ${withArticle(p.second)}; rename one of them.`,
  'never-ends': (p: { ability: unknown; why: unknown }) =>
    `The ability ${describe(p.ability)} would never end: ${p.why}. Give its last phase a "for" or "until", or give the ability an "end".`,
  'not-utf8': (p: { at: unknown }) =>
    `This file is not UTF-8: byte ${p.at} does not start a character. Save the file as UTF-8.`,
  'one-of-keys': (p: { keys: readonly string[]; present: readonly string[]; title: string }) =>
    p.present.length > 1
      ? `${capital(p.title)} can have only one of ${words(p.keys)}, but has ${words(p.present, 'and')}.`
      : `${capital(p.title)} needs one of ${words(p.keys)}.`,
  'out-of-range': (p: { max: unknown; min: unknown; value: unknown; whole?: unknown }) =>
    `${describe(p.value)} is out of range: ${p.whole ? 'a whole number ' : ''}from ${p.min} to ${p.max} is allowed.`,
  'stance-last': (p: { stance: unknown }) =>
    `The last stance, ${describe(p.stance)}, must not have a "when": it applies when no other stance does.`,
  'stance-unreachable': (p: { stance: unknown }) =>
    `The stance ${describe(p.stance)} has no "when", so the stances after it can never apply. Give it a "when", or move it to the end.`,
  'beat-place': (p: { clip?: unknown }) =>
    p.clip === undefined
      ? 'A place is in a clip, and none is shown here: add a "clip", or use "at".'
      : `The length of the clip ${describe(p.clip)} is not known: give it in "clips", or use "at".`,
  'bound-twice': (p: { inputs: readonly string[]; source: unknown }) =>
    `${describe(p.source)} is bound to ${words(p.inputs, 'and')}; bind one of them to something else.`,
  'clip-length': (p: { clip: unknown; clipTicks: unknown; ticks: unknown; what: unknown }) =>
    `The clip ${describe(p.clip)} lasts ${p.clipTicks}f, but ${p.what} lasts ${p.ticks}f; change one of them.`,
  'clip-unknown': (p: { clip: unknown; known?: readonly unknown[] }) =>
    `There is no clip ${describe(p.clip)} in the table${tail(p.clip, p.known)}`,
  'include-clash': (p: { first: unknown; key: unknown; second: unknown }) =>
    `${describe(p.key)} is set in both ${p.first} and ${p.second}; set it in this file to choose a value.`,
  'include-cycle': (p: { way: readonly string[] }) => `This file includes itself: ${p.way.join(' includes ')}.`,
  'include-unread': () => '"include" works only in files: load this moveset with loadMoveset or parseMoveset.',
  'include-outside': (p: { root: unknown; value: unknown }) =>
    `${describe(p.value)} is outside ${p.root}. Only files inside it can be included; the option --root sets another folder.`,
  'lost-loadout': (p: { ability: unknown; loadout: unknown }) =>
    `${describe(p.ability)} switches to the loadout ${describe(p.loadout)}, which does not contain the ability itself, so it would end at once. Add ${describe(p.ability)} to that loadout.`,
  'no-drain': (p: { pool: unknown; regen: unknown; upkeep: unknown }) =>
    `The upkeep of ${p.upkeep} per second never drains ${describe(p.pool)}, because the pool regains ${p.regen} per second at the same time. Raise the upkeep, or give the pool a "rest".`,
  'no-follow': (p: { ability: unknown; other: unknown }) =>
    `${describe(p.ability)} can never follow ${describe(p.other)}: no phase of ${describe(p.other)} is "open" to it, and "follows" gives no time after its end.`,
  'open-unused': (p: { ability: unknown; entry: unknown; why: unknown }) =>
    `${describe(p.entry)} in this "open" does nothing: ${p.why}. Take it out, or change that.`,
  'phase-unreached': (p: { ability: unknown; before: unknown; phase: unknown }) =>
    `The phase ${describe(p.phase)} is never reached: the phase ${describe(p.before)} before it has no end of its own, so the ability ends with it. Give ${describe(p.before)} a "for" or an "until".`,
  'no-release': (p: { ability: unknown }) =>
    `Nothing ever releases this charge, because no input starts ${describe(p.ability)}. Give the charge "full: go", or the phase an "until".`,
  'never-holds': (p: { first: unknown; second: unknown }) =>
    `This can never hold: it needs ${p.first} and ${p.second} at once. Change one of them, or say "or".`,
  'stance-shadowed': (p: { by: unknown; stance: unknown }) =>
    `The stance ${describe(p.stance)} never applies: whenever its "when" holds, so does that of ${describe(p.by)} above it. Move it above ${describe(p.by)}, or ask for something else.`,
  'no-start': (p: { ability: unknown; why: unknown }) => `${describe(p.ability)} can never start: ${p.why}.`,
  'same-press': (p: { first: unknown; second: unknown }) =>
    `${describe(p.first)} and ${describe(p.second)} start on the same press, and ${describe(p.first)} goes first wherever both may start, so ${describe(p.second)} never starts. Tell them apart by "from", "when", "follows" or a more specific start.`,
  'grace-lost': (p: { first: unknown; second: unknown }) =>
    `${describe(p.first)} is declared before ${describe(p.second)} and takes the same press in the air, so this grace never counts. Declare ${describe(p.second)} first.`,
  'rule-repeats': (p: { ability: unknown; ticks: unknown }) =>
    `${describe(p.ability)} starts again every ${p.ticks}f while its rule holds. Say "once: true" beside the rule, give it a cooldown, let its last phase last until the rule ends, or read since(${p.ability}) in the rule.`,
  'tag-does-nothing': (p: { tag: unknown; key: unknown; kind: unknown }) =>
    `No ${p.kind} has the tag ${describe(p.tag)}, so it does nothing in "${p.key}". Put the tag on the ${p.kind} itself.`,
  'event-unheard': (p: { event: unknown; ability: unknown }) =>
    `${describe(p.ability)} emits ${describe(p.event)} and something here waits for it, but what is emitted goes to the host only. Declare the event with "hears: own", or use a rule.`,
  'lane-kept': (p: { ability: unknown; lane: unknown; other: unknown }) =>
    `${describe(p.ability)} keeps the lane ${describe(p.lane)} until it falls or lands, and is "open" to nothing: ${describe(p.other)} cannot start before. Make the phase short, or give it an "open".`,
  'start-never': (p: { why: unknown }) => `This start can never happen: ${p.why}.`,
  'probe-cycle': (p: { way: readonly string[] }) =>
    `This probe depends on itself: ${p.way.join(' by ')}. Aim or measure one of them otherwise.`,
  'short-cooldown': (p: { ability: unknown; cooldown: unknown; ticks: unknown }) =>
    `The cooldown of ${p.cooldown}f ends before ${describe(p.ability)} does, which lasts ${p.ticks}f. Count it from the end, or make it longer.`,
  syntax: (p: { why: unknown }) => `This is not valid YAML or JSON: ${p.why}`,
  'time-range': (p: { longest: unknown; min: unknown; value: unknown }) =>
    `${describe(p.value)} is out of range: from ${p.min === 0 ? '0' : `${p.min}f`} to ${p.longest} is allowed.`,
  'time-rounded': (p: { rate: unknown; ticks: unknown; value: unknown }) =>
    `${describe(p.value)} is not a whole number of ticks at ${p.rate} a second; it becomes ${p.ticks}f.`,
  'too-much': (p: { limit: unknown; of: unknown }) =>
    `With this file, what is loaded together has more than ${p.limit} ${p.of}, the most that Loggia reads; make it smaller.`,
  'too-deep': (p: { limit: unknown }) => `This nests deeper than ${p.limit} levels; make it flatter.`,
  'wrong-count': (p: { count: number; max: number; min: number }) =>
    p.count < p.min
      ? `At least ${count(p.min, 'entry')} must be here, but there ${p.count === 1 ? 'is' : 'are'} ${p.count}.`
      : `At most ${count(p.max, 'entry')} can be here, but there are ${p.count}.`,
  'unbound-input': (p: { input: unknown }) =>
    `Nothing is bound to the input ${describe(p.input)}. Bind a key, or allow this warning if code presses it.`,
  'unknown-key': (p: { key: unknown; known?: readonly unknown[]; title: string; hint?: unknown }) =>
    `${capital(p.title)} has no key ${describe(p.key)}${tail(p.key, p.known, 'Its keys are', p.hint)}`,
  'unknown-name': (p: { known?: readonly unknown[]; value: unknown; what: unknown; hint?: unknown }) =>
    `There is no ${p.what} ${describe(p.value)}${tail(p.value, p.known, 'It can be', p.hint)}`,
  'is-moveset': () => 'This is a moveset, not a scenario; check it with "loggia check".',
  'is-opponent': () =>
    'This is an opponent, not a moveset; name it in a scenario, as "plays" of who it plays, and run that.',
  'stun-once': (p: { ability: unknown; event: unknown }) =>
    `${describe(p.ability)} is started by ${describe(p.event)} and does not break itself, so a second blow while it runs does not start it again. Add ${describe(p.ability)} to its "breaks", or allow this.`,
  'guard-idle': (p: { ability: unknown }) =>
    `${describe(p.ability)} guards, but without "hurt" nothing can strike this character. Add "hurt: {}", or more.`,
  'is-program': (p: { file: unknown }) =>
    `${describe(p.file)} is a program. The command line reads YAML and JSON: call checkMoveset in your code or in a test, or write the moveset with JSON.stringify to a file.`,
  'is-part': () => 'This is a part of a moveset, for others to include. Load a moveset that includes it.',
  'is-scenario': () => 'This is a scenario, not a moveset; run it with "loggia run".',
  'fell-out': (p: { who: unknown; at: unknown; y: unknown }) =>
    `${describe(p.who)} fell out of the world: at ${p.at} its feet are at y = ${p.y}. Give the world a floor there, or end the run earlier.`,
  'pointless-key': (p: { key: unknown; why: unknown }) => `${describe(p.key)} does nothing here: ${p.why}.`,
  'pressed-twice': (p: { input: unknown; since: unknown }) =>
    `${describe(p.input)} is already held since ${p.since}, so this press does nothing; release it first.`,
  'start-missing': (p: { letter: unknown }) =>
    `No row has the letter ${describe(p.letter)}, where the character starts; write it into a row, or set "start.at".`,
  'unknown-letter': (p: { letter: unknown; known: readonly unknown[] }) =>
    `The letter ${describe(p.letter)} means nothing in this world. Add it to the "legend", or use one of ${p.known.map(describe).join(', ')}.`,
  'unknown-surface': (p: { tag: unknown; known?: readonly unknown[] }) =>
    `The moveset declares no surface ${describe(p.tag)}${tail(p.tag, p.known, 'It declares')}`,
  'wrong-values': (p: { why: unknown }) => `These values do not fit the event: ${p.why}`,
  'lost-progress': (p: { why: unknown }) => `Not all of this progress can be used: ${p.why}`,
  'no-progress': (p: { file: unknown; why: unknown }) =>
    `There is no progress to begin with from ${describe(p.file)}: ${p.why}.`,
  'no-summon': (p: { who: unknown; by: unknown }) =>
    `${p.by} calls ${describe(p.who)}, and this scenario does not say who that is. Add it to "summons", with the file of its moveset.`,
  'unknown-word': (p: { what: string; word: unknown; by: unknown; known?: readonly unknown[] }) =>
    `${p.by} looks for others by the ${p.what} ${describe(p.word)}, and nobody here has it${tail(p.word, p.known, 'There are')}`,
  'unread-input': (p: { input: unknown }) =>
    `The input ${describe(p.input)} is never used. Use it in a start, a formula or a move, or remove it.`,
  'unknown-version': (p: { known: unknown; value: unknown }) =>
    `This is format ${describe(p.value)}, but this Loggia reads format ${p.known}: write "loggia: ${p.known}" at the top.`,
  'wrong-type': (p: { expected: unknown; found: unknown; known?: readonly unknown[]; hint?: unknown }) =>
    p.found === 'nothing' && /map|^an? (?!number|condition|time|name)/.test(String(p.expected))
      ? `Expected ${p.expected}, but found nothing. Write {} for an empty one.`
      : `Expected ${p.expected}, but found ${p.found}${tail(undefined, p.known, 'Its keys are', p.hint)}`,
} satisfies Record<string, (p: never) => string>;

/** The code of a diagnostic. */
export type Code = keyof typeof FAULTS;

/** What the sentence of a fault needs: names, limits, what was found. */
export type FaultData<C extends Code> =
  Parameters<(typeof FAULTS)[C]> extends [] ? Record<never, never> : Parameters<(typeof FAULTS)[C]>[0];

/** Up to so many names are listed whole. */
const LISTED = 20;

/** The way out: what the rule itself knows, or the nearest of the known names, or, after `lead`, all of them. */
function tail(wrong: unknown, known: readonly unknown[] = [], lead?: string, hint?: unknown): string {
  if (hint) return `. ${hint}`;
  const nearest = typeof wrong === 'string' ? nearestName(wrong, known.map(String)) : undefined;
  if (nearest) return `. Did you mean ${describe(nearest)}?`;
  if (!lead || known.length === 0) return '.';
  if (known.length <= LISTED) return `. ${lead} ${known.map(shown).join(', ')}.`;
  return `. ${lead} ${known.slice(0, LISTED).map(shown).join(', ')} and ${known.length - LISTED} more.`;
}

function shown(name: unknown): string {
  return escapeText(String(name));
}

function words(keys: readonly string[], link = 'or'): string {
  const quoted = keys.map((k) => `"${k}"`);
  return quoted.length === 1 ? quoted[0] : `${quoted.slice(0, -1).join(', ')} ${link} ${quoted.at(-1)}`;
}

function typeName(type: string): string {
  return type === 'truth' ? 'a condition' : type === 'time' ? 'a time' : type === 'number' ? 'a number' : type;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
