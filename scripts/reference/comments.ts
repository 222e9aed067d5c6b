import ts from 'typescript';

/** The comment of a declaration as one line, or undefined. */
export function docOf(node: ts.Node): string | undefined {
  const docs = ts.getJSDocCommentsAndTags(node).filter(ts.isJSDoc);
  const text = ts.getTextOfJSDocComment(docs.at(-1)?.comment);
  return text
    ?.replace(/\{@link (\w+)\}/g, '`$1`')
    .replace(/\s*\n\s*/g, ' ')
    .trim();
}

export function isHidden(node: ts.Node): boolean {
  const flags = ts.getCombinedModifierFlags(node as ts.Declaration);
  if (flags & (ts.ModifierFlags.Private | ts.ModifierFlags.Protected)) return true;
  return ts.getJSDocTags(node).some((tag) => tag.tagName.text === 'internal');
}
