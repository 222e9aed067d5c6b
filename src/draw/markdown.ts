/** Text of any origin within a cell or a heading. */
export function markdownText(text: string): string {
  return text.replaceAll('\\', '\\\\').replaceAll('|', '\\|').replaceAll('<', '&lt;').replaceAll('\n', ' ');
}

/** A table, line by line. */
export function markdownTable(heads: readonly string[], rows: readonly (readonly string[])[]): string[] {
  return [heads, heads.map(() => '---'), ...rows.map((row) => row.map(markdownText))].map(
    (cells) => `| ${cells.join(' | ')} |`,
  );
}
