import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['*/test/**/*.test.ts'],
    globalSetup: ['store/test/database-setup.ts'],
    testTimeout: 60000,
    hookTimeout: 60000,
    maxWorkers: 2,
  },
  resolve: { alias: { '@': fileURLToPath(new URL('./web/src', import.meta.url)) } },
});
