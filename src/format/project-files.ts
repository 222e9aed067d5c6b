/** Which files of a folder a page may see, wherever it reads them: so many, of so many bytes, with these endings. */
export const MOST_FILES = 2000;
export const MOST_BYTES = 1 << 20;
export const NAMES = /\.(ya?ml|json)$/;

/** Whether a folder holds what others made. */
export function isSkipped(folder: string): boolean {
  return folder.startsWith('.') || ['node_modules', 'dist', 'build'].includes(folder);
}

/** The sentence of a scenario, without reading the whole of it; undefined for what is none. */
export function scenarioSentence(text: string): string | undefined {
  const found = /^scenario:[ \t]*(.+)$/m.exec(text)?.[1];
  return found?.replace(/^(['"])(.*)\1$/, '$2').slice(0, 200);
}
