import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['tests/**/*.test.ts'],
    globalSetup: ['tests/global-setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Browsers and commands are waited for: meanwhile others compute.
    maxWorkers: availableParallelism() + 1,
    // Each file would else load the library anew, which takes longer than most of them run.
    isolate: false,
  },
});
