import { describe, expect, it } from 'vitest';
import { FACETS, facetOf, middleOf } from './coverage.ts';
import { nextFacet, partsTowards } from './nextFacet.ts';

describe('the next facet', () => {
  it('is one that is wanting, and no other is nearer', () => {
    const seen = Array.from({ length: FACETS }, (_, i) => i % 3 !== 0);
    const next = nextFacet(seen, [0, 0, 1])!;
    expect(seen[next.facet]).toBe(false);
    expect(facetOf(middleOf(next.facet))).toBe(next.facet);
    // Facet 0 lies at the top: nothing that is wanting is nearer to straight down the third axis.
    expect(next.facet).toBe(0);
    expect(nextFacet(new Array(FACETS).fill(true), [0, 0, 1])).toBeNull();
  });

  it('is named by the parts of the craft that it goes through', () => {
    expect(partsTowards([0, 0, 1])).toBe('belly');
    expect(partsTowards([-0.6, 0.75, 0.2])).toBe('right side and tail');
    expect(partsTowards([0.1, -0.2, -0.97])).toBe('back');
  });
});
