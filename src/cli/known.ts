import { nearestName } from '../report/nearest.js';
import { type Io, safe } from './io.js';

/** Whether there is something of that name; says so if there is not. */
export function known(command: string, what: string, name: string, names: readonly string[], io: Io): boolean {
  if (names.includes(name)) return true;
  const nearest = nearestName(name, [...names]);
  const way = nearest === undefined ? `There are ${names.map(safe).join(', ')}.` : `Did you mean "${safe(nearest)}"?`;
  io.err(`loggia ${command}: there is no ${what} "${safe(name)}". ${way}`);
  return false;
}
