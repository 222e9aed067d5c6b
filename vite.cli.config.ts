import { defineConfig } from 'vite';

/** The command line in a few files, the YAML parser among them: reading hundreds of small ones takes longer than most checks. */
export default defineConfig({
  build: {
    target: 'node20',
    minify: false,
    emptyOutDir: false,
    outDir: 'dist/cli',
    lib: { formats: ['es'], entry: { bin: 'src/cli/bin.ts', 'run-worker': 'src/cli/run-worker.ts' } },
    rolldownOptions: { external: [/^node:/, 'commander', 'picocolors'], output: { chunkFileNames: '[name].js' } },
  },
});
