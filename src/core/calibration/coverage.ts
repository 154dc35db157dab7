import { clamp } from '../math/scalar.ts';
import { type Triple, unit } from '../math/triple.ts';

/**
 * A globe in 24 facets of one area: four rings with 4, 8, 8 and 4 of them. Between heights of a sphere lies as much of its
 * surface as the heights are apart (Archimedes), so that the rings end at 2/3, 0 and -2/3.
 */
const RINGS = [4, 8, 8, 4] as const;
const TOPS = [1, 2 / 3, 0, -2 / 3, -1] as const;
export const FACETS = 24;

/** One facet by its borders: sines of latitude, and longitudes, rad. */
export interface Facet {
  readonly top: number;
  readonly bottom: number;
  readonly from: number;
  readonly to: number;
}

export const facets: readonly Facet[] = RINGS.flatMap((n, ring) =>
  Array.from({ length: n }, (_, i) => ({
    top: TOPS[ring]!,
    bottom: TOPS[ring + 1]!,
    from: (2 * Math.PI * i) / n - Math.PI,
    to: (2 * Math.PI * (i + 1)) / n - Math.PI,
  })),
);

/** The facet that a direction points to. */
export function facetOf(direction: Triple): number {
  const [x, y, z] = unit(direction);
  let first = 0;
  for (let ring = 0; ring < RINGS.length; ring++) {
    const n = RINGS[ring]!;
    if (z >= TOPS[ring + 1]! || ring === RINGS.length - 1) {
      const i = Math.floor(((Math.atan2(y, x) + Math.PI) / (2 * Math.PI)) * n);
      return first + clamp(i, 0, n - 1);
    }
    first += n;
  }
  return FACETS - 1;
}

/** The middle of a facet, unit. */
export function middleOf(facet: number): Triple {
  const f = facets[facet]!;
  const z = (f.top + f.bottom) / 2;
  const level = Math.sqrt(1 - z * z);
  const at = (f.from + f.to) / 2;
  return [level * Math.cos(at), level * Math.sin(at), z];
}
