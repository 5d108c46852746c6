import { defineConfig } from 'vite';

/** The script of the page to hand over: one file that needs no other. */
export default defineConfig({
  publicDir: false,
  build: {
    outDir: 'dist-handover',
    sourcemap: false,
    chunkSizeWarningLimit: 1000,
    lib: {
      entry: 'src/handover/main.ts',
      formats: ['iife'],
      name: 'handover',
      fileName: () => 'handover.js',
    },
  },
});
