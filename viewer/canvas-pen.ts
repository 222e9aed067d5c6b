import type { Ink, Pen, TextInk } from '../src/draw/pen.js';

const FACE = 'system-ui, "Segoe UI", "DejaVu Sans", sans-serif';

/** Draws on a canvas. */
export class CanvasPen implements Pen {
  constructor(private readonly on: CanvasRenderingContext2D) {}

  rect(x: number, y: number, width: number, height: number, ink: Ink, radius = 0): void {
    const { on } = this;
    if (radius === 0 && !ink.stroke) {
      on.globalAlpha = ink.alpha ?? 1;
      on.fillStyle = ink.fill ?? 'transparent';
      on.fillRect(x, y, Math.max(0, width), height);
      on.globalAlpha = 1;
      return;
    }
    on.beginPath();
    if (radius > 0) on.roundRect(x, y, Math.max(0, width), height, radius);
    else on.rect(x, y, Math.max(0, width), height);
    this.paint(ink);
  }

  circle(x: number, y: number, radius: number, ink: Ink): void {
    this.on.beginPath();
    this.on.arc(x, y, radius, 0, Math.PI * 2);
    this.paint(ink);
  }

  line(points: readonly number[], ink: Ink, closed = false): void {
    const { on } = this;
    on.beginPath();
    let drawn = false;
    for (let i = 0; i + 1 < points.length; i += 2) {
      if (Number.isNaN(points[i + 1])) drawn = false;
      else if (drawn) on.lineTo(points[i], points[i + 1]);
      else {
        on.moveTo(points[i], points[i + 1]);
        drawn = true;
      }
    }
    if (closed) on.closePath();
    this.paint(ink);
  }

  text(x: number, y: number, text: string, { fill, size, bold, anchor = 'start' }: TextInk): void {
    const { on } = this;
    on.font = `${bold ? '600 ' : ''}${size}px ${FACE}`;
    on.textAlign = anchor === 'middle' ? 'center' : anchor;
    on.fillStyle = fill;
    on.fillText(text, x, y);
  }

  within(x: number, y: number, width: number, height: number, draw: () => void): void {
    const { on } = this;
    on.save();
    on.beginPath();
    on.rect(x, y, width, height);
    on.clip();
    draw();
    on.restore();
  }

  private paint({ fill, stroke, width = 1, dash, alpha = 1 }: Ink): void {
    const { on } = this;
    on.globalAlpha = alpha;
    if (fill) {
      on.fillStyle = fill;
      on.fill();
    }
    if (stroke) {
      on.strokeStyle = stroke;
      on.lineWidth = width;
      on.setLineDash(dash ? [...dash] : []);
      on.stroke();
    }
    on.globalAlpha = 1;
  }
}
