import { join } from 'node:path';
import { defineConfig } from 'vite';
import { movesets } from '../src/vite/index.js';

const root = join(import.meta.dirname, '..');
export default defineConfig({
  plugins: [movesets()],
  resolve: { alias: { 'loggia/module': join(root, 'src/module/index.ts') } },
  build: {
    ssr: true,
    outDir: '/tmp/prof/out',
    emptyOutDir: true,
    target: 'node20',
    minify: false,
    rolldownOptions: { input: { mod: '/tmp/prof/mod.ts' }, optimization: { inlineConst: { mode: 'all', pass: 3 } } },
  },
  ssr: { noExternal: true },
});
