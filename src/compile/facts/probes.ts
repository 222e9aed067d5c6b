import { asked, type Code, enclose, equal, hasBit, js, at as slot } from '../../record/code.js';
import { PROBE, Q_DISTANCE, Q_HIT, Q_NORMAL, Q_POINT, Q_SURFACES, Q_VELOCITY } from '../../record/layout.js';
import type { Add, Fact, FactRows, FactTools } from './fact.js';
import { AXES, truth } from './fact.js';

export function probeFacts(add: Add, tools: FactTools): void {
  tools.names.probe.forEach((name, i) => {
    const at = tools.probesAt + i * PROBE;
    const found = (code: Code) => enclose(js`${asked('probe')}(${i}), ${code}`);
    const number = (offset: number) => (): Fact => ({
      type: 'number',
      operand: tools.scratch(
        (c, out) => {
          c.probe(i);
          c.r[out] = c.r[at + offset];
        },
        () => found(slot(at + offset)),
      ),
    });
    add(`${name}.hit`, () =>
      truth(
        (c) => {
          c.probe(i);
          return c.r[at + Q_HIT] === 1;
        },
        () => found(equal(slot(at + Q_HIT), 1)),
      ),
    );
    add(`${name}.distance`, number(Q_DISTANCE));
    tools.names.surface.forEach((surface, k) => {
      add(`${name}.on(${surface})`, () =>
        truth(
          (c) => {
            c.probe(i);
            return (c.r[at + Q_SURFACES] & (1 << k)) !== 0;
          },
          () => found(hasBit(at + Q_SURFACES, 1 << k)),
        ),
      );
    });
    AXES.forEach((axis, k) => {
      add(`${name}.v${axis}`, number(Q_VELOCITY + k));
      add(`${name}.${axis}`, number(Q_POINT + k));
      add(`${name}.normal.${axis}`, number(Q_NORMAL + k));
    });
  });
}

/** What the reference says of them. */
export const PROBES_DOCS: FactRows = {
  Probes: [
    ['{probe}.hit', 'condition', 'The probe hits something.'],
    ['{probe}.distance', 'number', 'Distance to what it hits.', 'its reach on a miss'],
    ['{probe}.x', 'number', 'Where it hits.', 'the end of the ray on a miss'],
    ['{probe}.y', 'number', 'Where it hits.', 'the end of the ray on a miss'],
    ['{probe}.z', 'number', 'Where it hits.', 'the end of the ray on a miss'],
    ['{probe}.on({surface})', 'condition', 'What it hits has this surface.'],
    ['{probe}.vx', 'number', 'Velocity of what it hits, per second.', '0 on a miss'],
    ['{probe}.vy', 'number', 'Velocity of what it hits, per second.', '0 on a miss'],
    ['{probe}.vz', 'number', 'Velocity of what it hits, per second.', '0 on a miss'],
    ['{probe}.normal.x', 'number', 'Normal of what it hits.', '0 on a miss'],
    ['{probe}.normal.y', 'number', 'Normal of what it hits.', '0 on a miss'],
    ['{probe}.normal.z', 'number', 'Normal of what it hits.', '0 on a miss'],
  ],
};
