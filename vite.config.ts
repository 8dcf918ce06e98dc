import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  root: 'web',
  plugins: [react()],
  worker: { format: 'es' },
  build: { outDir: '../dist/web', emptyOutDir: true, chunkSizeWarningLimit: 1200 },
});
