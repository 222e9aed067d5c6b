import { nearestOrAll } from '../report/nearest.js';
import { type Io, safe } from './io.js';

/** Whether there is something of that name; says so if there is not. */
export function known(command: string, what: string, name: string, names: readonly string[], io: Io): boolean {
  if (names.includes(name)) return true;
  io.err(safe(`loggia ${command}: there is no ${what} "${name}". ${nearestOrAll(name, names)}`));
  return false;
}
