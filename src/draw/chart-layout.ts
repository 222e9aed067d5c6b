import { graphlib, layout } from '@dagrejs/dagre';
import type { Chart, ChartAbility, ChartArrow, ChartPhase } from '../analysis/chart.js';
import { textWidth } from './text-width.js';

/** Sizes in pixels. */
export const NAME_SIZE = 13;
export const SMALL = 10.5;
export const TINY = 9;
export const BAR = 14;
/** A second of time. */
const SECOND = 200;
/** Longer phases are cut. */
const LONGEST = 170;
/** What lasts until something ends it. */
const OPEN_END = 64;
const GAP = 12;
const MARGIN = 24;
/** Left and right of everything, and within a lane. */
const SIDE = 12;
const PADDING = 12;
/** Of the column with the stances. */
const EDGE = 108;
/** Least height of a row: of its title with that of the lane and a stance. */
const LEAST = 40;
const LANE_GAP = 7;
const HEAD = 58;

/** A phase as it is drawn, from the left of its bar. */
export interface DrawnPhase {
  readonly phase: ChartPhase;
  readonly x: number;
  readonly width: number;
  /** It lasts longer than it is drawn. */
  readonly cut: boolean;
}

export interface DrawnAbility {
  readonly ability: ChartAbility;
  /** Left upper corner. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** Top of its bar, from its own top. */
  readonly bar: number;
  readonly barWidth: number;
  readonly phases: readonly DrawnPhase[];
  /** What it starts from, where that differs from the group that it stands in; else empty. */
  readonly from: string;
}

export interface DrawnArrow {
  readonly arrow: ChartArrow;
  /** The window in which it begins. */
  readonly window: readonly [from: number, to: number, y: number];
  /** Points between. */
  readonly by: readonly (readonly [x: number, y: number])[];
  readonly to: readonly [x: number, y: number];
}

export interface DrawnGroup {
  readonly y: number;
  readonly height: number;
  /** Title and stances. */
  readonly title: string;
  readonly stances: readonly string[];
}

export interface DrawnLane {
  readonly name: string;
  readonly x: number;
  readonly width: number;
  readonly y: number;
  readonly height: number;
  readonly groups: readonly DrawnGroup[];
}

/** Where everything of one page stands. */
export interface DrawnChart {
  readonly width: number;
  readonly height: number;
  readonly lanes: readonly DrawnLane[];
  readonly abilities: readonly DrawnAbility[];
  readonly arrows: readonly DrawnArrow[];
  /** What its tags mean. */
  readonly groups: Chart['groups'];
}

/** Where the ability stands among others, before its place is known. */
interface Box {
  readonly ability: ChartAbility;
  readonly width: number;
  readonly height: number;
  readonly bar: number;
  readonly barWidth: number;
  readonly phases: readonly DrawnPhase[];
}

/** What an arrow passes by on its way, so that it meets no ability. */
interface Way {
  readonly from: string;
  readonly to: string;
  readonly points: readonly (readonly [x: number, y: number])[];
}

/** Abilities that arrows connect. */
interface Part {
  readonly boxes: readonly (Box & { from: string; x: number; y: number })[];
  readonly ways: readonly Way[];
  readonly width: number;
  readonly height: number;
  readonly from: string;
}

/** Width of a mark's sign with the gap behind it, and between marks. */
export const SIGN = 13;
const BETWEEN = 10;

/** Where each mark of an ability begins, and how wide all are. */
export function placeMarks({ marks }: ChartAbility): { readonly places: readonly number[]; readonly width: number } {
  let x = 0;
  const places = marks.map(({ text }) => {
    const at = x;
    x += SIGN + textWidth(text, SMALL) + BETWEEN;
    return at;
  });
  return { places, width: Math.max(0, x - BETWEEN) };
}

/** A row of parts that start from the same. */
interface Row {
  readonly parts: readonly (Part & { x: number; y: number })[];
  readonly from: string;
  readonly stances: readonly string[];
  readonly width: number;
  readonly height: number;
}

