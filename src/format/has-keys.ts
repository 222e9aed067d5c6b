import { isPlain } from '../moveset/read.js';
import { readText } from './read-text.js';
import { YamlFile } from './yaml-file.js';

/**
 * Whether a file of YAML or JSON has one of some keys at its top, however it is written. One that cannot be read counts if it has such a word anywhere: whoever
 * takes it for his own will tell what is wrong with it.
 */
export function hasKeys(file: string, keys: readonly string[]): boolean {
  const read = readText(file);
  if ('fault' in read) return false;
  const { data } = new YamlFile(read.text, file, '');
  if (isPlain(data)) return keys.some((key) => Object.hasOwn(data, key));
  return data === undefined && keys.some((key) => read.text.includes(key));
}
