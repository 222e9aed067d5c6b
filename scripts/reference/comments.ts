import ts from 'typescript';

/** The comment of a declaration as one line, or undefined. */
export function docOf(node: ts.Node): string | undefined {
  const docs = ts.getJSDocCommentsAndTags(node).filter(ts.isJSDoc);
  const throws = docs.at(-1)?.tags?.flatMap((tag) => {
    if (!ts.isJSDocThrowsTag(tag)) return [];
    const why = String(ts.getTextOfJSDocComment(tag.comment)).replace(/\s+/g, ' ');
    // Every call does that.
    return /^for a (name|lane) that the moveset does not have\.$/.test(why)
      ? []
      : `Throws a ${tag.typeExpression?.type.getText()} ${why}`.replace(' ,', ',');
  });
  const comment = ts.getTextOfJSDocComment(docs.at(-1)?.comment);
  const text = comment ?? (throws?.length ? '' : undefined);
  return text
    ?.concat(...(throws ?? []).map((one) => ` ${one}`))
    .replace(/\{@link (\w+)\}/g, '`$1`')
    .replace(/\s*\n\s*/g, ' ')
    .trim();
}

export function isHidden(node: ts.Node): boolean {
  const flags = ts.getCombinedModifierFlags(node as ts.Declaration);
  if (flags & (ts.ModifierFlags.Private | ts.ModifierFlags.Protected)) return true;
  return ts.getJSDocTags(node).some((tag) => tag.tagName.text === 'internal');
}
