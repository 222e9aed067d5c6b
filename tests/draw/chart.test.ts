import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sax from 'sax';
import { expect, test } from 'vitest';
import { type DrawnAbility, layOutChart } from '../../src/draw/chart-layout.js';
import { chartScxml } from '../../src/draw/chart-scxml.js';
import { chartSvg } from '../../src/draw/chart-svg.js';
import { chartDot, chartMermaid } from '../../src/draw/chart-text.js';
import { compileFile } from '../../src/format/index.js';
import { chartAround, chartOf } from '../../src/study/index.js';
import { forRandom } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { plan, ROOT } from '../support.js';

const DEMO = join(ROOT, 'demo/boatyard');
const MOVESETS = readdirSync(DEMO).filter((file) => /^pell.*yaml$/.test(file) && file !== 'pell-basics.yaml');

const TEXT = `
loggia: 1
name: Pell
pools: { wind: { max: 9 } }
inputs: { gaff: { button: KeyJ }, gale: { button: KeyF } }
lanes: [body, hands]
stances: { floor: { when: grounded, tags: ground }, fall: { tags: air } }
abilities:
  jab:
    start: { press: gaff }
    from: ground
    phases: [{ name: windup, for: 6f }, { name: active, for: 5f, strike: { sphere: 1 } }, { name: recovery, for: 12f, open: [sweep, nimble] }]
  sweep: { start: { press: gaff, toward: up }, follows: { jab: 0.2s }, cost: { wind: 2 }, cooldown: 1s, phases: [{ for: 9f }] }
  dash: { start: { press: gale }, breaks: all, tags: nimble, charges: { max: 2, every: 1s }, phases: [{ until: grounded }] }
  brace: { lane: hands, start: { hold: gaff }, bars: dash }
`;

test('a chart has phases to scale, marks, and arrows for what is named; what a tag means is gathered', () => {
  const { abilities, arrows, groups } = chartOf(plan(TEXT));
  expect(abilities[0]).toMatchObject({ starts: ['gaff'], from: ['ground'], stances: ['floor'], ticks: 23 });
  expect(abilities[0].phases.map(({ kind, ticks, strikes, open }) => [kind, ticks, strikes, open])).toEqual([
    ['windup', 6, false, false],
    ['active', 5, true, false],
    ['recovery', 12, false, true],
  ]);
  const marks = abilities.map(({ marks }) => marks.map(({ kind, text }) => `${kind} ${text}`));
  expect(marks).toEqual([['open nimble'], ['cost 2 wind', 'cooldown 1 s'], ['charges 2', 'breaks all'], ['bars dash']]);
  expect(abilities[1].starts).toEqual(['gaff up']);
  expect(abilities[2]).toMatchObject({ ticks: null, tags: ['nimble'] });
  expect(arrows).toEqual([
    {
      from: 'jab',
      to: 'sweep',
      phase: 2,
      follows: true,
      within: '0.2 s',
      breaks: false,
      gathered: false,
      change: null,
    },
    { from: 'jab', to: 'dash', phase: 2, follows: false, within: null, breaks: true, gathered: true, change: null },
  ]);
  expect(groups).toEqual([
    { name: 'ground', members: ['floor'] },
    { name: 'nimble', members: ['dash'] },
  ]);
});

test('around an ability there is what leads to it and from it, by tags too', () => {
  const { abilities, lanes, arrows } = chartAround(chartOf(plan(TEXT)), 'dash');
  expect(abilities.map(({ name }) => name)).toEqual(['jab', 'dash']);
  expect(lanes).toEqual(['body']);
  expect(arrows.map(({ gathered }) => gathered)).toEqual([false]);
});

/** Pairs that overlap, and what is outside of its page. */
function misplaced(abilities: readonly DrawnAbility[], width: number, height: number): string[] {
  return abilities.flatMap((a, i) => [
    ...(a.x < 0 || a.y < 0 || a.x + a.width > width || a.y + a.height > height ? [`${a.ability.name} is outside`] : []),
    ...abilities
      .slice(i + 1)
      .filter((b) => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height)
      .map((b) => `${a.ability.name} is over ${b.ability.name}`),
  ]);
}

