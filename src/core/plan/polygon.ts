import { clamp } from '../math/scalar.ts';

/** Polygons as flat lists of pairs: north, east, north, east and so on, in metres (or any plane's two numbers). */
export type Polygon = ArrayLike<number>;

/** Whether a place lies inside, by how often a line eastward crosses the border (even and odd). */
export function isInside(poly: Polygon, north: number, east: number): boolean {
  let inside = false;
  const n = poly.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const ni = poly[i]!;
    const nj = poly[j]!;
    if (ni > north === nj > north) continue;
    const ei = poly[i + 1]!;
    const crossing = ei + ((north - ni) / (nj - ni)) * (poly[j + 1]! - ei);
    if (east < crossing) inside = !inside;
  }
  return inside;
}

/** How far the border is, whichever side the place is on. */
export function borderDistance(poly: Polygon, north: number, east: number): number {
  let least = Number.POSITIVE_INFINITY;
  const n = poly.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const dn = poly[i]! - poly[j]!;
    const de = poly[i + 1]! - poly[j + 1]!;
    const length = dn * dn + de * de;
    const along = length > 0 ? ((north - poly[j]!) * dn + (east - poly[j + 1]!) * de) / length : 0;
    const k = clamp(along, 0, 1);
    const on = north - poly[j]! - k * dn;
    const oe = east - poly[j + 1]! - k * de;
    const d = on * on + oe * oe;
    if (d < least) least = d;
  }
  return Math.sqrt(least);
}

/** Whether two edges that are not neighbours meet, or the border runs back over itself. */
export function crossesItself(poly: Polygon): boolean {
  const n = poly.length / 2;
  const at = (i: number) => [poly[2 * (i % n)]!, poly[2 * (i % n) + 1]!] as const;
  for (let i = 0; i < n; i++) {
    if (at(i)[0] === at(i + 1)[0] && at(i)[1] === at(i + 1)[1]) return true;
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      if (edgesMeet(at(i), at(i + 1), at(j), at(j + 1))) return true;
    }
  }
  return false;
}

type Pair = readonly [number, number];

/** Which way one turns at c on the way from a over b: above nought left, below right. */
const turn = (a: Pair, b: Pair, c: Pair) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

const between = (a: Pair, b: Pair, c: Pair) =>
  Math.min(a[0], b[0]) <= c[0] &&
  c[0] <= Math.max(a[0], b[0]) &&
  Math.min(a[1], b[1]) <= c[1] &&
  c[1] <= Math.max(a[1], b[1]);

function edgesMeet(a: Pair, b: Pair, c: Pair, d: Pair): boolean {
  const [p, q, r, s] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)];
  if (p > 0 !== q > 0 && r > 0 !== s > 0 && p !== 0 && q !== 0 && r !== 0 && s !== 0) return true;
  return (
    (p === 0 && between(a, b, c)) ||
    (q === 0 && between(a, b, d)) ||
    (r === 0 && between(c, d, a)) ||
    (s === 0 && between(c, d, b))
  );
}

/** Area enclosed, in the plane's unit squared (shoelace formula). */
export function areaOf(poly: Polygon): number {
  let twice = 0;
  const n = poly.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) twice += poly[j]! * poly[i + 1]! - poly[i]! * poly[j + 1]!;
  return Math.abs(twice) / 2;
}
