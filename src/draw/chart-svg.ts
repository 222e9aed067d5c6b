import type { Chart, ChartKind, ChartMark } from '../analysis/chart.js';
import {
  BAR,
  type DrawnAbility,
  type DrawnArrow,
  type DrawnChart,
  type DrawnLane,
  type DrawnPhase,
  footLines,
  layOutChart,
  NAME_SIZE,
  placeMarks,
  SIGN,
  SMALL,
  TINY,
} from './chart-layout.js';
import { escapeMarkup, FACE } from './html.js';
import { fitText, textWidth } from './text-width.js';

/** How a chart is drawn. */
export interface ChartOptions {
  /** Pixels. Default 1280. */
  width?: number;
  /** Pixels of a page at most. Default 800. */
  height?: number;
  /** Colours for a light or a dark page, or by the system's setting where a browser shows it. Default light. */
  colors?: 'light' | 'dark' | 'system';
  /** Said beneath the title. */
  note?: string;
}

const LIGHT = {
  page: '#f7f4ec',
  ink: '#1d2a2e',
  soft: '#5b696d',
  line: '#cfc8b6',
  band: '#efe9da',
  windup: '#f3d9a0',
  active: '#c2512f',
  recovery: '#b9c8c4',
  charge: '#d9b3d1',
  other: '#7fa7a0',
  arrow: '#2f5d73',
  paper: '#fffdf6',
  flag: '#7a2f8f',
};
const DARK: typeof LIGHT = {
  page: '#122027',
  ink: '#e9e2cc',
  soft: '#a2afb0',
  line: '#3a4c54',
  band: '#18292f',
  windup: '#8a6a24',
  active: '#dd6a45',
  recovery: '#41575c',
  charge: '#7b4a73',
  other: '#4f7f79',
  arrow: '#8fc3d8',
  paper: '#1d3037',
  flag: '#d9a3ea',
};

function styleFor(colors: ChartOptions['colors']): string {
  if (colors === 'dark') return rulesOf(DARK);
  return rulesOf(LIGHT) + (colors === 'system' ? `@media (prefers-color-scheme: dark){${rulesOf(DARK)}}` : '');
}

function rulesOf(c: typeof LIGHT): string {
  return `.page{fill:${c.page}}.band{fill:${c.band};stroke:${c.line}}.rule{stroke:${c.line};fill:none}
.ink{fill:${c.ink}}.soft{fill:${c.soft}}.onbar{fill:${c.ink}}.inactive{fill:#fff}
.windup{fill:${c.windup}}.active{fill:${c.active}}.recovery{fill:${c.recovery}}.charge{fill:${c.charge}}.other{fill:${c.other}}
.edge{stroke:${c.ink};fill:none}.sign{stroke:${c.soft};fill:none}.hatch{stroke:${c.ink};opacity:.45}.cut{stroke:${c.page};stroke-width:2.5}
.arrow{stroke:${c.arrow};fill:none;stroke-width:1.4}.late{stroke-dasharray:4 3}.window{stroke:${c.arrow};stroke-width:3}.tip{fill:${c.arrow}}.told{fill:${c.arrow}}

.change{stroke:${c.flag};fill:none;stroke-width:1.5}.gone{stroke-dasharray:5 3}.flag{fill:${c.flag}}.onflag{fill:${c.page}}.fresh{stroke:${c.flag}}.lost{stroke:${c.flag};stroke-dasharray:1.5 3}
.paper{fill:${c.paper};opacity:0}`;
}

/** A chart as SVG, a text for each page. */
export function chartSvg(chart: Chart, options: ChartOptions = {}): string[] {
  const { width = 1280, height = 800 } = options;
  const pages = layOutChart(chart, width, height);
  return pages.map((page, i) => {
    const title = pages.length > 1 ? `${chart.moveset}, page ${i + 1} of ${pages.length}` : chart.moveset;
    return `<svg xmlns="http://www.w3.org/2000/svg" width="${round(page.width)}" height="${round(page.height)}" viewBox="0 0 ${round(page.width)} ${round(page.height)}" font-family='${FACE}' role="img" aria-label="${escapeMarkup(`The moveset ${title}`)}">
<style>${styleFor(options.colors)}</style>
<rect class="page" width="100%" height="100%"/>
${head(chart, title, options.note)}
${page.lanes.map(drawLane).join('\n')}
${page.arrows.map(drawArrow).join('\n')}
${page.abilities.map((ability) => drawAbility(ability, chart.rate)).join('\n')}
${foot(page)}
</svg>
`;
  });
}

