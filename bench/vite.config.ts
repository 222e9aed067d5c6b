import { join } from 'node:path';
import { defineConfig } from 'vite';
import { movesets } from '../src/vite/index.js';

const root = join(import.meta.dirname, '..');

/** The benchmarks as files for Node, the library inside. */
export default defineConfig({
  plugins: [movesets()],
  resolve: { alias: { 'loggia/module': join(root, 'src/module/index.ts') } },
  build: {
    ssr: true,
    outDir: 'build/bench',
    target: 'node20',
    minify: false,
    rolldownOptions: {
      input: { main: 'bench/main.ts', modules: 'bench/modules.ts', 'first-ticks': 'bench/first-ticks.ts' },
      optimization: { inlineConst: { mode: 'all', pass: 3 } },
    },
  },
  ssr: { noExternal: true },
});
