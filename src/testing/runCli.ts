import { spawnSync } from 'node:child_process';

/** For tests: runs the command line as a person would. */
export function runCli(...args: string[]): { code: number | null; out: string; err: string } {
  const r = spawnSync(process.execPath, ['bin/wanderweg.mjs', ...args], {
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  return { code: r.status, out: r.stdout, err: r.stderr };
}
