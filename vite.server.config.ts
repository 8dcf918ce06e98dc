import { defineConfig } from 'vite';

/**
 * The server and what its threads run, each in few files: Node.js reads the sources one by one through a loader, and a
 * thread would take 3 s to start.
 */
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'dist/server',
    emptyOutDir: true,
    target: 'node20',
    minify: false,
    rolldownOptions: { input: { main: 'server/main.ts', doTask: 'server/threads/doTask.ts' } },
  },
});
