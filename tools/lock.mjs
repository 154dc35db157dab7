#!/usr/bin/env node
// Completes package-lock.json after `npm install` against a registry that serves only this platform's optional
// packages: `npm run lock`. Without the others' entries `npm ci` takes the file for out of date.
import { readFileSync, writeFileSync } from 'node:fs';

const SYSTEMS = [
  'darwin',
  'linux',
  'win32',
  'freebsd',
  'openbsd',
  'netbsd',
  'android',
  'sunos',
  'aix',
  'openharmony',
];
const PROCESSORS = [
  'x64',
  'arm64',
  'arm',
  'ia32',
  'ppc64',
  'ppc64le',
  's390x',
  'riscv64',
  'loong64',
  'mips64el',
  'wasm32',
];

/** Platform of an optional package, from its name. */
function platformOf(name) {
  const words = name.toLowerCase().split(/[^a-z0-9]+/);
  const os = SYSTEMS.filter((s) => words.includes(s));
  const cpu = PROCESSORS.filter((p) => words.includes(p));
  const libc = words.includes('musl') ? ['musl'] : words.includes('gnu') ? ['glibc'] : [];
  if (name === 'fsevents') os.push('darwin');
  if (os.length === 0 && cpu.length === 0) return null;
  return { ...(cpu.length ? { cpu } : {}), ...(os.length ? { os } : {}), ...(libc.length ? { libc } : {}) };
}

const file = 'package-lock.json';
const lock = JSON.parse(readFileSync(file, 'utf8'));
let added = 0;
for (const [path, entry] of Object.entries({ ...lock.packages })) {
  for (const [name, range] of Object.entries(entry.optionalDependencies ?? {})) {
    const at = `node_modules/${name}`;
    if (lock.packages[at] || lock.packages[`${path}/node_modules/${name}`]) continue;
    const platform = platformOf(name);
    if (!platform) continue;
    lock.packages[at] = {
      version: range.replace(/^[~^]/, ''),
      ...platform,
      ...(entry.dev ? { dev: true } : {}),
      optional: true,
    };
    added++;
  }
}
lock.packages = Object.fromEntries(
  Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)),
);
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
process.stdout.write(`${added} entries for other platforms added\n`);
