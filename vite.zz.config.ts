import { defineConfig } from 'vite';
export default defineConfig({ build: { ssr: 'bench/zz.ts', outDir: 'build/zz', target: 'node20', minify: false, rolldownOptions: { optimization: { inlineConst: { mode: 'all', pass: 3 } } } }, ssr: { noExternal: true } });
