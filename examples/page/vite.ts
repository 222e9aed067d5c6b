import { join } from 'node:path';
import type { UserConfig } from 'vite';
import { movesets } from '../../src/vite/index.js';

const root = join(import.meta.dirname, '../..');

/** How the page of an example is built, with Loggia from its sources. */
export function pageConfig(name: string, chunkSizeWarningLimit = 2000): UserConfig {
  return {
    root: join(root, 'examples', name),
    base: './',
    // All but the slipway draw facts by their names or have opponents.
    plugins: [movesets({ formulas: name !== 'slipway' })],
    resolve: {
      alias: [
        { find: /^loggia$/, replacement: join(root, 'src/index.ts') },
        // The same that the package's conditions choose.
        {
          find: 'loggia/show',
          replacement: join(root, process.argv.includes('build') ? 'src/show/index.ts' : 'src/show/live.ts'),
        },
        { find: 'loggia/module', replacement: join(root, 'src/module/index.ts') },
        { find: 'loggia/text', replacement: join(root, 'src/format/text.ts') },
        { find: 'loggia/analysis', replacement: join(root, 'src/analysis/index.ts') },
        { find: 'loggia/arena', replacement: join(root, 'src/arena/index.ts') },
        { find: 'loggia/rapier', replacement: join(root, 'src/rapier/index.ts') },
        { find: 'loggia/browser', replacement: join(root, 'src/devices/index.ts') },
      ],
    },
    // No text becomes code: neither the interpreter nor modules need that. Rapier is WebAssembly.
    preview: {
      headers: { 'Content-Security-Policy': `script-src 'self'${name === 'hull-climb' ? " 'wasm-unsafe-eval'" : ''}` },
    },
    build: { outDir: join(root, 'build', name), emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit },
  };
}
