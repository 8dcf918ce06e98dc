import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

const folders = ['core', 'contract', 'cli', 'server', 'bench'];

/** Each of the projects in a run of its own: their files share a process, and a page's globals are no server's. */
export default defineConfig({
  test: {
    testTimeout: 180000,
    globalSetup: ['scripts/temporaryFolder.ts'],
    // All cores: one fewer, the default, is one of two.
    maxWorkers: '100%',
    projects: [
      {
        test: {
          name: 'unit',
          include: folders.map((folder) => `${folder}/**/*.test.ts`),
          globalSetup: ['scripts/kernels.mjs'],
          setupFiles: ['server/kernels.ts', 'scripts/equalBytes.ts'],
          // What is compiled and warm for one file is so for the next.
          isolate: false,
          // Frames are rendered before the first test, also on a loaded machine.
          testTimeout: 180000,
          hookTimeout: 180000,
        },
      },
      {
        test: {
          // A page that is loaded anew loads its modules anew: each file by itself.
          name: 'page',
          include: ['web/**/*.test.ts'],
          setupFiles: ['scripts/equalBytes.ts'],
        },
      },
      {
        plugins: [react()],
        test: {
          name: 'components',
          include: ['web/**/*.test.tsx'],
          environment: 'happy-dom',
          testTimeout: 180000,
          expect: { poll: { timeout: 40_000 } },
          setupFiles: ['web/testing/setup.ts'],
          // The interface's library is loaded once for all files, not once for each.
          isolate: false,
          // What one file puts in the place of a global is no other's.
          unstubGlobals: true,
          restoreMocks: true,
        },
      },
      {
        test: {
          name: 'database',
          include: ['dbtest/**/*.test.ts'],
          globalSetup: ['scripts/server.mjs', 'dbtest/mariadb.ts'],
          // The server is loaded once for all files, not once for each.
          isolate: false,
          testTimeout: 180000,
          hookTimeout: 180000,
        },
      },
    ],
  },
});