/** A lane, or as much of it as a page takes. */
interface Block {
  readonly lane: string;
  readonly rows: readonly Row[];
  readonly width: number;
  readonly height: number;
}

interface Page {
  readonly lanes: DrawnLane[];
  readonly abilities: DrawnAbility[];
  readonly ways: Way[];
  bottom: number;
}

/**
 * Lays a chart out in pages of a size: the lanes one below the other, small ones side by side; in each its groups by what they start from.
 * @param most Height of a page.
 */
export function layOutChart(chart: Chart, width: number, most: number): DrawnChart[] {
  const arrows = chart.arrows.filter(({ gathered }) => !gathered);
  const foot = footHeight(chart, width);
  const pages = placeBlocks(
    chart.lanes.flatMap((lane) => blocksOf(chart, lane, arrows, width, most - HEAD - foot)),
    width,
    most - foot,
  );
  return pages.map(({ lanes, abilities, ways, bottom }) => ({
    width: Math.max(width, ...lanes.map((lane) => lane.x + lane.width + SIDE)),
    height: bottom + foot,
    lanes,
    abilities,
    arrows: arrows.flatMap((arrow) => draw(arrow, abilities, ways) ?? []),
    groups: chart.groups,
  }));
}

/** A lane in blocks that are no higher than that. */
function blocksOf(chart: Chart, lane: string, arrows: readonly ChartArrow[], width: number, most: number): Block[] {
  const inside = chart.abilities.filter((ability) => ability.lane === lane);
  const parts = partsOf(inside, arrows, chart.rate);
  const blocks: Block[] = [];
  for (const from of new Set(parts.map((part) => part.from))) {
    const { stances = [], from: words = [] } = inside.find((one) => wordFrom(one) === from) ?? {};
    const told = words.length === 0 || words.join() === stances.join() ? [] : stances;
    const own = parts.filter((part) => part.from === from);
    for (const row of rowsOf(own, width - SIDE * 2 - PADDING * 2 - EDGE)) {
      const height = Math.max(LEAST, ...row.map((part) => part.y + part.height)) + GAP - 2;
      const wide = EDGE + PADDING * 2 + Math.max(...row.map((part) => part.x + part.width));
      const last = blocks.at(-1);
      const added = { parts: row, from, stances: told, width: wide, height };
      if (last && last.height + height <= most)
        blocks[blocks.length - 1] = {
          lane,
          rows: [...last.rows, added],
          width: Math.max(last.width, wide),
          height: last.height + height,
        };
      else blocks.push({ lane, rows: [added], width: wide, height: height + 8 });
    }
  }
  return blocks;
}

/** Blocks below one another, and beside one another where there is room. */
function placeBlocks(blocks: readonly Block[], width: number, most: number): Page[] {
  const pages: Page[] = [{ lanes: [], abilities: [], ways: [], bottom: HEAD }];
  let shelf: Block[] = [];
  const close = () => {
    if (shelf.length === 0) return;
    const height = Math.max(...shelf.map((block) => block.height));
    let page = pages[pages.length - 1];
    if (page.bottom + height > most && page.lanes.length > 0) {
      page = { lanes: [], abilities: [], ways: [], bottom: HEAD };
      pages.push(page);
    }
    // What is left of the width is shared out.
    const used = shelf.reduce((sum, block) => sum + block.width + LANE_GAP, SIDE * 2 - LANE_GAP);
    const more = Math.max(0, width - used) / shelf.length;
    let x = SIDE;
    for (const block of shelf) {
      placeBlock(block, page, x, block.width + more, height);
      x += block.width + more + LANE_GAP;
    }
    page.bottom += height + LANE_GAP;
    shelf = [];
  };
  for (const block of blocks) {
    const used = shelf.reduce((sum, one) => sum + one.width + LANE_GAP, SIDE * 2);
    const high = Math.max(0, ...shelf.map((one) => one.height));
    // Beside a high lane there is no place for a low one.
    if (used + block.width > width || (shelf.length > 0 && Math.abs(high - block.height) > LEAST * 2)) close();
    shelf.push(block);
  }
  close();
  return pages;
}