test.each(MOVESETS)('%s fits on one page, with each ability once and nothing over another', async (file) => {
  const chart = chartOf(await compileFile(join(DEMO, file)));
  const pages = layOutChart(chart, 1280, 800);
  expect(pages).toHaveLength(1);
  const [{ abilities, width, height }] = pages;
  expect([width, height <= 800]).toEqual([1280, true]);
  expect(abilities.map(({ ability }) => ability.name).sort()).toEqual(chart.abilities.map(({ name }) => name).sort());
  expect(misplaced(abilities, width, height)).toEqual([]);
});

/** Faults of a text as XML, and what its elements are. */
function readXml(text: string) {
  const elements: { name: string; attributes: Record<string, string>; within: string }[] = [];
  const open: string[] = [];
  const parser = sax.parser(true);
  parser.onopentag = ({ name, attributes }) => {
    elements.push({ name, attributes: attributes as Record<string, string>, within: open.at(-1) ?? '' });
    open.push(name);
  };
  parser.onclosetag = () => {
    open.pop();
  };
  parser.onerror = (fault) => {
    throw fault;
  };
  parser.write(text).close();
  return elements;
}

/** Which elements SCXML allows within which, of those that are written, and what attributes they may have. */
const WITHIN: Record<string, readonly string[]> = {
  scxml: [''],
  parallel: ['scxml', 'state', 'parallel'],
  state: ['scxml', 'state', 'parallel'],
  final: ['scxml', 'state'],
  transition: ['state', 'parallel'],
};
const ATTRIBUTES: Record<string, readonly string[]> = {
  scxml: ['xmlns', 'version', 'datamodel', 'name', 'initial'],
  parallel: ['id'],
  state: ['id', 'initial'],
  final: ['id'],
  transition: ['event', 'cond', 'target'],
};

test('random movesets: pages hold each ability once, and every format can be read', () => {
  forRandom(40, (random) => {
    const moveset = makeMoveset(random, {});
    const chart = chartOf(moveset);
    const pages = layOutChart(chart, 1280, 500);
    const names = pages.flatMap(({ abilities }) => abilities.map(({ ability }) => ability.name));
    expect(names.sort()).toEqual([...moveset.names.ability].sort());
    for (const { abilities, width, height } of pages) expect(misplaced(abilities, width, height)).toEqual([]);
    for (const page of chartSvg(chart)) expect(readXml(page)[0].name).toBe('svg');
    const elements = readXml(chartScxml(chart));
    const ids = elements.flatMap(({ attributes }) => attributes.id ?? []);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { name, attributes, within } of elements) {
      expect(WITHIN[name]).toContain(within);
      for (const key of Object.keys(attributes)) expect(ATTRIBUTES[name]).toContain(key);
      if (attributes.id !== undefined) expect(attributes.id).toMatch(/^[A-Za-z_][\w.-]*$/);
      for (const target of [attributes.target, attributes.initial])
        if (target !== undefined) expect(ids).toContain(target);
      if (attributes.event !== undefined)
        for (const event of attributes.event.split(' ')) expect(event).toMatch(/^[\w-]+(\.[\w-]+)*$/);
    }
    const nodes = chartDot(chart).match(/ \[label=.*\];/g) ?? [];
    expect(nodes).toHaveLength(chart.abilities.length + chart.arrows.length);
    expect(chartMermaid(chart).match(/-->|-\.->/g) ?? []).toHaveLength(chart.arrows.length);
  });
});

test('what a moveset is called is text in all of them', () => {
  const { svg, dot, mermaid } = (() => {
    const chart = { ...chartOf(plan(TEXT)), moveset: '</text><script>"&\\' };
    return { svg: chartSvg(chart)[0], dot: chartDot(chart), mermaid: chartMermaid(chart) };
  })();
  expect(readXml(svg).some(({ name }) => name === 'script')).toBe(false);
  expect(dot.split('\n')[0]).toBe('digraph "</text><script>\\"&\\\\" {');
  expect(mermaid).not.toContain('<script>');
});
