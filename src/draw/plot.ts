import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { escapeMarkup, FACE, wholePage } from './html.js';
import { fitText } from './text-width.js';

/** One axis of a grid of runs. */
export interface PlotAxis {
  readonly title: string;
  /** Of words, their places. */
  readonly numbers: readonly number[];
  /** As they are written. */
  readonly labels: readonly string[];
}

/** Runs of a grid, to be plotted. */
export interface Plot {
  readonly title: string;
  /** One or two. */
  readonly axes: readonly PlotAxis[];
  /** What was measured, each with its values in the order of the grid, the last axis first. */
  readonly measured: readonly { readonly title: string; readonly values: readonly (number | null)[] }[];
}

const WIDTH = 900;
const HEIGHT = 420;
const BOX = { left: 74, right: 24, top: 46, bottom: 54 };
const COLORS = {
  light: {
    page: '#fbf9f3',
    ink: '#1d2a2e',
    soft: '#5b696d',
    rule: '#ddd6c5',
    low: [239, 233, 218],
    high: [30, 92, 112],
    line: '#b4472b',
  },
  dark: {
    page: '#122027',
    ink: '#e9e2cc',
    soft: '#a2afb0',
    rule: '#2c3d45',
    low: [29, 48, 55],
    high: [143, 211, 216],
    line: '#f08a6c',
  },
} as const;

