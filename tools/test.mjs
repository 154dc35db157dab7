#!/usr/bin/env node
// `npm test`: format, lint (layers and import cycles among it), types, what nothing uses, unit tests, the walk in the browser. Ends on "N passed, N failed".
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';

const steps = [
  ['format and lint', 'npx', ['biome', 'check', '--error-on-warnings', '.']],
  ['types', 'npx', ['tsc', '--noEmit']],
  ['unused exports and dependencies', 'npx', ['knip', '--no-progress']],
  [
    'unit tests',
    'npx',
    ['vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=.cache/unit.json'],
  ],
  ['attacks, quick', 'npm', ['run', '--silent', 'attack', '--', '--quick']],
  ['the walk in the browser', 'node', ['tools/e2e.mjs', '--reporter=list,json']],
];
mkdirSync('.cache', { recursive: true });
let passed = 0;
let failed = 0;
const red = [];

/** Counts of a runner's JSON report, or null where it wrote none. */
function counts(file, read) {
  try {
    return read(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    return null;
  }
}

for (const [name, command, args] of steps) {
  process.stdout.write(`\n== ${name}\n`);
  const env = { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: '.cache/e2e.json' };
  const { status } = spawnSync(command, args, { stdio: 'inherit', env });
  if (status !== 0) red.push(name);
  const count =
    name === 'unit tests'
      ? counts('.cache/unit.json', (r) => [r.numPassedTests, r.numFailedTests])
      : command === 'node'
        ? counts('.cache/e2e.json', (r) => [r.stats.expected, r.stats.unexpected])
        : null;
  if (count) {
    passed += count[0];
    failed += count[1];
    if (status !== 0 && count[1] === 0) failed += 1;
  } else if (status === 0) passed += 1;
  else failed += 1;
}
if (red.length > 0) process.stdout.write(`\nRed: ${red.join(', ')}\n`);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
