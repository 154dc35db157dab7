import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

/**
 * Schemas in the browser check what is read; only tools write them down as JSON Schema. What does that hangs on every schema of Zod,
 * so that no bundler sees that it is never called: it is left out by name. What else is in those files, as the bounds of a number
 * that fields are typed by, stays.
 */
const withoutJsonSchema: Plugin = {
  name: 'without-json-schema',
  apply: 'build',
  transform(code, id) {
    const file = /zod\/v4\/core\/(json-schema-processors|to-json-schema)\.js$/.exec(id)?.[1];
    if (!file) return null;
    const whole =
      file === 'to-json-schema'
        ? /^export (?:const|function) (\w+)[\s\S]*?^\};?$/gm
        : /^export (?:const|function) (\w+Processor|toJSONSchema)\b[\s\S]*?^\};?$/gm;
    const left = code.replace(whole, 'export const $1 = () => () => {};');
    if (left === code) throw new Error(`${id} is written otherwise than it was: nothing of it was left out`);
    return { code: left, map: null };
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