function text(at: readonly [number, number], of: string, size: number, look: string, more = ''): string {
  return `<text x="${round(at[0])}" y="${round(at[1])}" font-size="${size}" class="${look}"${more}>${escapeMarkup(of)}</text>`;
}

const BOLD = ' font-weight="600"';
const RIGHT = ' text-anchor="end"';

function head({ abilities, lanes, rate }: Chart, title: string, note: string | undefined): string {
  const told = `${abilities.length} abilities in ${lanes.length === 1 ? 'one lane' : `${lanes.length} lanes`}; numbers in bars are ticks, ${rate} to a second`;
  return text([24, 34], title, 20, 'ink', BOLD) + text([24, 50], note ? `${told}. ${note}` : told, SMALL, 'soft');
}

function drawLane({ name, x, y, width, height, groups }: DrawnLane): string {
  const left = x + 12;
  const parts = [
    `<rect class="band" x="${round(x) + 0.5}" y="${round(y) + 0.5}" width="${round(width)}" height="${round(height)}" rx="6"/>`,
  ];
  for (const [i, group] of groups.entries()) {
    if (i > 0)
      parts.push(
        `<path class="rule" d="M${round(left)} ${round(group.y - 4)}H${round(x + width - 12)}" stroke-dasharray="1 4"/>`,
      );
    let at = group.y + 12;
    if (i === 0) {
      parts.push(text([left, at], fitText(name, NAME_SIZE, 100, true), NAME_SIZE, 'ink', BOLD));
      at += 15;
    }
    parts.push(text([left, at], fitText(group.title, SMALL, 100), SMALL, 'soft'));
    const { stances } = group;
    if (stances.length === 0) continue;
    // The stances that a tag means, as many as there is room for; a page and the foot have all of them.
    const room = Math.floor((group.y + group.height - at - 4) / 11);
    const shown = stances.length > room ? [...stances.slice(0, Math.max(0, room - 1)), '…'] : stances;
    for (const [k, stance] of (room > 0 ? shown : []).entries())
      parts.push(text([left + 8, at + 11 * (k + 1)], fitText(stance, TINY, 88), TINY, 'soft'));
  }
  return parts.join('');
}

function drawAbility(drawn: DrawnAbility, rate: number): string {
  const { ability, x, y, width, height, bar, barWidth, phases, from } = drawn;
  const starts = ability.starts.join(', ');
  const { places } = placeMarks(ability);
  const top = y + bar;
  const last = phases[phases.length - 1];
  const parts = [
    `<rect class="paper" x="${round(x - 4)}" y="${round(y - 2)}" width="${round(width + 6)}" height="${round(height + 2)}" rx="4"/>`,
    // One text, so that what starts it stands right behind the name in any face.
    `<text x="${round(x)}" y="${round(y + 13)}" class="ink"><tspan font-size="${NAME_SIZE}"${BOLD}>${escapeMarkup(ability.name)}</tspan><tspan dx="8" font-size="${SMALL}" class="soft">${escapeMarkup(starts)}</tspan></text>`,
    ...ability.marks.map((mark, i) => drawMark(mark, x + places[i], y + 27)),
    ...phases.map((phase) => drawPhase(phase, x, top)),
    // What has no end of its own is torn off.
    last.phase.ticks === null
      ? `<path class="edge" d="M${round(x + barWidth)} ${round(top)}H${round(x)}V${round(top + BAR)}H${round(x + barWidth)}"/><path class="edge" d="M${round(x + barWidth)} ${round(top)}l-3 3.5l5 3.5l-5 3.5l3 3.5"/>`
      : `<rect class="edge" x="${round(x)}" y="${round(top)}" width="${round(barWidth)}" height="${BAR}"/>`,
    from === ''
      ? ''
      : text(
          [x + barWidth + 5 + (ability.change === null ? 0 : textWidth(ability.change, TINY) + 12), top + 11],
          from,
          TINY,
          'soft',
        ),
  ];
  const { change } = ability;
  // A word and a frame: colour is not the only sign.
  if (change !== null) {
    const told = textWidth(change, TINY) + 8;
    parts.push(
      `<rect class="change ${change}" x="${round(x - 4.5)}" y="${round(y - 1.5)}" width="${round(Math.max(width, barWidth) + 7)}" height="${round(height + 1)}" rx="4"/>`,
      `<rect class="flag" x="${round(x + barWidth + 6)}" y="${round(top + 1)}" width="${round(told)}" height="12" rx="3"/>`,
      text([x + barWidth + 10, top + 10], change, TINY, 'onflag'),
    );
  }
  const tip = tipOf(drawn, rate);
  return `<g class="ability" data-name="${escapeMarkup(ability.name)}"><title>${escapeMarkup(tip)}</title>${parts.join('')}</g>`;
}

