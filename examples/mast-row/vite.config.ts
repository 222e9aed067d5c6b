import { join } from 'node:path';
import { defineConfig } from 'vite';

const root = join(import.meta.dirname, '../..');

export default defineConfig({
  root: import.meta.dirname,
  base: './',
  resolve: {
    alias: [
      { find: /^loggia$/, replacement: join(root, 'src/index.ts') },
      { find: 'loggia/text', replacement: join(root, 'src/format/text.ts') },
      { find: 'loggia/browser', replacement: join(root, 'src/devices/index.ts') },
    ],
  },
  build: { outDir: join(root, 'build/mast-row'), emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 2000 },
});
