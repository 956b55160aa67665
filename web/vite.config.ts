import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: {
    sourcemap: false,
    target: 'es2022',
    emptyOutDir: true,
    // The phones of tasters and runners have a page of their own: they need nothing of the bench's.
    rollupOptions: { input: ['index.html', 'taster.html'] },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8765' } },
});
