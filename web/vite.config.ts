import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  build: { chunkSizeWarningLimit: 1400, sourcemap: false },
  server: { proxy: { '/api': 'http://127.0.0.1:8340' } },
  test: {
    environment: 'node',
    setupFiles: ['src/testing/setup.ts'],
    include: ['src/**/*.test.{ts,tsx}'],
  },
});
