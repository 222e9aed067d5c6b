import { basename } from 'node:path';
import type { Shown } from '../draw/report-page.js';
import { count } from '../report/words.js';
import { type CommandSpec, rootOf, SCENARIO_ROOT_OPTION } from './command.js';
import { type ExitCode, type Io, safe } from './io.js';
import type { LoadedRun } from './load-run.js';

export const report: CommandSpec = {
  name: 'report',
  summary: 'Write what happened in a run as a page that needs nothing else, or as a picture of its timeline.',
  args: '<run...>',
  argsDoc: 'scenarios or recordings',
  options: [
    ['--out <file>', 'where to write it: .html, .svg or .png; of several runs, a folder (default: <name>.report.html)'],
    ['--width <pixels>', 'how wide a picture is, from 400 to 8000 (default: 1280)'],
    ['--dark', 'a picture for a dark page'],
    SCENARIO_ROOT_OPTION,
  ],
  example: 'loggia report demo/boatyard/scenarios/second-dash-refused.yaml --out dash.html',
  async run(files, given, io) {
    const width = given.width === undefined ? 1280 : Number(given.width);
    if (!(width >= 400 && width <= 8000)) {
      io.err(`loggia report: --width takes pixels from 400 to 8000, not ${safe(String(given.width))}.`);
      return 2;
    }
    const { loadRun } = await import('./load-run.js');
    if (files.length > 1) {
      if (given.out !== undefined && !/\.(html|svg|png)$/.test(String(given.out)))
        return writeReports('report', files, String(given.out), rootOf(given), io);
      io.err('loggia report: several runs are written into a folder; name it by --out.');
      return 2;
    }
    const [file] = files;
    const run = await loadRun(file, undefined, rootOf(given), io);
    if (!run) return 1;
    const name = nameOf(file);
    const { writePages } = await import('./write-out.js');
    const shown = shownOf(file, run);
    const svg = async () => {
      const { tracksOf } = await import('../draw/timeline/tracks.js');
      const { ticksOf } = await import('../draw/timeline/ticks.js');
      const { timelineSvg } = await import('../draw/timeline/timeline-svg.js');
      const flags = shown.failures.map(({ tick }) => tick);
      const note = noteOf(shown);
      return timelineSvg(tracksOf(ticksOf(run.recording)), {
        title: shown.title,
        width,
        flags,
        ...(note !== '' && { note }),
        dark: given.dark === true,
      });
    };
    return writePages(
      String(given.out ?? `${name}.report.html`),
      {
        html: async () => [await (await pageMaker())(shown, run)],
        svg: async () => [await svg()],
        png: async () => [await (await import('./png.js')).toPng(await svg())],
      },
      run.files,
      io,
    );
  },
};

function nameOf(file: string): string {
  return basename(file).replace(/\.(ya?ml|json|jsonl|jsonl\.gz|gz)$/, '');
}

function shownOf(file: string, { report: told }: LoadedRun): Shown {
  return {
    title: told?.scenario || nameOf(file),
    file,
    failures: (told?.result?.failures ?? []).map(({ tick, expected, was, index }) => ({
      tick,
      text: `expected ${expected}, but ${was}`,
      line: told?.lines[index] ?? 0,
    })),
    expectations: told?.result?.expectations ?? 0,
  };
}

function noteOf({ failures, expectations }: Shown): string {
  if (expectations === 0) return '';
  return failures.length === 0
    ? `as expected (${expectations} of ${expectations})`
    : `not as expected: ${failures.map(({ text }) => text).join('; ')}`;
}

/** What makes pages of runs: the viewer's own is read once. */
async function pageMaker(): Promise<(shown: Shown, run: LoadedRun) => Promise<string>> {
  const { reportPage } = await import('../draw/report-page.js');
  const { readViewerPage } = await import('../format/viewer-page.js');
  const template = readViewerPage() ?? '';
  return async (shown, { recording }) => reportPage(template, shown, await recording.toFile());
}

/** A page for each run in a folder, and one that lists them: those that fail first. */
export async function writeReports(
  command: string,
  files: readonly string[],
  folder: string,
  root: { root?: string },
  io: Io,
): Promise<ExitCode> {
  const { loadRun } = await import('./load-run.js');
  const { writeFolder } = await import('./write-out.js');
  const { indexPage } = await import('../draw/report-page.js');
  const outputs: [string, string][] = [];
  const listed: { page: string; shown: Shown }[] = [];
  const sources: string[] = [];
  const names = new Set<string>();
  const pageOf = await pageMaker();
  let code: ExitCode = 0;
  for (const [i, file] of files.entries()) {
    io.progress(`${i + 1} of ${files.length}`);
    const run = await loadRun(file, undefined, root, io);
    if (!run) {
      code = 1;
      continue;
    }
    sources.push(...run.files);
    let page = `${nameOf(file)}.html`;
    for (let n = 2; names.has(page) || page === 'index.html'; n++) page = `${nameOf(file)}-${n}.html`;
    names.add(page);
    const shown = shownOf(file, run);
    outputs.push([page, await pageOf(shown, run)]);
    listed.push({ page, shown });
  }
  io.progress();
  outputs.push(['index.html', indexPage(listed)]);
  if (!writeFolder(command, folder, outputs, sources, io)) return 1;
  const failed = listed.filter(({ shown }) => shown.failures.length > 0).length;
  io.out(safe(`wrote ${folder}/index.html: ${count(listed.length, 'run')}, ${failed} not as expected`));
  return code;
}
