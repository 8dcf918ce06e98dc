import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

const folders = ['core', 'contract', 'cli', 'server', 'web', 'bench'];

export default defineConfig({
  test: {
    testTimeout: 60000,
    // All cores: one fewer, the default, is one of two.
    maxWorkers: '100%',
    projects: [
      {
        test: {
          name: 'unit',
          include: folders.map((folder) => `${folder}/**/*.test.ts`),
          globalSetup: ['scripts/kernels.mjs'],
          setupFiles: ['server/kernels.ts'],
          testTimeout: 60000,
          // Frames are rendered before the first test, also on a loaded machine.
          hookTimeout: 120000,
        },
      },
      {
        plugins: [react()],
        test: {
          name: 'components',
          include: ['web/**/*.test.tsx'],
          environment: 'happy-dom',
          setupFiles: ['web/testing/cleanup.ts'],
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
