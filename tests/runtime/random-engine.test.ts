import { expect, test } from 'vitest';
import { flatGround } from '../../src/index.js';
import { Engine } from '../random/engine.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { create, makeScript } from '../random/play.js';

test('random movesets: an engine that does what drive says gives the same run as the own mover', () => {
  let moved = 0;
  forRandom(MOVESETS / 4, (random) => {
    const plan = makeMoveset(random, { probes: false });
    const script = makeScript(random, plan, TICKS, { place: false });
    const own = create(plan, flatGround(1));
    const hosted = create(plan, undefined);
    const engine = new Engine(plan.dt);
    const isContact = (kind: string) => kind === 'landed' || kind === 'airborne';
    let told: string[] = [];
    for (let i = 0; i < TICKS; i++) {
      hosted.door.contacts(engine);
      for (const c of [own, hosted]) {
        for (const action of script.actions[i]) action(c);
        c.tick();
      }
      // What the engine tells is known one tick later than what the own mover finds.
      const [a, b] = [own, hosted].map((c) => c.readout.events);
      expect([i, b.filter((e) => !isContact(e.kind))]).toEqual([i, a.filter((e) => !isContact(e.kind))]);
      expect([i, b.filter((e) => isContact(e.kind)).map((e) => e.kind)]).toEqual([i, told]);
      told = a.filter((e) => isContact(e.kind)).map((e) => e.kind);
      engine.step(hosted);
      expect([i, engine.x, engine.y, engine.z]).toEqual([i, own.readout.x, own.readout.y, own.readout.z]);
      expect(hosted.readout.shape).toBe(own.readout.shape);
      for (const pool of plan.names.pool) expect(hosted.readout.pool(pool)).toBe(own.readout.pool(pool));
      if (engine.vy !== 0) moved++;
    }
  });
  if (MOVESETS > 100) expect(moved).toBeGreaterThan(MOVESETS);
}, 300_000);
