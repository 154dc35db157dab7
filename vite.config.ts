import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

/**
 * Schemas in the browser check what is read; only tools write them down as JSON Schema. What does that is a part of every schema
 * of Zod, so that no bundler sees that it is never called: its functions are left out by name.
 */
const withoutJsonSchema: Plugin = {
  name: 'without-json-schema',
  apply: 'build',
  transform(code, id) {
    if (!/zod\/v4\/core\/(json-schema-processors|to-json-schema)\.js$/.test(id)) return null;
    const names = [...code.matchAll(/^export (?:const|function) (\w+)/gm)].map((m) => m[1]!);
    const renamed = [...code.matchAll(/^export \{ (\w+) as (\w+) \};/gm)];
    const left = [
      ...names.map((n) => `export const ${n} = () => () => {};`),
      ...renamed.map((m) => `export { ${m[1]} as ${m[2]} };`),
    ];
    return { code: left.join('\n'), map: null };
  },
};

export default defineConfig({
  plugins: [withoutJsonSchema, react(), tailwindcss()],
  root: 'src/app',
  publicDir: '../../src/app/public',
  worker: { format: 'es', plugins: () => [withoutJsonSchema] },
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
