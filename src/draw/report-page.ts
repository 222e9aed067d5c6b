import { toBase64 } from '../report/base64.js';
import { count } from '../report/words.js';
import { escapeMarkup, wholePage } from './html.js';

/** What a report says of a run besides its recording. Plain data. */
export interface Shown {
  readonly title: string;
  /** The scenario or the recording. */
  readonly file: string;
  /** What was expected and did not come. */
  readonly failures: readonly { readonly tick: number; readonly text: string; readonly line: number }[];
  /** How many expectations there were. */
  readonly expectations: number;
}

/** In the page of the viewer, the place of what is shown. */
export const PLACE = '<!-- what is shown -->';

/** The viewer's page with a run in it. Nothing in the run can be markup: it is written as base64. */
export function reportPage(template: string, shown: Shown, run: Uint8Array): string {
  const text = JSON.stringify(shown);
  const head = `<script type="application/json" id="shown">${toBase64(new TextEncoder().encode(text))}</script>`;
  const body = `<script type="application/octet-stream" id="run">${toBase64(run)}</script>`;
  return template
    .replace(/<title>[^<]*<\/title>/, () => `<title>${escapeMarkup(shown.title)}</title>`)
    .replace(PLACE, () => `${head}\n${body}`);
}

/**
 * The viewer's page with a server of its own, which it may ask: for the lab, or beside running games.
 * @param token What it asks with.
 * @param streams Games are in the program that serves it, and not in other pages.
 */
export function servedPage(template: string, what: 'lab' | 'games', token: string, streams = false): string {
  return (
    template
      .replace("default-src 'none';", "default-src 'none'; connect-src 'self';")
      // Rapier, which the lab may run, is WebAssembly.
      .replace("'strict-dynamic'", what === 'lab' ? "'strict-dynamic' 'wasm-unsafe-eval'" : "'strict-dynamic'")
      .replace(
        PLACE,
        () => `<script type="application/json" id="${what}">${JSON.stringify({ token, streams })}</script>`,
      )
  );
}

/** A page that lists runs: those that are not as expected first. */
export function indexPage(runs: readonly { readonly page: string; readonly shown: Shown }[]): string {
  const failed = runs.filter(({ shown }) => shown.failures.length > 0);
  const good = runs.filter(({ shown }) => shown.failures.length === 0);
  const row = ({ page, shown }: (typeof runs)[number]) => {
    const { title, file, failures } = shown;
    const why = failures.map(({ text, tick }) => `${escapeMarkup(text)} (tick ${tick})`).join('<br>');
    const verdict = failures.length > 0 ? 'not as expected' : shown.expectations > 0 ? 'as expected' : 'recorded';
    const start = failures[0]?.tick;
    const link = `${encodeURIComponent(page)}${start === undefined ? '' : `#tick=${start}`}`;
    return `<tr class="${failures.length > 0 ? 'bad' : 'good'}"><td>${verdict}</td><td><a href="${link}">${escapeMarkup(title)}</a><div class="file">${escapeMarkup(file)}</div>${why}</td></tr>`;
  };
  const verdict = failed.length === 0 ? 'all as expected' : `${failed.length} not as expected`;
  return wholePage(
    `${count(runs.length, 'run')}, ${verdict}`,
    'table { border-collapse: collapse; } td { border-top: 1px solid var(--line); padding: 6px 14px 6px 0; vertical-align: top; } .bad td:first-child { color: var(--mark); font-weight: 600; } .file { color: var(--soft); font-size: 12px; } a { color: inherit; }',
    `<h1>${count(runs.length, 'run')}</h1><p>${verdict}</p><table>${[...failed, ...good].map(row).join('\n')}</table>`,
  );
}
