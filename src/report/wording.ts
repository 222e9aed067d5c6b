import type { Code, Diagnostic } from './diagnostic.js';
import { nearestName } from './nearest.js';
import { describe, withArticle } from './words.js';

type Params = Record<string, any>;

const SENTENCES: Record<Code, (p: Params) => string> = {
  'alias-expansion': (p) =>
    `The aliases of this file expand to more than ${p.limit} values; write the repeated part once.`,
  'bad-name': (p) =>
    `${describe(p.value)} cannot be a name: begin with a letter, go on with letters, digits or underscores, and do not use a word of the formulas.`,
  'bad-text': (p) => `${describe(p.value)} is not ${p.expected}.`,
  'bad-time': (p) =>
    `${describe(p.value)} is not a time: write seconds, milliseconds or ticks, like 0.2s, 200ms or 12f.`,
  'duplicate-key': (p) => `The key ${describe(p.key)} stands here twice; keep one of them.`,
  empty: (p) => `This file is empty; ${p.hint}.`,
  'file-too-large': (p) => `This file has ${p.size} bytes; ${p.limit} are the most that is read.`,
  'file-unreadable': (p) => `This file cannot be read: ${p.why}.`,
  'formula-argument': (p) => `${p.name} takes ${p.expected}, not ${p.found}.`,
  'formula-depth': (p) => `This formula has more than ${p.limit} ${p.of}; split it.`,
  'formula-name': (p) => `There is no fact or function ${describe(p.name)} here${tail(p.name, p.known)}`,
  'formula-syntax': (p) => `Expected ${p.expected} but found ${p.found}${p.hint ? `; ${p.hint}` : ''}.`,
  'formula-type': (p) =>
    `${p.what} must be ${typeName(p.expected)}, but this is ${typeName(p.found)}${p.hint ? `; ${p.hint}` : ''}.`,
  'missing-key': (p) => `${capital(p.title)} needs ${describe(p.key)}: ${p.doc}`,
  'name-clash': (p) =>
    `${describe(p.name)} is the name of both ${withArticle(p.first)} and ${withArticle(p.second)}; rename one of them.`,
  'never-ends': (p) =>
    `The ability ${describe(p.ability)} would never end: ${p.why}. Give its last phase a "for" or "until", or the ability an "end".`,
  'not-utf8': (p) => `This file is not UTF-8: byte ${p.at} begins no character. Save it as UTF-8.`,
  'one-of-keys': (p) =>
    p.present.length > 1
      ? `${capital(p.title)} may have only one of ${words(p.keys)}, but ${words(p.present, 'and')} stand here.`
      : `${capital(p.title)} needs one of ${words(p.keys)}.`,
  'out-of-range': (p) =>
    `${describe(p.value)} is out of range: ${p.whole ? 'a whole number ' : ''}from ${p.min} to ${p.max} is allowed.`,
  'stance-last': (p) =>
    `The last stance, ${describe(p.stance)}, must have no "when", so that there always is a stance.`,
  'stance-unreachable': (p) =>
    `The stance ${describe(p.stance)} has no "when", so no stance after it can ever hold; move it to the end.`,
  'bound-twice': (p) =>
    `${describe(p.source)} is bound to both ${words(p.inputs, 'and')}; give one of them another key.`,
  'clip-length': (p) =>
    `The clip ${describe(p.clip)} lasts ${p.clipTicks}f, but ${p.what} lasts ${p.ticks}f; make one of them fit.`,
  'clip-unknown': (p) => `There is no clip ${describe(p.clip)} in the table${tail(p.clip, p.known)}`,
  'include-clash': (p) => `${describe(p.key)} stands in both ${p.first} and ${p.second}; say here which one is meant.`,
  'include-cycle': (p) => `This file includes itself: ${p.way.join(' includes ')}.`,
  'include-unread': () => 'Only files include others: load this one with loadMoveset or parseMoveset.',
  'include-outside': (p) => `${describe(p.value)} is outside of ${p.root}; only files below it are included.`,
  'lost-loadout': (p) =>
    `${describe(p.ability)} wears the loadout ${describe(p.loadout)}, in which it is not itself: it would end as it begins. Add it there.`,
  'no-drain': (p) =>
    `The upkeep of ${p.upkeep} a second never drains ${describe(p.pool)}, which regains ${p.regen} a second meanwhile; raise it, or give the pool a "rest".`,
  'no-follow': (p) =>
    `${describe(p.ability)} can never follow ${describe(p.other)}: no phase of it is "open" to it, and no time after it is given.`,
  'no-release': (p) =>
    `Nothing ever lets this charge go: ${describe(p.ability)} is started by no input. Give it "full: go" or an "until".`,
  'no-start': (p) => `${describe(p.ability)} can never start: ${p.why}.`,
  'same-press': (p) =>
    `${describe(p.first)} and ${describe(p.second)} answer the same press in the same lane from the same stances, so the second never does; tell them apart by "from", "when", "follows" or a more specific start.`,
  'short-cooldown': (p) =>
    `The cooldown of ${p.cooldown}f is over before ${describe(p.ability)} is, which lasts ${p.ticks}f; count it from the end, or make it longer.`,
  syntax: (p) => `This is not well-formed: ${p.why}`,
  'time-range': (p) =>
    `${describe(p.value)} is out of range: from ${p.min === 0 ? '0' : `${p.min}f`} to ${p.longest} is allowed.`,
  'time-rounded': (p) =>
    `${describe(p.value)} is not a whole number of ticks at ${p.rate} a second; it becomes ${p.ticks}f.`,
  'too-deep': (p) => `This file nests deeper than ${p.limit} levels.`,
  'too-many': (p) =>
    p.count < p.min
      ? `At least ${p.min} must stand here, but there are ${p.count}.`
      : `At most ${p.max} may stand here, but there are ${p.count}.`,
  'unbound-input': (p) =>
    `Nothing is bound to the input ${describe(p.input)}; bind a key, or allow it if code presses it.`,
  'unknown-key': (p) => `${capital(p.title)} has no key ${describe(p.key)}${tail(p.key, p.known, 'It has')}`,
  'unknown-name': (p) => `There is no ${p.what} ${describe(p.value)}${tail(p.value, p.known, 'There are')}`,
  'unread-input': (p) =>
    `Nobody reads the input ${describe(p.input)}; use it in a start, a formula or a move, or take it out.`,
  'unknown-version': (p) =>
    `This is format ${describe(p.value)}, but this Loggia reads format ${p.known}: write "loggia: ${p.known}" at the top.`,
  'wrong-type': (p) => `Expected ${p.expected}, but found ${p.found}${tail(undefined, p.known, 'It has')}`,
};

/** The sentence for a diagnostic, without its place. */
export function wordDiagnostic(d: Diagnostic): string {
  return SENTENCES[d.code](d.params as Params);
}

/** `abilities.hop.phases[0].for` */
export function wordPath(path: Diagnostic['path']): string {
  let out = '';
  for (const part of path) {
    if (typeof part === 'number') out += `[${part}]`;
    else out += (out && '.') + (/^[\w.]+$/.test(part) ? part : JSON.stringify(part).slice(0, 60));
  }
  return out || 'the top';
}

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