/** One picture beneath the other for each measure: lines over one axis, a field of colours over two. */
export function plotSvg(plot: Plot, colors: 'light' | 'dark' = 'light'): string {
  const height = HEIGHT * plot.measured.length;
  const parts = plot.measured.map(({ title, values }, i) => {
    const body =
      plot.axes.length === 1 ? lines(plot.axes[0], title, values, colors) : field(plot.axes, title, values, colors);
    return `<g transform="translate(0 ${HEIGHT * i})">${body}</g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${height}" viewBox="0 0 ${WIDTH} ${height}" font-family='${FACE}' role="img" aria-label="${escapeMarkup(plot.title)}">
<rect width="100%" height="100%" fill="${COLORS[colors].page}"/>
${parts.join('\n')}
</svg>
`;
}

/** The same as a page, with the numbers as a table beneath. */
export function plotHtml(plot: Plot): string {
  const rows = gridOf(plot.axes).map((labels, i) => {
    const values = plot.measured.map(
      ({ values }) => `<td>${values[i] === null ? '' : shown(values[i] as number)}</td>`,
    );
    return `<tr>${labels.map((label) => `<th scope="row">${escapeMarkup(label)}</th>`).join('')}${values.join('')}</tr>`;
  });
  const head = [...plot.axes, ...plot.measured]
    .map(({ title }) => `<th scope="col">${escapeMarkup(title)}</th>`)
    .join('');
  return wholePage(
    plot.title,
    `table{border-collapse:collapse;margin-top:16px}th,td{padding:2px 12px 2px 0;text-align:left;font-weight:normal}thead th{color:var(--soft);border-bottom:1px solid var(--line)}td{font-variant-numeric:tabular-nums}
.dark{display:none}@media (prefers-color-scheme:dark){.light{display:none}.dark{display:block}}svg{max-width:100%;height:auto}`,
    `<h1>${escapeMarkup(plot.title)}</h1>
${plotSvg(plot, 'light').replace('<svg ', '<svg class="light" ')}${plotSvg(plot, 'dark').replace('<svg ', '<svg class="dark" ')}
<table><thead><tr>${head}</tr></thead><tbody>
${rows.join('\n')}
</tbody></table>`,
  );
}

/** What is written of each axis, run by run. */
function gridOf(axes: readonly PlotAxis[]): string[][] {
  return axes.reduce<string[][]>(
    (rows, { labels }) => rows.flatMap((row) => labels.map((label) => [...row, label])),
    [[]],
  );
}

type Colors = keyof typeof COLORS;

function text(x: number, y: number, of: string, size: number, fill: string, more = ''): string {
  return `<text x="${round(x)}" y="${round(y)}" font-size="${size}" fill="${fill}"${more}>${escapeMarkup(of)}</text>`;
}

const MIDDLE = ' text-anchor="middle"';
const RIGHT = ' text-anchor="end"';

function heading(title: string, below: string, colors: Colors): string {
  const { ink, soft } = COLORS[colors];
  return (
    text(BOX.left, 26, fitText(title, 15, WIDTH - 120, true), 15, ink, ' font-weight="600"') +
    text((BOX.left + WIDTH - BOX.right) / 2, HEIGHT - 12, fitText(below, 12, WIDTH - 160), 12, soft, MIDDLE)
  );
}

function lines(axis: PlotAxis, title: string, values: readonly (number | null)[], colors: Colors): string {
  const { ink, soft, rule, line: stroke, page } = COLORS[colors];
  const known = values.filter((value): value is number => value !== null && Number.isFinite(value));
  if (known.length === 0) return heading(title, 'nothing was measured', colors);
  const x = scaleLinear(extent(axis.numbers), [BOX.left, WIDTH - BOX.right]);
  const y = scaleLinear(extent(known), [HEIGHT - BOX.bottom, BOX.top]).nice(6);
  const parts = [heading(title, axis.title, colors)];
  for (const tick of y.ticks(6))
    parts.push(
      `<path d="M${BOX.left} ${round(y(tick))}H${WIDTH - BOX.right}" stroke="${rule}"/>`,
      text(BOX.left - 8, y(tick) + 4, shown(tick), 11, soft, RIGHT),
    );
  // Words have no numbers between them.
  const isWords = axis.labels.some((label) => !Number.isFinite(Number.parseFloat(label)));
  const unit = /[^\d.-]*$/.exec(axis.labels[0])?.[0] ?? '';
  const ticks = isWords ? axis.numbers : x.ticks(10);
  for (const tick of ticks)
    parts.push(
      `<path d="M${round(x(tick))} ${HEIGHT - BOX.bottom}v5" stroke="${soft}"/>`,
      text(
        x(tick),
        HEIGHT - BOX.bottom + 18,
        isWords ? axis.labels[axis.numbers.indexOf(tick)] : `${shown(tick)}${unit}`,
        11,
        soft,
        MIDDLE,
      ),
    );
  const curve = line<number | null>()
    .defined((value) => value !== null && Number.isFinite(value))
    .x((_, i) => round(x(axis.numbers[i])))
    .y((value) => round(y(value as number)));
  parts.push(`<path d="${curve([...values]) ?? ''}" fill="none" stroke="${stroke}" stroke-width="2"/>`);
  if (values.length <= 60)
    values.forEach((value, i) => {
      if (value !== null && Number.isFinite(value))
        parts.push(
          `<circle cx="${round(x(axis.numbers[i]))}" cy="${round(y(value))}" r="3.5" fill="${page}" stroke="${stroke}" stroke-width="1.5"><title>${escapeMarkup(`${axis.labels[i]}: ${shown(value)}`)}</title></circle>`,
        );
    });
  parts.push(
    `<path d="M${BOX.left} ${BOX.top}V${HEIGHT - BOX.bottom}H${WIDTH - BOX.right}" fill="none" stroke="${ink}"/>`,
  );
  return parts.join('');
}

function field(
  [down, across]: readonly PlotAxis[],
  title: string,
  values: readonly (number | null)[],
  colors: Colors,
): string {
  const { ink, soft, low, high } = COLORS[colors];
  const known = values.filter((value): value is number => value !== null && Number.isFinite(value));
  if (known.length === 0) return heading(title, 'nothing was measured', colors);
  const [least, most] = extent(known);
  const scale = scaleLinear([least, most], [0, 1]);
  const right = WIDTH - BOX.right - 70;
  const wide = (right - BOX.left) / across.labels.length;
  const high1 = (HEIGHT - BOX.top - BOX.bottom) / down.labels.length;
  const colorOf = (share: number) =>
    `rgb(${low.map((from, i) => Math.round(from + (high[i] - from) * share)).join(',')})`;
  const parts = [heading(title, across.title, colors)];
  values.forEach((value, i) => {
    const [row, column] = [Math.floor(i / across.labels.length), i % across.labels.length];
    const x = BOX.left + column * wide;
    // The first value of the upright axis is at the bottom.
    const y = HEIGHT - BOX.bottom - (row + 1) * high1;
    const told = `${down.labels[row]}, ${across.labels[column]}: ${value === null ? 'nothing' : shown(value)}`;
    if (value === null || !Number.isFinite(value)) return;
    const share = most === least ? 0.5 : scale(value);
    parts.push(
      `<rect x="${round(x)}" y="${round(y)}" width="${round(wide) + 0.2}" height="${round(high1) + 0.2}" fill="${colorOf(share)}"><title>${escapeMarkup(told)}</title></rect>`,
    );
    if (wide > 44 && high1 > 14)
      parts.push(
        text(
          x + wide / 2,
          y + high1 / 2 + 4,
          shown(value),
          10,
          share > 0.55 === (colors === 'light') ? '#fff' : '#14262c',
          MIDDLE,
        ),
      );
  });
  const few = (count: number, room: number) => Math.max(1, Math.ceil(count / room));
  across.labels.forEach((label, i) => {
    if (i % few(across.labels.length, 12) === 0)
      parts.push(text(BOX.left + (i + 0.5) * wide, HEIGHT - BOX.bottom + 17, label, 11, soft, MIDDLE));
  });
  down.labels.forEach((label, i) => {
    if (i % few(down.labels.length, 16) === 0)
      parts.push(text(BOX.left - 6, HEIGHT - BOX.bottom - (i + 0.5) * high1 + 4, label, 11, soft, RIGHT));
  });
  parts.push(text(BOX.left, BOX.top - 6, fitText(down.title, 11, right - BOX.left), 11, soft));
  for (let i = 0; i < 40; i++)
    parts.push(
      `<rect x="${right + 20}" y="${round(HEIGHT - BOX.bottom - ((i + 1) * (HEIGHT - BOX.top - BOX.bottom)) / 40)}" width="14" height="${round((HEIGHT - BOX.top - BOX.bottom) / 40) + 0.3}" fill="${colorOf(i / 39)}"/>`,
    );
  parts.push(
    text(right + 38, BOX.top + 9, shown(most), 11, ink),
    text(right + 38, HEIGHT - BOX.bottom, shown(least), 11, ink),
  );
  return parts.join('');
}

/** The least and the most; a little room where they are the same. */
function extent(numbers: readonly number[]): [number, number] {
  let [least, most] = [numbers[0], numbers[0]];
  for (const number of numbers) {
    least = Math.min(least, number);
    most = Math.max(most, number);
  }
  return least === most ? [least - 0.5, most + 0.5] : [least, most];
}

/** A number with as many digits as one reads. */
function shown(value: number): string {
  return String(Number(value.toPrecision(Math.abs(value) >= 1000 ? 6 : 4)));
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
