#!/usr/bin/env node
// `npm start` on a fresh clone: installs what is missing, builds what is out of date, serves.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
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
/** All that a build made, and when it was begun. */
const LIST = 'dist/built.json';
const filesOf = (path) =>
  statSync(path).isDirectory() ? readdirSync(path).flatMap((name) => filesOf(join(path, name))) : [path];
const built = () => {
  try {
    const { begunMs, files } = JSON.parse(readFileSync(LIST, 'utf8'));
    const whole = files.every(([file, bytes]) => existsSync(file) && statSync(file).size === bytes);
    return whole ? begunMs : 0;
  } catch {
    return 0;
  }
};
const sources = ['src', 'demo', 'package-lock.json', 'vite.config.ts', 'tools/images.ts'];
if (built() < Math.max(...sources.map(newest))) {
  const begunMs = Date.now();
  run('npm', ['run', 'build']);
  const files = ['dist/app', 'dist/firmware'].flatMap(filesOf).map((file) => [file, statSync(file).size]);
  writeFileSync(LIST, JSON.stringify({ begunMs, files }));
}
// Where whoever started it is gone without a word, such as npm, it ends as well.
const parent = process.ppid;
setInterval(() => process.ppid !== parent && process.kill(process.pid, 'SIGTERM'), 1000).unref();
process.argv.splice(2, process.argv.length, 'serve');
await import('./wanderweg.mjs');
