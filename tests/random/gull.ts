import { compileMoveset } from '../../src/index.js';

/** Who may be called: it strikes what is near, and leaves soon. */
export const GULL = compileMoveset({
  loggia: 1,
  name: 'Gull',
  hurt: {},
  stances: { fly: {} },
  abilities: {
    dive: { start: { rule: 'true', once: true }, phases: [{ for: '6f', strike: { sphere: 1, damage: 1 } }] },
    flyOff: { start: { after: 'dive' }, phases: [{ for: '1f', leave: true }] },
  },
});
