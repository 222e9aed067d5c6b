/** Cells as a line of comma-separated values (RFC 4180). */
export function csvLine(cells: readonly unknown[]): string {
  return cells
    .map((cell) => {
      const text = String(cell ?? '');
      return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
    })
    .join(',');
}
