/** How something is drawn; what is left out is not drawn. */
export interface Ink {
  readonly fill?: string;
  readonly stroke?: string;
  /** Default 1. */
  readonly width?: number;
  readonly dash?: readonly number[];
  /** From 0 to 1. Default 1. */
  readonly alpha?: number;
}

export interface TextInk {
  readonly fill: string;
  readonly size: number;
  readonly bold?: boolean;
  /** Which part of it stands at the place. Default start. */
  readonly anchor?: 'start' | 'middle' | 'end';
}

/** What pictures are drawn with: a text of SVG, or a canvas. Pixels, y downwards. */
export interface Pen {
  rect(x: number, y: number, width: number, height: number, ink: Ink, radius?: number): void;
  circle(x: number, y: number, radius: number, ink: Ink): void;
  /** A line through points, given as x, y, x, y; NaN lifts the pen. */
  line(points: readonly number[], ink: Ink, closed?: boolean): void;
  /** `y` is that of the base line. */
  text(x: number, y: number, text: string, ink: TextInk): void;
  /** Draws only within a rectangle. */
  within(x: number, y: number, width: number, height: number, draw: () => void): void;
}
