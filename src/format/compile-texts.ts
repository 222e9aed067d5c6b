import { type Diagnostic, Sink } from '../report/diagnostic.js';
import { type Loaded, parseMoveset } from './parse.js';

/** A moveset from texts that are there already, by the names of their files: one of them is the first, which may include the others. */
export function compileTexts(files: readonly { readonly name: string; readonly text: string }[], main: string): Loaded {
  const find = (name: string) => files.find((file) => file.name === name)?.text;
  return parseMoveset(find(main) ?? '', main, {
    allows: () => true,
    read(path) {
      const text = find(path);
      return text === undefined ? { fault: missing(path) } : { text };
    },
  });
}

function missing(file: string): Diagnostic {
  const sink = new Sink();
  sink.add('file-unreadable', [], { why: `${file} is not part of this run` });
  return sink.list[0];
}
