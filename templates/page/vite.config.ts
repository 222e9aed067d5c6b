import { movesets } from 'loggia/vite';
import { defineConfig } from 'vite';

export default defineConfig({ base: './', plugins: [movesets({ types: true })] });
