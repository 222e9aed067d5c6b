import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { defineConfig, type Plugin } from 'vite';
import { notices } from './scripts/notices.js';

// Also where tests build it, or a shell says otherwise: JSX is else compiled for React's development build, which is not in the page.
process.env.NODE_ENV = 'production';

/** Inflates the program that is in the page, and runs it. */
const LOADER = `const packed = document.getElementById('program').textContent;
const bytes = Uint8Array.from(atob(packed), (letter) => letter.charCodeAt(0));
const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream('gzip'));
const text = await new Response(stream).text();
const script = document.createElement('script');
script.type = 'module';
script.src = URL.createObjectURL(new Blob([text], { type: 'text/javascript' }));
document.head.append(script);`;

/**
 * Puts everything into one page: a loader, and the program deflated, which is a third of its size. Nothing is fetched, and nothing runs
 * but the loader and what it starts.
 */
function onePage(): Plugin {
  return {
    name: 'one-page',
    enforce: 'post',
    generateBundle(_, bundle) {
      let script = '';
      let style = '';
      for (const [name, part] of Object.entries(bundle)) {
        if (part.type === 'chunk') script += part.code;
        else if (name.endsWith('.css')) style += String(part.source);
        else continue;
        delete bundle[name];
      }
      const hash = createHash('sha256').update(LOADER).digest('base64');
      const policy = `default-src 'none'; script-src 'sha256-${hash}' 'strict-dynamic'; style-src 'unsafe-inline'; img-src data: blob:; base-uri 'none'; form-action 'none'`;
      const packed = gzipSync(script, { level: 9 }).toString('base64');
      const page = readFileSync('viewer/viewer.html', 'utf8')
        .replace('<link ', () => `<meta http-equiv="Content-Security-Policy" content="${policy}">\n<link `)
        .replace('</head>', () => `<style>${style}</style>\n</head>`)
        .replace(
          '</body>',
          () =>
            `<script type="application/gzip" id="program">${packed}</script>\n<script type="module">${LOADER}</script>\n</body>`,
        );
      this.emitFile({ type: 'asset', fileName: 'viewer.html', source: page });
    },
  };
}

/** The viewer as one page. */
export default defineConfig({
  plugins: [notices('The viewer contains these packages.'), onePage()],
  define: { 'process.env.NODE_ENV': '"production"' },
  // Nothing of it is called in a page: paths are given as they are to stand.
  resolve: { alias: { 'node:path': fileURLToPath(new URL('./viewer/no-path.ts', import.meta.url)) } },
  build: {
    target: 'es2022',
    outDir: 'dist/viewer',
    emptyOutDir: true,
    cssCodeSplit: false,
    lib: { formats: ['es'], entry: { viewer: 'viewer/main.tsx' }, cssFileName: 'viewer' },
    minify: true,
    rolldownOptions: { output: { minify: true, codeSplitting: false } },
  },
});
