import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { defineConfig, type Plugin } from 'vite';
import { notices } from './scripts/notices.js';

/** Puts script and style into the page, so that it is one file: nothing else may run in it, and nothing is fetched. */
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
      // What would end the element must not stand in it.
      script = script.replaceAll('</script', '<\\/script').replaceAll('<!--', '<\\!--');
      const hash = createHash('sha256').update(script).digest('base64');
      const policy = `default-src 'none'; script-src 'sha256-${hash}'; style-src 'unsafe-inline'; img-src data: blob:; base-uri 'none'; form-action 'none'`;
      const page = readFileSync('viewer/viewer.html', 'utf8')
        .replace('<link ', () => `<meta http-equiv="Content-Security-Policy" content="${policy}">\n<link `)
        .replace('</head>', () => `<style>${style}</style>\n</head>`)
        .replace('</body>', () => `<script type="module">${script}</script>\n</body>`);
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