/** Kinds that are told apart by lines as well as by colour. */
const HATCHED: readonly ChartKind[] = ['windup', 'recovery'];

function drawPhase({ phase, x, width, cut }: DrawnPhase, left: number, top: number): string {
  const from = left + x;
  const parts: string[] = [];
  if (phase.kind === 'charge')
    parts.push(
      `<path class="charge" d="M${round(from)} ${round(top + BAR)}L${round(from + width)} ${round(top)}V${round(top + BAR)}Z"/>`,
    );
  else
    parts.push(
      `<rect class="${phase.kind}" x="${round(from)}" y="${round(top)}" width="${round(width)}" height="${BAR}"/>`,
    );
  if (HATCHED.includes(phase.kind)) parts.push(hatch(from, top, width, phase.kind === 'windup' ? 1 : -1));
  if (x > 0) parts.push(`<path class="edge" d="M${round(from)} ${round(top)}v${BAR}"/>`);
  if (cut) {
    const middle = round(from + width * 0.72);
    parts.push(`<path class="cut" d="M${middle} ${round(top - 1)}l-4 ${BAR + 2}m6 0l4 -${BAR + 2}"/>`);
  }
  if (phase.strikes)
    parts.push(
      `<path class="active" d="M${round(from + 1)} ${round(top)}l5 -6l5 6z"/><path class="edge" d="M${round(from + 1)} ${round(top)}l5 -6l5 6"/>`,
    );
  if (phase.guards)
    parts.push(
      `<path class="edge" stroke-width="2" d="M${round(from + 1)} ${round(top - 2)}q${round(width / 2 - 1)} -5 ${round(width - 2)} 0"/>`,
    );
  const ticks = phase.ticks === null ? '' : String(phase.ticks);
  if (ticks && textWidth(ticks, TINY) + 2 < width)
    parts.push(
      text(
        [from + width / 2, top + 10.5],
        ticks,
        TINY,
        phase.kind === 'active' ? 'inactive' : 'onbar',
        ' text-anchor="middle"',
      ),
    );
  return parts.join('');
}

/** Slanting lines: up for what begins, down for what ends. */
function hatch(x: number, y: number, width: number, way: 1 | -1): string {
  const lines: string[] = [];
  for (let at = 5; at < width + BAR; at += 7) {
    const [a, b] = way === 1 ? [at, at - BAR] : [at - BAR, at];
    const low = clamp(a, width);
    const high = clamp(b, width);
    const yOf = (place: number, exact: number) => (exact === place ? 0 : Math.abs(place - exact));
    const start = [x + low, y + BAR - yOf(low, a)];
    const end = [x + high, y + yOf(high, b)];
    if (way === 1 ? low > high : high > low)
      lines.push(`M${round(start[0])} ${round(start[1])}L${round(end[0])} ${round(end[1])}`);
  }
  return `<path class="hatch" d="${lines.join('')}"/>`;
}

