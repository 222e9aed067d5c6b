import { escapeMarkup, FACE } from './html.js';
import type { Ink, Pen, TextInk } from './pen.js';

const number = (value: number) => String(Math.round(value * 100) / 100);

/** Writes what is drawn as SVG. */
export class SvgPen implements Pen {
  private readonly parts: string[] = [];
  private clips = 0;

  rect(x: number, y: number, width: number, height: number, ink: Ink, radius = 0): void {
    const round = radius > 0 ? ` rx="${number(radius)}"` : '';
    this.parts.push(
      `<rect x="${number(x)}" y="${number(y)}" width="${number(Math.max(0, width))}" height="${number(Math.max(0, height))}"${round}${inkOf(ink)}/>`,
    );
  }

  circle(x: number, y: number, radius: number, ink: Ink): void {
    this.parts.push(`<circle cx="${number(x)}" cy="${number(y)}" r="${number(radius)}"${inkOf(ink)}/>`);
  }

  line(points: readonly number[], ink: Ink, closed = false): void {
    let path = '';
    let drawn = false;
    for (let i = 0; i + 1 < points.length; i += 2) {
      if (Number.isNaN(points[i + 1])) {
        drawn = false;
        continue;
      }
      path += `${drawn ? 'L' : 'M'}${number(points[i])} ${number(points[i + 1])}`;
      drawn = true;
    }
    if (path !== '') this.parts.push(`<path d="${path}${closed ? 'Z' : ''}"${inkOf(ink)}/>`);
  }

  text(x: number, y: number, text: string, { fill, size, bold, anchor }: TextInk): void {
    const more = `${bold ? ' font-weight="600"' : ''}${anchor ? ` text-anchor="${anchor}"` : ''}`;
    this.parts.push(
      `<text x="${number(x)}" y="${number(y)}" font-size="${size}" fill="${fill}"${more}>${escapeMarkup(text)}</text>`,
    );
  }

  within(x: number, y: number, width: number, height: number, draw: () => void): void {
    const id = `c${this.clips++}`;
    this.parts.push(
      `<clipPath id="${id}"><rect x="${number(x)}" y="${number(y)}" width="${number(width)}" height="${number(height)}"/></clipPath><g clip-path="url(#${id})">`,
    );
    draw();
    this.parts.push('</g>');
  }

  /** Draws from another place on. */
  translate(x: number, y: number, draw: () => void): void {
    this.parts.push(`<g transform="translate(${number(x)} ${number(y)})">`);
    draw();
    this.parts.push('</g>');
  }

  /** All of it as a picture of that size, with what it shows in words. */
  toString(width: number, height: number, title: string): string {
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${number(width)} ${number(height)}" width="${number(width)}" height="${number(height)}" font-family="${escapeMarkup(FACE)}" role="img"><title>${escapeMarkup(title)}</title>${this.parts.join('\n')}</svg>\n`;
  }
}

function inkOf({ fill, stroke, width, dash, alpha }: Ink): string {
  let text = ` fill="${fill ?? 'none'}"`;
  if (stroke) text += ` stroke="${stroke}"`;
  if (stroke && width !== undefined) text += ` stroke-width="${width}"`;
  if (dash) text += ` stroke-dasharray="${dash.join(' ')}"`;
  if (alpha !== undefined && alpha < 1) text += ` opacity="${alpha}"`;
  return text;
}