function placeBlock({ lane, rows }: Block, page: Page, x: number, width: number, height: number): void {
  const groups: DrawnGroup[] = [];
  let y = page.bottom + 8;
  for (const { parts, from, stances, height: high } of rows) {
    const last = groups.at(-1);
    if (last?.title === from) groups[groups.length - 1] = { ...last, height: last.height + high };
    else groups.push({ y, height: high, title: from, stances });
    for (const { boxes, ways, ...part } of parts) {
      const [left, over] = [x + PADDING + EDGE + part.x, y + part.y];
      for (const box of boxes) page.abilities.push({ ...box, x: left + box.x, y: over + box.y });
      for (const way of ways)
        page.ways.push({ ...way, points: way.points.map(([at, down]) => [left + at, over + down] as const) });
    }
    y += high;
  }
  page.lanes.push({ name: lane, x, y: page.bottom, width, height, groups });
}

/** Height of the legend and of what tags mean. */
function footHeight({ groups }: Pick<Chart, 'groups'>, width: number): number {
  return 52 + footLines(groups, width).length * 15 + 8;
}

/** What tags mean, in lines that fit. */
export function footLines(groups: Chart['groups'], width: number): string[] {
  const lines: string[] = [];
  for (const { name, members } of groups) {
    const text = `${name}: ${members.join(', ')}`;
    const last = lines.at(-1);
    if (last !== undefined && textWidth(`${last}  ·  ${text}`, SMALL) < width - MARGIN * 2)
      lines[lines.length - 1] = `${last}  ·  ${text}`;
    else lines.push(text);
  }
  return lines;
}

function boxOf(ability: ChartAbility, rate: number): Box {
  const phases: DrawnPhase[] = [];
  let x = 0;
  const shown: readonly ChartPhase[] =
    ability.phases.length > 0
      ? ability.phases
      : [{ name: '', ticks: null, kind: 'other', strikes: ability.strikes, guards: ability.guards, open: false }];
  for (const phase of shown) {
    const exact = phase.ticks === null ? OPEN_END : (phase.ticks / rate) * SECOND;
    const width = Math.max(3, Math.min(exact, LONGEST));
    phases.push({ phase, x, width, cut: exact > LONGEST });
    x += width;
  }
  const title = textWidth(ability.name, NAME_SIZE, true) + 8 + textWidth(ability.starts.join(', '), SMALL);
  const marks = placeMarks(ability).width;
  // Above a bar stand the marks of strikes and guards.
  const above = shown.some(({ strikes, guards }) => strikes || guards) ? 5 : 0;
  const bar = (marks === 0 ? 20 : 34) + above;
  return {
    ability,
    width: Math.ceil(Math.max(x + 10, title, marks)) + 4,
    height: bar + BAR + 8,
    bar,
    barWidth: x,
    phases,
  };
}

/** Groups of abilities that arrows connect, each laid out by itself. */
function partsOf(abilities: readonly ChartAbility[], arrows: readonly ChartArrow[], rate: number): Part[] {
  const rest = new Map(abilities.map((ability) => [ability.name, boxOf(ability, rate)]));
  const parts: Part[] = [];
  for (const { name } of abilities) {
    if (!rest.has(name)) continue;
    const names = [name];
    for (const one of names)
      for (const { from, to } of arrows)
        for (const [here, there] of [
          [from, to],
          [to, from],
        ])
          if (here === one && rest.has(there) && !names.includes(there)) names.push(there);
    const boxes = names.map((one) => rest.get(one) as Box);
    for (const one of names) rest.delete(one);
    parts.push(layOutPart(boxes, arrows));
  }
  return parts;
}

