import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    testTimeout: 60000,
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'core/**/*.test.ts',
            'contract/**/*.test.ts',
            'cli/**/*.test.ts',
            'server/**/*.test.ts',
            'web/**/*.test.ts',
            'bench/**/*.test.ts',
          ],
          globalSetup: ['scripts/kernels.mjs'],
          setupFiles: ['server/kernels.ts'],
          testTimeout: 60000,
        },
      },
      {
        test: {
          name: 'database',
          include: ['dbtest/**/*.test.ts'],
          globalSetup: ['dbtest/mariadb.ts'],
          fileParallelism: false,
          testTimeout: 60000,
          hookTimeout: 120000,
        },
      },
    ],
  },
});
