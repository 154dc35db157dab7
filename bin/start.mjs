#!/usr/bin/env node
// `npm start` on a fresh clone: installs what is missing, builds what is out of date, serves.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(root);

const run = (command, args) => {
  const { status } = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32' });
  if (status !== 0) process.exit(status ?? 1);
};
const newest = (path) => {
  if (!existsSync(path)) return 0;
  const s = statSync(path);
  if (!s.isDirectory()) return s.mtimeMs;
  return Math.max(s.mtimeMs, ...readdirSync(path).map((name) => newest(join(path, name))));
};

const installed = 'node_modules/.package-lock.json';
if (!existsSync(installed) || newest(installed) < newest('package-lock.json'))
  run('npm', ['ci', '--no-audit', '--no-fund']);
const whole = existsSync('dist/app/index.html') && existsSync('dist/firmware/catalogue.json');
const built = whole ? statSync('dist/app/index.html').mtimeMs : 0;
if (
  built <
  Math.max(
    newest('src'),
    newest('demo'),
    newest('package-lock.json'),
    newest('vite.config.ts'),
    newest('tools/images.ts'),
  )
)
  run('npm', ['run', 'build']);
process.argv.splice(2, process.argv.length, 'serve');
await import('./wanderweg.mjs');