function layOutPart(all: readonly Box[], arrows: readonly ChartArrow[]): Part {
  const names = new Set(all.map(({ ability }) => ability.name));
  const inside = arrows.filter(({ from, to }) => from !== to && names.has(from) && names.has(to));
  const first = all.find(({ ability }) => !inside.some(({ to }) => to === ability.name)) ?? all[0];
  const from = wordFrom(first.ability);
  // What starts from elsewhere says so behind its bar.
  const boxes = all.map((box) => {
    const own = wordFrom(box.ability);
    const { change } = box.ability;
    const flag = change === null ? 0 : textWidth(change, TINY) + 14;
    const told = own === from && flag === 0 ? 0 : box.barWidth + 9 + flag + (own === from ? 0 : textWidth(own, TINY));
    return { ...box, width: Math.max(box.width, told), from: own === from ? '' : own };
  });
  if (boxes.length === 1) return { boxes: [{ ...boxes[0], x: 0, y: 0 }], ways: [], ...sizeOf(boxes[0]), from };
  const graph = new graphlib.Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: GAP - 4, edgesep: 8, ranksep: 40, marginx: 0, marginy: 0 });
  for (const { ability, width, height } of boxes) graph.setNode(ability.name, { width, height });
  for (const arrow of inside) graph.setEdge(arrow.from, arrow.to, {});
  layout(graph);
  const placed = boxes.map((box) => {
    const { x = 0, y = 0 } = graph.node(box.ability.name) as { x?: number; y?: number };
    return { ...box, x: x - box.width / 2, y: y - box.height / 2 };
  });
  const ways = inside.map(({ from, to }): Way => {
    const { points = [] } = graph.edge(from, to) as { points?: { x: number; y: number }[] };
    return { from, to, points: points.slice(1, -1).map(({ x, y }) => [x, y] as const) };
  });
  return {
    boxes: placed,
    ways,
    width: Math.max(...placed.map(({ x, width }) => x + width)),
    height: Math.max(...placed.map(({ y, height }) => y + height)),
    from,
  };
}

function sizeOf({ width, height }: { width: number; height: number }): { width: number; height: number } {
  return { width, height };
}

/** What it starts from, as a group is called. */
function wordFrom({ from }: ChartAbility): string {
  return from.length === 0 ? 'from any' : `from ${from.join(', ')}`;
}

/** Parts side by side, as many as fit, in their order; small ones beside a high one stand below one another. */
function rowsOf(parts: readonly Part[], width: number): (Part & { x: number; y: number })[][] {
  const rows: (Part & { x: number; y: number })[][] = [];
  let column = { x: 0, width: 0, y: 0 };
  let high = 0;
  for (const part of parts) {
    const last = rows.at(-1);
    if (last && column.y + part.height <= high && column.x + part.width <= width) {
      last.push({ ...part, x: column.x, y: column.y });
      column = { x: column.x, width: Math.max(column.width, part.width), y: column.y + part.height + GAP - 4 };
      continue;
    }
    const x = column.x + column.width + GAP * 2;
    if (last && x + part.width <= width) {
      last.push({ ...part, x, y: 0 });
      column = { x, width: part.width, y: part.height + GAP - 4 };
    } else {
      rows.push([{ ...part, x: 0, y: 0 }]);
      column = { x: 0, width: part.width, y: part.height + GAP - 4 };
      high = 0;
    }
    high = Math.max(high, part.height);
  }
  return rows;
}

function draw(arrow: ChartArrow, abilities: readonly DrawnAbility[], ways: readonly Way[]): DrawnArrow | undefined {
  const from = abilities.find(({ ability }) => ability.name === arrow.from);
  const to = abilities.find(({ ability }) => ability.name === arrow.to);
  if (!from || !to) return undefined;
  const phase = from.phases[arrow.phase];
  const y = from.y + from.bar + BAR + 3;
  const window: [number, number, number] = phase
    ? [from.x + phase.x, from.x + phase.x + phase.width, y]
    : [from.x, from.x + from.barWidth, y];
  const by = ways.find((way) => way.from === arrow.from && way.to === arrow.to)?.points ?? [];
  return { arrow, window, by, to: [to.x, to.y + to.bar + BAR / 2] };
}
