import { Document, isCollection, visit } from 'yaml';

const WIDTH = 100;

/** Data as YAML, as a person would write it: what fits into a line stands in one. */
export function writeYaml(data: Readonly<Record<string, unknown>>): string {
  const document = new Document(data);
  visit(document, {
    Collection(_, node, path) {
      if (node === document.contents) return;
      if (JSON.stringify(node).length > WIDTH - path.length) return;
      node.flow = true;
      return visit.SKIP;
    },
  });
  if (isCollection(document.contents)) document.contents.flow = false;
  return document.toString({ lineWidth: WIDTH + 20 });
}
