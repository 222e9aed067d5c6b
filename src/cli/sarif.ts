import type { PlacedDiagnostic } from '../format/index.js';

/** What a result needs: a diagnostic, or what was found otherwise. */
export type Result = Pick<PlacedDiagnostic, 'severity' | 'sentence' | 'file' | 'line' | 'column'> & {
  readonly code: string;
};

/** Static Analysis Results Interchange Format 2.1.0, for code hosts and editors that show results in place. */
export function toSarif(diagnostics: readonly Result[]) {
  const rules = [...new Set(diagnostics.map((d) => d.code))].map((id) => ({ id }));
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'loggia', rules } },
        results: diagnostics.map((d) => ({
          ruleId: d.code,
          level: d.severity,
          message: { text: d.sentence },
          locations: [
            {
              physicalLocation: {
                artifactLocation: { uri: addressOf(d.file) },
                region: { startLine: d.line, startColumn: d.column },
              },
            },
          ],
        })),
      },
    ],
  };
}

/** A path as an address: whatever it is made of. */
function addressOf(file: string): string {
  const whole = Buffer.from(file).toString();
  return whole
    .replaceAll('\\', '/')
    .split('/')
    .map(encodeURIComponent)
    .join('/')
    .replace(/^(\w)%3A\//, '$1:/');
}
