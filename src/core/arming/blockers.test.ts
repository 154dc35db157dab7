import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { blockerHelp, knownBlockers } from './blockers.ts';

it('everything that the firmware names has a cure, and one of no name that is known has none', () => {
  const source = readFileSync('src/firmware/arming.ts', 'utf8');
  const named = [...source.matchAll(/add\(\s*'([a-z-]+)'/g)].map((m) => m[1]!);
  expect(named.length).toBeGreaterThan(18);
  expect([...knownBlockers].sort()).toEqual([...new Set(named)].sort());
  expect(blockerHelp('of its own')).toEqual({ station: null, todo: '' });
});
