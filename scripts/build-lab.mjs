// Makes a folder that any web server serves, and that opens from a disk, too: the lab with the demo inside, and the guide, each
// example of which opens in that lab.
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Marked } from 'marked';
import { fragmentsOf, wholeMoveset } from './guide.mjs';

const OUT = 'build/lab';
const DEMO = 'demo/boatyard';
const GUIDE = 'docs/guide';
rmSync(OUT, { recursive: true, force: true });
for (const folder of ['guide', 'reference', 'screenshots']) mkdirSync(join(OUT, folder), { recursive: true });

const files = {};
for (const entry of readdirSync(DEMO, { recursive: true, withFileTypes: true })) {
  if (!entry.isFile() || !/\.ya?ml$/.test(entry.name)) continue;
  const path = join(entry.parentPath ?? entry.path, entry.name);
  files[path.slice(DEMO.length + 1).replaceAll('\\', '/')] = readFileSync(path, 'utf8');
}

/** The examples of a page of the guide, as files; by their text, what opens each. */
function examplesOf(page, text) {
  const number = /^\d+/.exec(page)?.[0] ?? page;
  const links = new Map();
  let moveset = '';
  let count = 0;
  for (const { language, info, text: fragment } of fragmentsOf(text)) {
    if (language !== 'yaml') continue;
    count++;
    if (info === 'scenario') {
      const folder = `guide-${number}-${count}`;
      files[`${folder}/moveset.yaml`] = moveset;
      files[`${folder}/scenario.yaml`] = fragment;
      links.set(fragment.trimEnd(), { file: `${folder}/moveset.yaml`, ground: `${folder}/scenario.yaml` });
      continue;
    }
    // What only others include plays nothing by itself.
    if (/^part:/m.test(fragment)) continue;
    moveset = wholeMoveset(fragment).trimStart();
    // What it includes is of the demo, which lies beside it.
    const file = `guide-${number}-${count}.yaml`;
    files[file] = moveset;
    links.set(fragment.trimEnd(), { file });
  }
  return links;
}

const STYLE = `:root { color-scheme: light dark; --page: #f7f4ec; --ink: #1d2a2e; --soft: #566469; --line: #cfc8b6; --paper: #fffdf6; --now: #0d6470; }
@media (prefers-color-scheme: dark) { :root { --page: #122027; --ink: #e9e2cc; --soft: #a2afb0; --line: #34464e; --paper: #182a32; --now: #6ccfd6; } }
body { margin: 0 auto; max-width: 860px; padding: 20px 24px 80px; background: var(--page); color: var(--ink); font: 15px/1.55 system-ui, sans-serif; }
a { color: var(--now); } img { max-width: 100%; border: 1px solid var(--line); }
pre { background: var(--paper); border: 1px solid var(--line); border-radius: 4px; padding: 10px 12px; overflow-x: auto; font-size: 13px; margin: 0; }
.example { margin: 14px 0; } .example a { font-size: 13px; }
table { border-collapse: collapse; display: block; overflow-x: auto; } td, th { border-top: 1px solid var(--line); padding: 4px 12px 4px 0; text-align: left; vertical-align: top; }
nav { font-size: 13px; color: var(--soft); margin-bottom: 12px; }`;

const safe = (text) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);

/** A page of the docs, with links to what is here; what is not is not linked. */
function render(text, links) {
  const marked = new Marked({
    renderer: {
      code({ text: code, lang = '' }) {
        const link = links.get(code.trimEnd());
        const open = link && `../index.html#${new URLSearchParams(Object.entries(link))}`;
        const play = open
          ? `<a href="${safe(open)}">${link.ground ? 'Play in it' : 'Play it'}, and change its numbers</a>`
          : '';
        return `<div class="example"><pre><code class="${safe(lang.split(' ')[0])}">${safe(code)}</code></pre>${play}</div>`;
      },
      link({ href, tokens }) {
        const inner = this.parser.parseInline(tokens);
        if (/^https?:|^#/.test(href)) return `<a href="${safe(href)}">${inner}</a>`;
        const [path, hash] = href.split('#');
        const here = /^(\.\.\/(guide|reference)\/)?[\w-]+\.md$/.test(path);
        if (!here) return inner;
        return `<a href="${safe(path.replace(/\.md$/, '.html') + (hash ? `#${hash}` : ''))}">${inner}</a>`;
      },
      image({ href, text: alt }) {
        return existsSync(join('docs/screenshots', href.replace(/^.*\//, '')))
          ? `<img src="../screenshots/${safe(href.replace(/^.*\//, ''))}" alt="${safe(alt)}">`
          : safe(alt);
      },
    },
  });
  return marked.parse(text);
}

function writePage(folder, name, text, links) {
  const title = /^# (.*)$/m.exec(text)?.[1] ?? name;
  const page = `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<link rel="icon" href="data:,">
<title>${safe(title)}</title>
<style>${STYLE}</style>
</head>
<body>
<nav><a href="../index.html">The lab</a> · <a href="../guide/README.html">Guide</a> · <a href="../reference/README.html">Reference</a></nav>
${render(text, links)}
</body>
</html>
`;
  writeFileSync(join(OUT, folder, name.replace(/\.md$/, '.html')), page);
}

for (const name of readdirSync(GUIDE).filter((one) => one.endsWith('.md'))) {
  const text = readFileSync(join(GUIDE, name), 'utf8');
  writePage('guide', name, text, examplesOf(name, text));
}
for (const name of readdirSync('docs/reference').filter((one) => one.endsWith('.md')))
  writePage('reference', name, readFileSync(join('docs/reference', name), 'utf8'), new Map());
for (const name of readdirSync('docs/screenshots').filter((one) => one.endsWith('.png')))
  copyFileSync(join('docs/screenshots', name), join(OUT, 'screenshots', name));

const bundle = Buffer.from(JSON.stringify({ file: 'pell.yaml', files })).toString('base64');
const page = readFileSync('dist/viewer/viewer.html', 'utf8')
  .replace(/<title>[^<]*<\/title>/, '<title>The lab</title>')
  .replace('<!-- what is shown -->', () => `<script type="application/json" id="bundle">${bundle}</script>`);
writeFileSync(join(OUT, 'index.html'), page);
console.log(
  `${OUT}/index.html: ${Object.keys(files).length} files of the demo and the guide, ${Math.ceil(page.length / 1024)} kB`,
);
