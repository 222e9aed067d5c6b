import type { FactDoc } from '../analysis/fact-docs.js';
import type { CommandSpec } from './command.js';
import { type Io, refuse, safe } from './io.js';

export const facts: CommandSpec = {
  name: 'facts',
  summary: 'List everything that formulas of a moveset can read, with its type and meaning.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [['--json', 'print the list as JSON']],
  example: 'loggia facts demo/boatyard/pell.yaml',
  async run([file], { json }, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { documentFacts, factsOfOthers, FUNCTION_DOCS } = await import('../analysis/fact-docs.js');
    const { names, factNames, diagnostics, plan } = await loadMoveset(file);
    // A file with errors has facts all the same: a wrong formula is why people ask for them.
    if (!names || !factNames)
      return refuse(io, diagnostics, `loggia facts: ${safe(file)} cannot be read; fix that first.`);
    const own = documentFacts(names, factNames(), (fact) => plan?.reading(fact)?.type);
    const known = own.some(({ key }) => key === 'foe.there') ? [...own, ...factsOfOthers(names)] : own;
    if (json) {
      const rows = known.map(({ key, doc }) => ({
        fact: key,
        gives: doc?.gives,
        doc: doc?.doc,
        otherwise: doc?.otherwise,
      }));
      io.out(JSON.stringify({ facts: rows, functions: FUNCTION_DOCS }, null, 2));
      return 0;
    }
    printFamilies(known, io);
    io.out(io.color.bold('Functions'));
    for (const [write, doc] of Object.entries(FUNCTION_DOCS)) io.out(`  ${write.padEnd(26)} ${doc}`);
    return 0;
  },
};

/** Facts of one kind and meaning share a line, since a moveset may have hundreds of names. */
function printFamilies(known: readonly { key: string; doc: FactDoc | undefined }[], io: Io): void {
  const families = new Map<string, Map<FactDoc, string[]>>();
  for (const { key, doc } of known) {
    if (!doc) continue;
    const family = families.get(doc.family) ?? new Map<FactDoc, string[]>();
    family.set(doc, [...(family.get(doc) ?? []), key]);
    families.set(doc.family, family);
  }
  for (const [family, docs] of families) {
    io.out(io.color.bold(family));
    for (const [doc, keys] of docs) {
      const otherwise = doc.otherwise ? io.color.dim(` (${doc.otherwise})`) : '';
      io.out(`  ${doc.write.padEnd(26)} ${doc.gives.padEnd(9)}  ${doc.doc}${otherwise}`);
      if (doc.write.includes('{')) for (const line of wrap(keys, 100)) io.out(io.color.cyan(`      ${line}`));
    }
  }
}

function wrap(words: readonly string[], width: number): string[] {
  const lines: string[] = [];
  for (const word of words) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length + 2 <= width) lines[lines.length - 1] = `${last}, ${word}`;
    else lines.push(word);
  }
  return lines;
}
