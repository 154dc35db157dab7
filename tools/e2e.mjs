#!/usr/bin/env node
// Builds the application and walks it in Chromium; installs Debian's chromium where it is missing and may be.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { findChromium } from './chromium.mjs';

const run = (command, args, env = {}) => {
  const { status } = spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
  return status ?? 1;
};

if (!findChromium()) {
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    process.stderr.write(
      'Chromium is missing. Install the package "chromium", or set CHROMIUM to its path.\n',
    );
    process.exit(1);
  }
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  if (
    run('apt-get', ['update', '-qq'], env) !== 0 ||
    run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], env) !== 0
  ) {
    process.stderr.write('Chromium could not be installed.\n');
    process.exit(1);
  }
}
if (run('npm', ['run', '--silent', 'build']) !== 0) process.exit(1);
const shots = process.argv.includes('--screenshots');
const rest = process.argv.slice(2).filter((a) => a !== '--screenshots');
process.exit(
  run('npx', ['playwright', 'test', ...rest], {
    CHROMIUM: findChromium(),
    ...(shots ? { SCREENSHOTS: '1' } : {}),
  }),
);
