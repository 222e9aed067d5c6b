import { MODULE } from '../../src/compile/unpack.js';
import { emitTick } from '../../src/emit/tick.js';
import { type Plan, packMoveset } from '../../src/index.js';
import * as library from '../../src/module/index.js';

/** The plan of the module that is generated from a moveset, made from its text; `change` spoils the text before. */
export function generated(plan: Plan, change = (body: string) => body): Plan {
  const { uses, code } = emitTick(plan);
  const own = library.planOf(MODULE, JSON.parse(JSON.stringify(packMoveset(plan))));
  const make = new Function(
    'library',
    'plan',
    `const { ${uses.join(', ')} } = library;
const { abilities, loadouts, phases, pools, stances, triggers } = plan;
${change(code.join('\n'))}
return { takeIn, notePress, decide, move, tick };`,
  );
  return library.complete(own, make(library, own));
}