function clamp(at: number, width: number): number {
  return Math.min(Math.max(at, 0), width);
}

function drawArrow({ arrow, window: [from, to, y], by, to: [x, target] }: DrawnArrow): string {
  const middle = (from + to) / 2;
  const end = x - 3;
  const self = arrow.from === arrow.to;
  const way = self
    ? `M${round(to - 4)} ${round(y)}c14 14 -${round(to - from + 10)} 14 -${round(to - from - 4)} 1`
    : wayThrough([middle, y], by, [end, target]);
  const line = arrow.follows && arrow.phase < 0 && !arrow.breaks ? 'arrow late' : 'arrow';
  const look = arrow.change === null ? line : `${line} ${arrow.change === 'new' ? 'fresh' : 'lost'}`;
  const tip = self ? '' : `<path class="tip" d="M${round(x)} ${round(target)}l-7 -3.5v7z"/>`;
  const told = arrow.within ? text([end - 8, target - 4], arrow.within, TINY, 'told', RIGHT) : '';
  return `<g class="way" data-from="${escapeMarkup(arrow.from)}" data-to="${escapeMarkup(arrow.to)}"><path class="window" d="M${round(from + 1)} ${round(y)}H${round(to - 1)}"/><path class="${look}" d="${way}"/>${tip}${told}</g>`;
}

/** A curve out of a window downwards, level through the points between, and level into what it leads to. */
function wayThrough(
  [fromX, fromY]: readonly [number, number],
  by: DrawnArrow['by'],
  to: readonly [number, number],
): string {
  const back = to[0] < fromX;
  const parts = [`M${round(fromX)} ${round(fromY)}`];
  let [x, y] = [fromX, fromY];
  [...by, to].forEach(([nextX, nextY], i) => {
    const reach = back ? 40 : Math.max(8, (nextX - x) / 2);
    const first = i === 0 ? [x + (back ? 60 : 2), y + (nextY > y + 20 ? 16 : 12)] : [x + reach, y];
    parts.push(`C${[...first, nextX - reach, nextY, nextX, nextY].map(round).join(' ')}`);
    [x, y] = [nextX, nextY];
  });
  return parts.join('');
}

const KINDS: readonly [ChartKind, string][] = [
  ['windup', 'windup'],
  ['active', 'active'],
  ['recovery', 'recovery'],
  ['charge', 'charge'],
  ['other', 'another phase'],
];
/** Signs of marks, in a square of 9 pixels about the middle of its line: drawn, since no face has them all. */
const SIGNS: Readonly<Record<ChartMark['kind'], readonly [word: string, path: string]>> = {
  cost: ['cost', 'M4.5 -8.5l4 4.5l-4 4.5l-4 -4.5z'],
  upkeep: ['upkeep', 'M4.5 -8.5l4 4.5l-4 4.5l-4 -4.5zM.5 -4h8'],
  cooldown: ['cooldown', 'M4.5 -8a4 4 0 1 1 -.01 0zM4.5 -7v3l2.4 1.6'],
  charges: ['charges', 'M.5 -4a1.8 1.8 0 1 1 0 .01zM5.4 -4a1.8 1.8 0 1 1 0 .01z'],
  locked: ['to be learnt', 'M.5 -4.5h8v5h-8zM2.5 -4.5v-2.2a2 2 0 0 1 4 0v2.2'],
  loadout: ['loadout', 'M1.5 .5v-9l6.5 2.5l-6.5 2.5'],
  breaks: ['breaks', 'M.5 -8l3.5 4l-3.5 4M4.8 -8l3.5 4l-3.5 4'],
  bars: ['bars', 'M4.5 -8a4 4 0 1 1 -.01 0zM1.7 -1.2l5.6 -5.6'],
  open: ['open to', 'M0 -4h8M5 -7l3.4 3l-3.4 3'],
};

function drawMark({ kind, text: told }: ChartMark, x: number, y: number, look = 'soft'): string {
  return `<path class="sign" transform="translate(${round(x)} ${round(y)})" d="${SIGNS[kind][1]}"/>${text([x + SIGN, y], told, SMALL, look)}`;
}

