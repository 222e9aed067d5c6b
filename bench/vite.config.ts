import { defineConfig } from 'vite';

/** The benchmarks as one file for Node, the library inside. */
export default defineConfig({
  build: {
    ssr: 'bench/main.ts',
    outDir: 'build/bench',
    target: 'node20',
    minify: false,
    rolldownOptions: { optimization: { inlineConst: { mode: 'all', pass: 3 } } },
  },
  ssr: { noExternal: true },
});
