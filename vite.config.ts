import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  root: 'src/app',
  publicDir: '../../src/app/public',
  worker: { format: 'es' },
  build: { outDir: '../../dist/app', emptyOutDir: true, target: 'es2022', assetsInlineLimit: 0 },
  server: { host: '127.0.0.1', port: 4310 },
  test: {
    root: '.',
    include: ['{src,examples}/**/*.test.{ts,tsx}'],
    environment: 'node',
    testTimeout: 60_000,
    // One fewer than cores is the usual; flights keep a core busy each and wait for nothing.
    maxWorkers: 2,
  },
});
