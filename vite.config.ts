import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
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

/** Of the releases, the newest of each are there after one visit; older ones once they were looked at. */
const KEPT_RELEASES = /^(catalogue\.json|pfad-3\.2-[^r].*|kolk-16\.4-.*)$/;

function releases() {
  const dir = 'dist/firmware';
  if (!existsSync(dir)) return [];
  return readdirSync(dir)
    .filter((file) => KEPT_RELEASES.test(file))
    .map((file) => ({
      url: `/releases/${file}`,
      revision: createHash('sha256')
        .update(readFileSync(`${dir}/${file}`))
        .digest('hex')
        .slice(0, 16),
    }));
}

/** Installable, and whole without network or server after one visit; a newer one waits until it is taken. */
const offline = VitePWA({
  registerType: 'prompt',
  injectRegister: null,
  manifest: {
    name: 'Wanderweg',
    short_name: 'Wanderweg',
    description: 'From bare board to trusted return.',
    start_url: '/',
    display: 'standalone',
    theme_color: '#f6f3ea',
    background_color: '#f6f3ea',
    icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
    file_handlers: [{ action: '/', accept: { 'application/json': ['.json'] } }],
  },
  workbox: {
    globPatterns: ['**/*.{js,css,html,svg,woff2,json}'],
    maximumFileSizeToCacheInBytes: 5_000_000,
    additionalManifestEntries: releases(),
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/releases\//, /^\/board/, /\.[^/]*$/],
    clientsClaim: true,
    cleanupOutdatedCaches: true,
    runtimeCaching: [
      {
        urlPattern: /\/releases\//,
        handler: 'NetworkFirst',
        options: { cacheName: 'releases', networkTimeoutSeconds: 4, expiration: { maxEntries: 20 } },
      },
    ],
  },
});

export default defineConfig({
  plugins: [withoutJsonSchema, react(), tailwindcss(), offline],
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
