import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { MINUTE, STREAMS, type StreamName } from '../../bench/streams.js';
import { YardFight } from '../../bench/yard-fight.js';
import { Character, flatGround } from '../../src/index.js';
import { must, plan, ROOT } from '../support.js';
import { expectAlike } from './alike.js';

const fight = plan(readFileSync(join(ROOT, 'bench/yard-fight.yaml'), 'utf8'));

test.each(Object.keys(STREAMS) as StreamName[])('the fighter by hand and the moveset do the same: %s', (name) => {
  const c = new Character(fight, { world: flatGround() });
  const hand = new YardFight();
  const started = new Set<string>();
  for (let t = 0; t < 2 * MINUTE; t++) {
    for (const { key, input, down } of STREAMS[name][t % MINUTE]) {
      hand.key(key, down);
      if (down) c.door.press(input);
      else c.door.release(input);
    }
    c.tick();
    hand.tick();
    const { readout } = c;
    for (const event of readout.eventCount > 0 ? readout.events : [])
      if (event.kind === 'started') started.add(event.ability);
    expectAlike(t, readout, hand);
    must(Math.abs(readout.pool('oil') - hand.oil) < 5e-7, { t, oil: readout.pool('oil'), wanted: hand.oil });
  }
  const all = fight.names.ability.length;
  expect(started.size).toBe({ real: all, calm: started.size, mashing: all - 1, walking: 0, standing: 0 }[name]);
});
