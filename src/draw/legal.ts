import type { Legal, LegalCell } from '../analysis/legal.js';
import { csvLine } from './csv.js';
import { escapeMarkup, wholePage } from './html.js';

/** Signs of a table that is text: who decides that it may start, or that it may not. */
export const SIGNS = {
  from: ['+', 'may start: nothing runs'],
  open: ['o', 'may start: what runs is open to it'],
  breaks: ['b', 'may start: it breaks what runs'],
  lane: ['=', 'may start beside it, in another lane'],
  if: ['?', 'behind a sign: only if its conditions hold'],
  no: ['.', 'may not: the lane is taken, or the stance is another'],
  bars: ['x', 'may not: it is barred'],
  follows: ['~', 'may not: it only follows another'],
} as const;

/** A cell in one or two signs. */
export function signOf({ may, by }: LegalCell): string {
  if (may === 'no') return SIGNS[by === 'bars' || by === 'follows' ? by : 'no'][0];
  const [sign] = by === 'open' || by === 'breaks' || by === 'lane' ? SIGNS[by] : SIGNS.from;
  return sign + (may === 'if' ? SIGNS.if[0] : '');
}

/** What a cell says, in a sentence. */
export function sentenceOf({ into, may, rules }: LegalCell): string {
  const told = rules.filter(({ allows }) => allows === 'no');
  if (may === 'no') return `${into} may not start: ${told.map(({ text }) => text).join('; ')}.`;
  const enters = rules.filter(({ allows }) => allows === 'yes').map(({ text }) => text);
  const conditions = rules.filter(({ allows }) => allows === 'if').map(({ text }) => text);
  const why = enters.length > 0 ? `: ${enters.join('; ')}` : '';
  return conditions.length > 0
    ? `${into} may start if ${conditions.join(', and ')}${why}.`
    : `${into} may start${why}.`;
}

/** Rows of cells, for programs that read tables. */
export function legalCsv({ rows }: Legal): string[] {
  return [
    'stance,ability,phase,into,may,by,why',
    ...rows.flatMap((row) =>
      row.cells.map((cell) =>
        csvLine([row.stance, row.ability, row.phase, cell.into, cell.may, cell.by, sentenceOf(cell)]),
      ),
    ),
  ];
}

/** The table as a page: a word in each cell, and its sentence where the pointer rests. */
export function legalHtml({ moveset, abilities, rows }: Legal): string {
  const head = abilities.map((name) => `<th scope="col"><span>${escapeMarkup(name)}</span></th>`).join('');
  let last: string | null | undefined;
  const body = rows.map((row) => {
    const isFirst = row.ability !== last;
    last = row.ability;
    const cells = row.cells.map(
      (cell) =>
        `<td class="${cell.may}${row.ability === cell.into ? ' own' : ''}" title="${escapeMarkup(sentenceOf(cell))}">${wordOf(cell)}</td>`,
    );
    const [name, phase] = row.stance === null ? [row.ability, row.phase ?? ''] : ['at rest', row.stance];
    const title = `<th scope="row">${isFirst ? escapeMarkup(name ?? '') : ''}</th><th class="phase">${escapeMarkup(phase)}</th>`;
    return `<tr${isFirst ? ' class="first"' : ''}>${title}${cells.join('')}</tr>`;
  });
  const title = `${moveset}: who may follow whom`;
  return wholePage(
    title,
    STYLE,
    `<h1>${escapeMarkup(title)}</h1>
<p>Each row is a moment, each column an ability that is asked for. The word decides: <b>open</b> and <b>breaks</b> let it into the lane, <b>beside</b> is another lane, <b>starts</b> is from rest. <b>?</b> needs conditions to hold; rest the pointer on a cell to read them. Costs, cooldowns and charges are not part of it.</p>
<table><thead><tr><th colspan="2"></th>${head}</tr></thead><tbody>
${body.join('\n')}
</tbody></table>`,
  );
}

function wordOf({ may, by }: LegalCell): string {
  if (may === 'no') return by === 'bars' ? 'barred' : by === 'follows' ? 'follows' : '';
  const word = by === 'open' || by === 'breaks' ? by : by === 'lane' ? 'beside' : 'starts';
  return may === 'if' ? `${word}?` : word;
}

const STYLE = `table { border-collapse: collapse; font-size: 11px; }
thead th { position: sticky; top: 0; background: var(--page); vertical-align: bottom; padding: 4px 2px; font-weight: normal; }
thead th span { writing-mode: vertical-rl; transform: rotate(180deg); }
tbody th { text-align: left; font-weight: bold; padding: 1px 8px 1px 0; white-space: nowrap; }
tbody th.phase { font-weight: normal; color: var(--soft); }
tr.first th, tr.first td { border-top: 1px solid var(--line); }
td { border-left: 1px solid var(--line); min-width: 44px; text-align: center; padding: 1px 3px; }
td.yes { background: var(--yes); } td.if { background: var(--if); }
td.no { color: var(--soft); } td.own { outline: 1px dotted var(--soft); outline-offset: -2px; }
tbody tr:hover th { color: var(--mark); }`;
