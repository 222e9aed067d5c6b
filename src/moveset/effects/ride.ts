import { js, at as numberAt, to, when } from '../../record/code.js';
import type { Frame } from '../../record/frame.js';
import { R_AT, R_MARK, R_STEERS } from '../../record/ride.js';
import { MARK_SET } from '../../record/slots.js';
import { writtenLines } from '../../record/written.js';
import type { AnyMark, NameTypes, Uses } from '../name-types.js';
import { fields, list, name, number, optional, required, truth } from '../shape.js';
import { effect } from './effect.js';

/** The key `ride` of what has effects. */
export interface RideField<N extends NameTypes> {
  /**
   * Keeps the body at a mark while it lasts and the mark is set, as far as the world lets it: on a mount, in the arms of a carrier, at a rope, on a
   * drifting hulk. Nothing else moves it meanwhile; when it ends, it goes on as fast as it was taken along.
   */
  ride?: Ride<Uses<N>>;
}

/** Where a body is taken along. */
export interface Ride<N extends NameTypes = NameTypes> {
  /** The mark that it is kept at: set it `on(...)` what moves. */
  on: AnyMark<N>;
  /** Where its feet are from the mark: [forward, up], forward as who the mark is on faces, else as it faces itself. Default [0, 0]. */
  at?: readonly [forward: number, up: number, side?: number];
  /** Whom it rides hears its buttons and sticks, those that both have by their names, and is played by nobody else. Default false. */
  steers?: boolean;
}

/** @internal */
export const rideShape = fields('a ride', {
  on: required(name('mark'), 'the mark that it is kept at.'),
  at: optional(list(number(-1000, 1000), { min: 2, max: 3 })),
  steers: optional(truth()),
});

/** @internal */
export const rideEffect = effect('ride', rideShape, (value, tools) => {
  const at = tools.rideAt;
  const mark = tools.markAt(value.on);
  const [x = 0, y = 0, z = 0] = value.at ?? [];
  const steers = value.steers ? 1 : 0;
  return {
    fold: writtenLines(
      ({ r }: Frame) => {
        if (r[mark + MARK_SET] === 0) return;
        r[at + R_MARK] = mark;
        r[at + R_AT] = x;
        r[at + R_AT + 1] = y;
        r[at + R_AT + 2] = z;
        r[at + R_STEERS] = steers;
      },
      () => [
        when(js`${numberAt(mark + MARK_SET)} !== 0`, [
          js`${to(at + R_MARK)} = ${mark};`,
          js`${to(at + R_AT)} = ${x};`,
          js`${to(at + R_AT + 1)} = ${y};`,
          js`${to(at + R_AT + 2)} = ${z};`,
          js`${to(at + R_STEERS)} = ${steers};`,
        ]),
      ],
    ),
  };
});
