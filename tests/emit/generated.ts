import { writeTick } from '../../src/emit/module.js';
import type { Plan } from '../../src/index.js';
import * as library from '../../src/module/index.js';

/** The plan of the module that is generated from a moveset, made from its text. */
export function generated(plan: Plan, formulas = true): Plan {
  const { uses, code } = writeTick(plan, formulas);
  if (!formulas && uses.includes('planOf')) throw new Error(`${plan.name} could not be written whole`);
  const make = new Function(
    'library',
    `const { complete, ${uses.join(', ')} } = library;
${code.join('\n')}
return complete(plan, code);`,
  );
  return make(library);
}

/** The same with its plan written out, without the compiler of formulas. */
export const generatedWhole = (plan: Plan): Plan => generated(plan, false);
