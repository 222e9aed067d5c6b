import type { Vector } from './events.js';

/** A volume for drawing, where it is now. Plain data. */
export type ShownVolume = {
  /** Whether it strikes, touches, or can be struck. */
  readonly part: 'hit' | 'touch' | 'hurt';
} & (
  | {
      readonly shape: 'box';
      /** Its middle. */
      readonly middle: Vector;
      /** Along facing. */
      readonly width: number;
      /** Upwards. */
      readonly height: number;
      /** Across facing. */
      readonly depth: number;
      /** The level unit vector along which its width is. */
      readonly facing: Vector;
    }
  | {
      /** All that is within a radius of a line: a sphere where both ends are the same, a ray where the radius is 0. */
      readonly shape: 'capsule';
      readonly from: Vector;
      readonly to: Vector;
      readonly radius: number;
    }
);
