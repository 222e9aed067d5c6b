import { join } from 'node:path';
import type { UserConfig } from 'vite';

const root = join(import.meta.dirname, '../..');

/** How the page of an example is built, with Loggia from its sources. */
export function pageConfig(name: string, chunkSizeWarningLimit = 2000): UserConfig {
  return {
    root: join(root, 'examples', name),
    base: './',
    resolve: {
      alias: [
        { find: /^loggia$/, replacement: join(root, 'src/index.ts') },
        { find: 'loggia/text', replacement: join(root, 'src/format/text.ts') },
        { find: 'loggia/analysis', replacement: join(root, 'src/analysis/index.ts') },
        { find: 'loggia/arena', replacement: join(root, 'src/arena/index.ts') },
        { find: 'loggia/rapier', replacement: join(root, 'src/rapier/index.ts') },
        { find: 'loggia/browser', replacement: join(root, 'src/devices/index.ts') },
      ],
    },
    build: { outDir: join(root, 'build', name), emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit },
  };
}
