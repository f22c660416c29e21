import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

/** Tests that ask the database; all others run without one. */
const ASK_THE_DATABASE = ['store/test/**/*.test.ts', 'reader/test/read-task.test.ts'];

const alias = { '@': fileURLToPath(new URL('./web/src', import.meta.url)) };
const shared = { testTimeout: 60000, hookTimeout: 60000 };

/** `npx vitest run --project core` runs the tests of the core alone, and needs nothing but packages. */
export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      { resolve: { alias }, test: { ...shared, name: 'core', include: ['core/test/**/*.test.ts'] } },
      { resolve: { alias }, test: { ...shared, name: 'page', include: ['web/test/**/*.test.ts'] } },
      {
        resolve: { alias },
        test: {
          ...shared,
          name: 'programs',
          include: ['*/test/**/*.test.ts'],
          exclude: ['core/**', 'web/**', '**/node_modules/**', ...ASK_THE_DATABASE],
        },
      },
      {
        resolve: { alias },
        test: {
          ...shared,
          name: 'database',
          include: ASK_THE_DATABASE,
          // They share a database, and some count what is in it: one file after the other, when the others are done.
          fileParallelism: false,
          sequence: { groupOrder: 1 },
          globalSetup: ['store/test/database-setup.ts'],
        },
      },
    ],
  },
});
