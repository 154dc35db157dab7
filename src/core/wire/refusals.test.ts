import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { refusalCodes } from './refusals.ts';

describe('the words of refusals', () => {
  it('stand in docs/link.md with what they mean, each once, and no other', () => {
    const page = readFileSync('docs/link.md', 'utf8');
    const table = page.slice(page.indexOf('### Why a request is refused'), page.indexOf('### Loader'));
    const rows = [...table.matchAll(/^\| `([a-z-]+)` \| (.+) \|$/gm)].map((m) => [m[1], m[2]]);
    expect(rows).toEqual(Object.entries(refusalCodes));
  });
});
