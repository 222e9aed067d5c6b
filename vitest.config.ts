import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['tests/**/*.test.ts'],
    globalSetup: ['tests/build-once.ts'],
    testTimeout: 120_000,
    maxWorkers: '100%',
  },
});