function foot({ width, height, groups }: DrawnChart): string {
  const lines = footLines(groups, width);
  const top = height - 52 - lines.length * 15;
  const parts: string[] = [];
  // In a wider face, too.
  const told = (word: string) => textWidth(word, SMALL) * 1.1;
  let x = 24;
  for (const [kind, word] of KINDS) {
    parts.push(
      drawPhase(
        {
          phase: { name: word, ticks: null, kind, strikes: false, guards: false, open: false },
          x: 0,
          width: 26,
          cut: false,
        },
        x,
        top,
      ),
    );
    parts.push(`<rect class="edge" x="${x}" y="${round(top)}" width="26" height="${BAR}"/>`);
    parts.push(text([x + 32, top + 11], word, SMALL, 'ink'));
    x += 44 + told(word);
  }
  const sample = { name: '', ticks: null, kind: 'other', open: false } as const;
  for (const [strikes, guards, word] of [
    [true, false, 'strikes'],
    [false, true, 'guards'],
  ] as const) {
    parts.push(drawPhase({ phase: { ...sample, strikes, guards }, x: 0, width: 26, cut: false }, x, top));
    parts.push(text([x + 32, top + 11], word, SMALL, 'ink'));
    x += 44 + told(word);
  }
  parts.push(
    `<path class="edge" d="M${x + 22} ${round(top)}H${x}V${round(top + BAR)}h22"/><path class="edge" d="M${x + 22} ${round(top)}l-3 3.5l5 3.5l-5 3.5l3 3.5"/>`,
  );
  parts.push(text([x + 32, top + 11], 'until something ends it', SMALL, 'ink'));
  x += 46 + told('until something ends it');
  parts.push(
    `<rect class="other" x="${x}" y="${round(top)}" width="26" height="${BAR}"/><path class="cut" d="M${x + 14} ${round(top - 1)}l-4 ${BAR + 2}m6 0l4 -${BAR + 2}"/>`,
  );
  parts.push(text([x + 32, top + 11], 'longer than drawn', SMALL, 'ink'));
  const below = top + 32;
  x = 24;
  parts.push(
    `<path class="window" d="M${x} ${round(below - 9)}h22"/><path class="arrow" d="M${x + 11} ${round(below - 9)}q4 8 18 6"/>`,
  );
  parts.push(text([x + 36, below], 'window in which it may go on to', SMALL, 'ink'));
  x += 50 + told('window in which it may go on to');
  parts.push(`<path class="arrow late" d="M${x} ${round(below - 4)}h26"/>`);
  parts.push(text([x + 32, below], 'may follow once it is over (up to so long)', SMALL, 'ink'));
  x += 46 + told('may follow once it is over (up to so long)');
  for (const [kind, [word]] of Object.entries(SIGNS)) {
    parts.push(drawMark({ kind: kind as ChartMark['kind'], text: word }, x, below, 'ink'));
    x += SIGN + told(word) + 10;
  }
  lines.forEach((line, i) => {
    parts.push(text([24, below + 18 + i * 15], fitText(line, SMALL, width - 48), SMALL, 'soft'));
  });
  return parts.join('');
}

/** All of it in words. */
function tipOf({ ability }: DrawnAbility, rate: number): string {
  const phases = ability.phases.map(({ name, ticks }) => `${name} ${ticks === null ? 'until it ends' : `${ticks}f`}`);
  const lines = [
    `${ability.name}${ability.ticks === null ? '' : `, ${ability.ticks}f (${(ability.ticks / rate).toFixed(2)} s)`}`,
    ...(ability.starts.length > 0 ? [`starts: ${ability.starts.join(', ')}`] : []),
    `from: ${ability.from.join(', ') || 'any stance'}`,
    ...(phases.length > 0 ? [`phases: ${phases.join(', ')}`] : []),
    ...ability.marks.map(({ kind, text }) => `${kind}: ${text}`),
    ...(ability.tags.length > 0 ? [`tags: ${ability.tags.join(', ')}`] : []),
  ];
  return lines.join('\n');
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
