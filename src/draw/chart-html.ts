import type { Chart } from '../analysis/chart.js';
import { type ChartOptions, chartSvg } from './chart-svg.js';
import { escapeMarkup, wholePage } from './html.js';

/** A chart as one page: what is under the pointer is told, and a click shows what leads to an ability and from it. */
export function chartHtml(chart: Chart, options: ChartOptions = {}): string {
  const [svg] = chartSvg(chart, { colors: 'system', ...options, height: Number.POSITIVE_INFINITY });
  const near = Object.fromEntries(
    chart.abilities.map(({ name }) => [
      name,
      chart.arrows.flatMap(({ from, to }) => (from === name ? to : to === name ? from : [])),
    ]),
  );
  // Within a script, no text may close it.
  const data = JSON.stringify(near).replaceAll('<', '\\u003c');
  return wholePage(
    `${chart.moveset}: chart`,
    STYLE,
    `<p id="told" role="status">Rest the pointer on an ability to read it; click it to see what leads to it and from it. Escape shows all.</p>
${svg.replace('<svg ', '<svg id="chart" ')}
<noscript>${escapeMarkup(chart.abilities.map(({ name }) => name).join(', '))}</noscript>`,
    SCRIPT.replace('NEAR', data),
  );
}

const STYLE = `body { padding: 0; }
#told { position: sticky; top: 0; margin: 0; padding: 8px 24px; background: var(--page); border-bottom: 1px solid var(--line); white-space: pre-line; min-height: 1.4em; z-index: 1; }
svg { display: block; max-width: none; }
.ability { cursor: pointer; outline: none; }
.ability:hover .paper, .ability:focus-visible .paper { opacity: 1; }
.ability:focus-visible .paper { stroke: var(--mark); stroke-width: 2; }
svg.focus .ability, svg.focus .way { opacity: .13; }
svg.focus .near, svg.focus .chosen { opacity: 1; }
.chosen .paper { opacity: 1; stroke: var(--mark); stroke-width: 1.5; }`;

const SCRIPT = `const near = NEAR;
const svg = document.getElementById('chart');
const told = document.getElementById('told');
const usual = told.textContent;
const all = [...svg.querySelectorAll('.ability')];
const ways = [...svg.querySelectorAll('.way')];
const words = new Map();
for (const one of all) {
  const title = one.querySelector('title');
  words.set(one, title.textContent.split('\\n').join('   '));
  one.setAttribute('aria-label', title.textContent);
  title.remove();
  one.setAttribute('tabindex', '0');
  one.setAttribute('role', 'button');
  one.addEventListener('pointerenter', () => { told.textContent = words.get(one); });
  one.addEventListener('focus', () => { told.textContent = words.get(one); });
  one.addEventListener('click', () => choose(one));
  one.addEventListener('keydown', (event) => { if (event.key === 'Enter' || event.key === ' ') { event.preventDefault(); choose(one); } });
}
function choose(one) {
  const again = one === null || one.classList.contains('chosen');
  svg.classList.toggle('focus', !again);
  const name = one && one.dataset.name;
  for (const other of all) {
    other.classList.toggle('chosen', !again && other === one);
    other.classList.toggle('near', !again && (near[name] || []).includes(other.dataset.name));
  }
  for (const way of ways) way.classList.toggle('near', !again && (way.dataset.from === name || way.dataset.to === name));
  told.textContent = one ? words.get(one) : usual;
}
addEventListener('keydown', (event) => { if (event.key === 'Escape') choose(null); });`;
