import { nearestName } from './nearest.js';
import { describe, withArticle } from './words.js';

/**
 * Every fault that a moveset or scenario can have: its code, what the rule that finds it tells of it, and its sentence.
 * A new one is an entry here and a `sink.add` where the rule is.
 */
export const FAULTS = {
  'alias-expansion': (p: { limit: unknown }) =>
    `The aliases of this file expand to more than ${p.limit} values; write the repeated part once.`,
  'bad-name': (p: { value: unknown }) =>
    `${describe(p.value)} cannot be a name: begin with a letter, go on with letters, digits or underscores, and do not use a word of the formulas.`,
  'bad-text': (p: { expected: unknown; value: unknown }) => `${describe(p.value)} is not ${p.expected}.`,
  'bad-time': (p: { value: unknown }) =>
    `${describe(p.value)} is not a time: write seconds, milliseconds or ticks, like 0.2s, 200ms or 12f.`,
  'duplicate-key': (p: { key: unknown }) => `The key ${describe(p.key)} stands here twice; keep one of them.`,
  empty: (p: { hint?: unknown }) => `This file is empty; ${p.hint}.`,
  'file-too-large': (p: { limit: unknown; size: unknown }) =>
    `This file has ${p.size} bytes; ${p.limit} are the most that is read.`,
  'file-unreadable': (p: { why: unknown }) => `This file cannot be read: ${p.why}.`,
  'formula-argument': (p: { expected: unknown; found: unknown; name: unknown }) =>
    `${p.name} takes ${p.expected}, not ${p.found}.`,
  'formula-depth': (p: { limit: unknown; of: unknown }) => `This formula has more than ${p.limit} ${p.of}; split it.`,
  'formula-name': (p: { known?: readonly unknown[]; name: unknown }) =>
    `There is no fact or function ${describe(p.name)} here${tail(p.name, p.known)}`,
  'formula-syntax': (p: { expected: unknown; found: unknown; hint?: unknown }) =>
    `Expected ${p.expected} but found ${p.found}${p.hint ? `; ${p.hint}` : ''}.`,
  'formula-type': (p: { expected: string; found: string; hint?: unknown; what: unknown }) =>
    `${p.what} must be ${typeName(p.expected)}, but this is ${typeName(p.found)}${p.hint ? `; ${p.hint}` : ''}.`,
  'missing-key': (p: { doc?: unknown; key: unknown; title: string }) =>
    `${capital(p.title)} needs ${describe(p.key)}: ${p.doc}`,
  'name-clash': (p: { first: string; name: unknown; second: string }) =>
    `${describe(p.name)} is the name of both ${withArticle(p.first)} and ${withArticle(p.second)}; rename one of them.`,
  'never-ends': (p: { ability: unknown; why: unknown }) =>
    `The ability ${describe(p.ability)} would never end: ${p.why}. Give its last phase a "for" or "until", or the ability an "end".`,
  'not-utf8': (p: { at: unknown }) => `This file is not UTF-8: byte ${p.at} begins no character. Save it as UTF-8.`,
  'one-of-keys': (p: { keys: readonly string[]; present: readonly string[]; title: string }) =>
    p.present.length > 1
      ? `${capital(p.title)} may have only one of ${words(p.keys)}, but ${words(p.present, 'and')} stand here.`
      : `${capital(p.title)} needs one of ${words(p.keys)}.`,
  'out-of-range': (p: { max: unknown; min: unknown; value: unknown; whole?: unknown }) =>
    `${describe(p.value)} is out of range: ${p.whole ? 'a whole number ' : ''}from ${p.min} to ${p.max} is allowed.`,
  'stance-last': (p: { stance: unknown }) =>
    `The last stance, ${describe(p.stance)}, must have no "when", so that there always is a stance.`,
  'stance-unreachable': (p: { stance: unknown }) =>
    `The stance ${describe(p.stance)} has no "when", so no stance after it can ever hold; move it to the end.`,
  'bound-twice': (p: { inputs: readonly string[]; source: unknown }) =>
    `${describe(p.source)} is bound to both ${words(p.inputs, 'and')}; give one of them another key.`,
  'clip-length': (p: { clip: unknown; clipTicks: unknown; ticks: unknown; what: unknown }) =>
    `The clip ${describe(p.clip)} lasts ${p.clipTicks}f, but ${p.what} lasts ${p.ticks}f; make one of them fit.`,
  'clip-unknown': (p: { clip: unknown; known?: readonly unknown[] }) =>
    `There is no clip ${describe(p.clip)} in the table${tail(p.clip, p.known)}`,
  'include-clash': (p: { first: unknown; key: unknown; second: unknown }) =>
    `${describe(p.key)} stands in both ${p.first} and ${p.second}; say here which one is meant.`,
  'include-cycle': (p: { way: readonly string[] }) => `This file includes itself: ${p.way.join(' includes ')}.`,
  'include-unread': () => 'Only files include others: load this one with loadMoveset or parseMoveset.',
  'include-outside': (p: { root: unknown; value: unknown }) =>
    `${describe(p.value)} is outside of ${p.root}; only files below it are included.`,
  'lost-loadout': (p: { ability: unknown; loadout: unknown }) =>
    `${describe(p.ability)} wears the loadout ${describe(p.loadout)}, in which it is not itself: it would end as it begins. Add it there.`,
  'no-drain': (p: { pool: unknown; regen: unknown; upkeep: unknown }) =>
    `The upkeep of ${p.upkeep} a second never drains ${describe(p.pool)}, which regains ${p.regen} a second meanwhile; raise it, or give the pool a "rest".`,
  'no-follow': (p: { ability: unknown; other: unknown }) =>
    `${describe(p.ability)} can never follow ${describe(p.other)}: no phase of it is "open" to it, and no time after it is given.`,
  'no-release': (p: { ability: unknown }) =>
    `Nothing ever lets this charge go: ${describe(p.ability)} is started by no input. Give it "full: go" or an "until".`,
  'no-start': (p: { ability: unknown; why: unknown }) => `${describe(p.ability)} can never start: ${p.why}.`,
  'same-press': (p: { first: unknown; second: unknown }) =>
    `${describe(p.first)} and ${describe(p.second)} answer the same press in the same lane from the same stances, so the second never does; tell them apart by "from", "when", "follows" or a more specific start.`,
  'short-cooldown': (p: { ability: unknown; cooldown: unknown; ticks: unknown }) =>
    `The cooldown of ${p.cooldown}f is over before ${describe(p.ability)} is, which lasts ${p.ticks}f; count it from the end, or make it longer.`,
  syntax: (p: { why: unknown }) => `This is not well-formed: ${p.why}`,
  'time-range': (p: { longest: unknown; min: unknown; value: unknown }) =>
    `${describe(p.value)} is out of range: from ${p.min === 0 ? '0' : `${p.min}f`} to ${p.longest} is allowed.`,
  'time-rounded': (p: { rate: unknown; ticks: unknown; value: unknown }) =>
    `${describe(p.value)} is not a whole number of ticks at ${p.rate} a second; it becomes ${p.ticks}f.`,
  'too-deep': (p: { limit: unknown }) => `This file nests deeper than ${p.limit} levels.`,
  'too-many': (p: { count: number; max: number; min: number }) =>
    p.count < p.min
      ? `At least ${p.min} must stand here, but there are ${p.count}.`
      : `At most ${p.max} may stand here, but there are ${p.count}.`,
  'unbound-input': (p: { input: unknown }) =>
    `Nothing is bound to the input ${describe(p.input)}; bind a key, or allow it if code presses it.`,
  'unknown-key': (p: { key: unknown; known?: readonly unknown[]; title: string }) =>
    `${capital(p.title)} has no key ${describe(p.key)}${tail(p.key, p.known, 'It has')}`,
  'unknown-name': (p: { known?: readonly unknown[]; value: unknown; what: unknown }) =>
    `There is no ${p.what} ${describe(p.value)}${tail(p.value, p.known, 'There are')}`,
  'unread-input': (p: { input: unknown }) =>
    `Nobody reads the input ${describe(p.input)}; use it in a start, a formula or a move, or take it out.`,
  'unknown-version': (p: { known: unknown; value: unknown }) =>
    `This is format ${describe(p.value)}, but this Loggia reads format ${p.known}: write "loggia: ${p.known}" at the top.`,
  'wrong-type': (p: { expected: unknown; found: unknown; known?: readonly unknown[] }) =>
    `Expected ${p.expected}, but found ${p.found}${tail(undefined, p.known, 'It has')}`,
} satisfies Record<string, (p: never) => string>;

export type Code = keyof typeof FAULTS;

/** What the sentence of a fault needs: names, limits, what was found. */
export type Told<C extends Code> =
  Parameters<(typeof FAULTS)[C]> extends [] ? Record<never, never> : Parameters<(typeof FAULTS)[C]>[0];

/** The way out: the nearest of the known names, or, after `lead`, all of them. */
function tail(wrong: unknown, known: readonly unknown[] = [], lead?: string): string {
  const nearest = typeof wrong === 'string' ? nearestName(wrong, known.map(String)) : undefined;
  if (nearest) return `. Did you mean ${describe(nearest)}?`;
  if (!lead || known.length === 0) return '.';
  const shown = known.slice(0, 12).map(String).join(', ');
  return `. ${lead} ${shown}${known.length > 12 ? ' and more' : ''}.`;
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
