import { angleDeg, type Triple } from '../math/triple.ts';
import { FACETS, middleOf } from './coverage.ts';

/** The facet that is still wanting and takes the least turn to reach; null once all are there. */
export function nextFacet(
  seen: readonly boolean[],
  now: Triple,
): { readonly facet: number; readonly turnDeg: number } | null {
  let best: { facet: number; turnDeg: number } | null = null;
  for (let facet = 0; facet < FACETS; facet++) {
    if (seen[facet]) continue;
    const turnDeg = angleDeg(now, middleOf(facet));
    if (!best || turnDeg < best.turnDeg) best = { facet, turnDeg };
  }
  return best;
}

const sides = [
  ['nose', 'tail'],
  ['right side', 'left side'],
  ['belly', 'back'],
] as const;
/** A part that has less of a direction than this is not named. */
const NAMED = 0.35;

/** The parts of a craft that a direction in its own axes (forward, right, down; unit) goes through, the foremost first. */
export function partsTowards(direction: Triple): string {
  const named = direction
    .map((v, i) => ({ size: Math.abs(v), name: sides[i]![v > 0 ? 0 : 1] }))
    .filter((p) => p.size >= NAMED)
    .sort((a, b) => b.size - a.size)
    .slice(0, 2);
  return named.map((p) => p.name).join(' and ');
}
