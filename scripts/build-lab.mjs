// Makes a page that is the lab, with the demo inside: any web server can serve the folder, and it opens from a disk, too.
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const OUT = 'build/lab';
const DEMO = 'demo/boatyard';
const files = {};
for (const entry of readdirSync(DEMO, { recursive: true, withFileTypes: true })) {
  if (!entry.isFile() || !/\.ya?ml$/.test(entry.name)) continue;
  const path = join(entry.parentPath ?? entry.path, entry.name);
  files[path.slice(DEMO.length + 1).replaceAll('\\', '/')] = readFileSync(path, 'utf8');
}
const bundle = Buffer.from(JSON.stringify({ file: 'pell.yaml', files })).toString('base64');
const page = readFileSync('dist/viewer/viewer.html', 'utf8')
  .replace(/<title>[^<]*<\/title>/, '<title>The lab</title>')
  .replace('<!-- what is shown -->', () => `<script type="application/json" id="bundle">${bundle}</script>`);
mkdirSync(OUT, { recursive: true });
writeFileSync(join(OUT, 'index.html'), page);
console.log(`${OUT}/index.html: ${Object.keys(files).length} files of the demo, ${Math.ceil(page.length / 1024)} kB`);
