import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { defineConfig, type Plugin } from 'vite';

/** Writes the licences of the packages that are in the files, beside them. */
function notices(): Plugin {
  return {
    name: 'notices',
    generateBundle(_, bundle) {
      const modules = Object.values(bundle).flatMap((chunk) => (chunk.type === 'chunk' ? chunk.moduleIds : []));
      const folders = modules.flatMap((id) => /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+/.exec(id)?.[0] ?? []);
      const texts = [...new Set(folders)].sort().map((folder) => {
        const { name, version, license } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
        const file = readdirSync(folder).find((one) => /^licen[cs]e/i.test(one));
        if (!file) this.error(`${name} has no file of its licence.`);
        return `${name} ${version} (${license})\n\n${readFileSync(join(folder, file as string), 'utf8').trim()}\n`;
      });
      const head = 'The files of the command line contain these packages.\n';
      this.emitFile({
        type: 'asset',
        fileName: 'NOTICES.txt',
        source: [head, ...texts].join(`\n${'-'.repeat(80)}\n\n`),
      });
    },
  };
}

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
  plugins: [notices(), faces()],
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
