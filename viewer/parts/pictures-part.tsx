import { useEffect, useMemo, useRef, useState } from 'react';
import { chartAround, chartOf } from '../../src/analysis/chart.js';
import { type LegalRow, legalOf, momentText } from '../../src/analysis/legal.js';
import { chartSvg } from '../../src/draw/chart-svg.js';
import { sentenceOf, signOf } from '../../src/draw/legal.js';
import { useModel } from './use.js';

/** From so many abilities on, the chart shows only what is around the chosen one, if there is one. */
const MANY = 30;

/** The pictures of the moveset, with what is active lit. */
export function PicturesPart({ which }: { which: 'chart' | 'table' }) {
  const model = useModel();
  const plan = model.now?.plan;
  if (!plan) return null;
  return which === 'chart' ? <ChartPart /> : <TablePart />;
}

function ChartPart() {
  const model = useModel();
  const host = useRef<HTMLDivElement>(null);
  const plan = model.now?.plan;
  const chosen = plan?.names.ability.includes(model.ability ?? '') ? model.ability : null;
  const [around, setAround] = useState<boolean | null>(null);
  const isAround = chosen !== null && (around ?? (plan?.abilities.length ?? 0) > MANY);
  const focus = isAround ? chosen : null;
  const pages = useMemo(() => {
    if (!plan) return [];
    const chart = focus === null ? chartOf(plan) : chartAround(chartOf(plan), focus);
    return chartSvg(chart, { colors: 'system', width: 900, height: 1200 });
  }, [plan, focus]);
  const running = model.now?.plan.names.lane.flatMap((lane) => model.now?.readout.ability(lane) ?? []) ?? [];
  useEffect(() => {
    for (const one of host.current?.querySelectorAll('[data-name]') ?? [])
      one.classList.toggle('running', running.includes(one.getAttribute('data-name') ?? ''));
  });
  return (
    <>
      <p className="quiet">
        {chosen === null ? (
          'Click an ability to choose it; then only what leads to it, and what it leads to, can be shown.'
        ) : (
          <label>
            <input type="checkbox" checked={isAround} onChange={(event) => setAround(event.target.checked)} /> only what
            leads to {chosen}, and what it leads to
          </label>
        )}
      </p>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: each ability can be chosen in "now", too */}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the same */}
      <div
        ref={host}
        className="chart"
        onClick={(event) => {
          const name = (event.target as Element).closest('[data-name]')?.getAttribute('data-name');
          if (name) model.choose(name);
        }}
        // biome-ignore lint/security/noDangerouslySetInnerHtml: our own picture, in which all text is escaped
        dangerouslySetInnerHTML={{ __html: pages.join('\n') }}
      />
    </>
  );
}

function TablePart() {
  const model = useModel();
  const one = model.now;
  const plan = one?.plan;
  const legal = useMemo(() => (plan ? legalOf(plan) : null), [plan]);
  if (!legal || !one) return null;
  const { abilities } = legal;
  const { readout } = one;
  const { lane: lanes } = one.plan.names;
  const isNow = ({ stance, ability, phase }: LegalRow) =>
    ability === null
      ? stance === readout.stance && lanes.every((lane) => readout.ability(lane) === null)
      : lanes.some((lane) => readout.ability(lane) === ability && (phase === null || readout.phase(lane) === phase));
  return (
    <div className="table">
      <table>
        <thead>
          <tr>
            <th>while</th>
            {abilities.map((name) => (
              <th key={name} scope="col" title={name} className={name === model.ability ? 'chosen' : ''}>
                <span>{name}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {legal.rows.map((row) => (
            <tr key={`${row.ability === null} ${momentText(row)}`} className={isNow(row) ? 'here' : ''}>
              <th scope="row" title={momentText(row)}>
                {momentText(row)}
              </th>
              {row.cells.map((cell) => (
                <td key={cell.into} className={cell.may} title={sentenceOf(cell)}>
                  {signOf(cell)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
