import type { Chart } from '../analysis/chart.js';
import { type CommandSpec, ROOT_OPTION, rootOf } from './command.js';
import { refuse, safe } from './io.js';

export const chart: CommandSpec = {
  name: 'chart',
  summary: 'Draw the moveset: lanes, abilities to scale of time, and what may follow what.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [
    [
      '--out <file>',
      'where to draw it: .svg, .html, .png, .dot, .mmd (Mermaid), .scxml, .json (default: <name>.chart.svg)',
    ],
    ['--around <ability>', 'only what leads to this one, and what it leads to'],
    ['--size <size>', 'pixels of a page; more pages are numbered (default: 1280x800)'],
    ['--compare <other>', 'mark what is new, gone or changed since another version: a file, or a revision of git'],
    ['--dark', 'colours for a dark page'],
    ROOT_OPTION,
  ],
  example: 'loggia chart demo/boatyard/pell.yaml --out pell.html',
  async run([file], given, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { chartOf, chartAround } = await import('../analysis/chart.js');
    const size = /^(\d{3,5})x(\d{3,5})$/.exec(String(given.size ?? '1280x800'));
    if (!size) {
      io.err(`loggia chart: --size takes pixels like 1280x800, not ${safe(String(given.size))}.`);
      return 2;
    }
    const { plan, diagnostics, files } = await loadMoveset(file, rootOf(given));
    if (!plan) return refuse(io, diagnostics, `loggia chart: ${safe(file)} has errors; nothing was drawn.`);
    let found: Chart = chartOf(plan);
    if (given.compare !== undefined) {
      const { loadVersion } = await import('./versions.js');
      const before = await loadVersion(String(given.compare), file, rootOf(given).root, io);
      if (!before) return 1;
      found = (await import('../analysis/changes.js')).chartChanges(before, plan);
    }
    if (given.around !== undefined) {
      const { known } = await import('./known.js');
      if (!known('chart', 'ability', String(given.around), plan.names.ability, io)) return 2;
      found = chartAround(found, String(given.around));
    }
    const { writePages } = await import('./write-out.js');
    const options = { width: Number(size[1]), height: Number(size[2]), ...(given.dark && { colors: 'dark' as const }) };
    const out = String(given.out ?? `${plan.name.toLowerCase().replace(/\W+/g, '-')}.chart.svg`);
    const svg = async () => (await import('../draw/chart-svg.js')).chartSvg(found, options);
    return writePages(
      out,
      {
        svg,
        png: async () => {
          const { toPng } = await import('./png.js');
          return Promise.all((await svg()).map(toPng));
        },
        html: async () => [(await import('../draw/chart-html.js')).chartHtml(found, options)],
        dot: async () => [(await import('../draw/chart-text.js')).chartDot(found)],
        mmd: async () => [(await import('../draw/chart-text.js')).chartMermaid(found)],
        scxml: async () => [(await import('../draw/chart-scxml.js')).chartScxml(found)],
        json: () => [`${JSON.stringify(found, null, 2)}\n`],
      },
      files,
      io,
    );
  },
};
