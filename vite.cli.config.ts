import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { defineConfig, type Plugin } from 'vite';
import { notices } from './scripts/notices.js';

/** Puts the face in which pictures are set beside them. */
function faces(): Plugin {
  return {
    name: 'faces',
    generateBundle() {
      const folder = 'node_modules/@fontsource/ibm-plex-sans';
      for (const weight of [400, 600])
        this.emitFile({
          type: 'asset',
          fileName: `plex-sans-${weight}.woff2`,
          source: readFileSync(join(folder, `files/ibm-plex-sans-latin-${weight}-normal.woff2`)),
        });
      this.emitFile({
        type: 'asset',
        fileName: 'plex-sans-licence.txt',
        source: readFileSync(join(folder, 'LICENSE')),
      });
    },
  };
}

/** The command line in a few files, the YAML parser among them: reading hundreds of small ones takes longer than most checks. */
export default defineConfig({
  plugins: [notices('The files of the command line contain these packages.'), faces()],
  // With "browser" among them, it would take a picocolors that paints nothing.
  resolve: { mainFields: ['module', 'main'] },
  build: {
    target: 'node20',
    minify: true,
    emptyOutDir: false,
    outDir: 'dist/cli',
    lib: {
      formats: ['es'],
      entry: {
        bin: 'src/cli/bin.ts',
        'run-worker': 'src/cli/run-worker.ts',
        'sweep-worker': 'src/cli/sweep-worker.ts',
      },
    },
    rolldownOptions: {
      platform: 'node',
      external: [/^node:/, '@resvg/resvg-wasm', 'stream', 'string_decoder'],
      output: {
        chunkFileNames: '[name].js',
        minify: true,
        // What every check needs is one file.
        codeSplitting: {
          groups: [
            {
              name: 'core',
              test: /src\/(?!cli|draw|study|scenario|recording|emit)|node_modules\/(yaml|commander|picocolors)\//,
            },
          ],
        },
      },
    },
  },
});
