import { defineConfig } from 'vite';
import { pageConfig } from '../page/vite.js';

export default defineConfig(pageConfig('breakwater'));
