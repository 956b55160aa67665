import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  test: {
    include: ['src/tests/**/*.test.{ts,tsx}'],
    setupFiles: ['src/tests/setup.ts'],
    testTimeout: 30_000,
    css: false,
    maxWorkers: 1, // pytest's own workers fill the machine
    isolate: false,
  },
});
