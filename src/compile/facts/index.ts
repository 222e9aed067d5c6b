import { abilityFacts, conditionFacts, loadoutFacts } from './abilities.js';
import { blowFacts, foeFacts } from './blows.js';
import { bodyFacts } from './body.js';
import { eventFacts, heardFacts } from './events.js';
import type { Add, Fact, FactTools } from './fact.js';
import { inputFacts } from './inputs.js';
import { aheadFacts, pointFacts } from './points.js';
import { poolFacts } from './pools.js';
import { probeFacts } from './probes.js';

/** Every fact; a new family is a function like these and a name here. */
const FAMILIES: readonly ((add: Add, tools: FactTools) => void)[] = [
  conditionFacts,
  bodyFacts,
  inputFacts,
  poolFacts,
  abilityFacts,
  eventFacts,
  loadoutFacts,
  probeFacts,
  pointFacts,
  aheadFacts,
  blowFacts,
  foeFacts,
];

/** All facts of a moveset by the text that names them in a formula. */
export function allFacts(tools: FactTools): Record<'facts' | 'inside', Map<string, () => Fact>> {
  const facts = new Map<string, () => Fact>();
  const inside = new Map<string, () => Fact>();
  const conditions = new Set(tools.names.condition);
  const add: Add = (key, make) => {
    if (facts.has(key) && conditions.has(key)) tools.clash(key);
    facts.set(key, make);
  };
  for (const family of FAMILIES) family(add, tools);
  heardFacts((key, make) => void inside.set(key, make), tools);
  return { facts, inside };
}
