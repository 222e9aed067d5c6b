import { defineConfig } from 'vite';

/** The library. Packages stay imports; nothing is bundled but Loggia itself. */
export default defineConfig({
  build: {
    target: 'node20',
    minify: false,
    lib: {
      formats: ['es'],
      entry: {
        index: 'src/index.ts',
        'format/index': 'src/format/index.ts',
        'format/text': 'src/format/text.ts',
        'scenario/index': 'src/scenario/index.ts',
        'vite/index': 'src/vite/index.ts',
        'vitest/index': 'src/vitest/index.ts',
        'study/index': 'src/study/index.ts',
        'arena/index': 'src/arena/index.ts',
        'module/index': 'src/module/index.ts',
        'recording/index': 'src/recording/index.ts',
        'show/index': 'src/show/index.ts',
        'show/live': 'src/show/live.ts',
        'show/server': 'src/show/server.ts',
        'rapier/index': 'src/rapier/index.ts',
        'devices/index': 'src/devices/index.ts',
      },
    },
    rolldownOptions: {
      // Places in the record are constants; written as numbers they spare the tick a load each.
      optimization: { inlineConst: { mode: 'all', pass: 3 } },
      // File by file, so that a bundler leaves out every file of which a game uses nothing.
      // What is said of the calls stands in the types.
      output: { preserveModules: true, preserveModulesRoot: 'src', comments: { jsdoc: false } },
      external: [/^node:/, '@jridgewell/sourcemap-codec', 'yaml', 'fastest-levenshtein', 'vite', 'vitest'],
    },
  },
});
