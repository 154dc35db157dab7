import type { Limit } from '#core/reach/homeMarch.ts';

/** Lines of the map by what they say, so that they are told apart without colour. Lengths in the map's units. */
const SPACING: Readonly<Record<Limit, number>> = { energy: 1, wind: 1.5, ground: 1.3, time: 2.4, fence: 2 };

type Point = readonly [number, number];

/** Points evenly along a line, each with the direction to its bad side. */
function along(
  points: readonly Point[],
  every: number,
  badSide: 1 | -1,
): { at: Point; to: Point; out: Point }[] {
  const found: { at: Point; to: Point; out: Point }[] = [];
  let due = every / 2;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length < 1e-9) continue;
    const to: Point = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    // The map's y goes down: what lies to the right of the way is turned with the clock.
    const out: Point = [-to[1] * badSide, to[0] * badSide];
    for (; due <= length; due += every) found.push({ at: [a[0] + to[0] * due, a[1] + to[1] * due], to, out });
    due -= length;
  }
  return found;
}

/** What a piece of the border is drawn with: a line, and marks along it on its bad side. */
export interface BorderLine {
  readonly line: string;
  readonly marks: string;
  readonly dash: string | undefined;
  /** Marks are filled, not drawn. */
  readonly filled: boolean;
}

const p = (x: number, y: number) => `${x.toFixed(2)} ${y.toFixed(2)}`;

/** @param points in the map's units */
export function borderLine(limit: Limit, points: readonly Point[], badSide: 1 | -1): BorderLine {
  const line = `M${points.map(([x, y]) => p(x, y)).join('L')}`;
  const at = along(points, SPACING[limit], badSide);
  switch (limit) {
    case 'energy':
      return {
        line: '',
        marks: at
          .map(({ at: [x, y] }) => `M${p(x - 0.28, y)}a.28 .28 0 1 0 .56 0a.28 .28 0 1 0 -.56 0`)
          .join(''),
        dash: undefined,
        filled: true,
      };
    case 'ground':
      return {
        line,
        marks: at
          .map(({ at: [x, y], to, out }) => {
            const w = 0.42;
            return `M${p(x - w * to[0], y - w * to[1])}L${p(x + 0.8 * out[0], y + 0.8 * out[1])}L${p(x + w * to[0], y + w * to[1])}Z`;
          })
          .join(''),
        dash: undefined,
        filled: true,
      };
    case 'wind':
      return {
        line,
        marks: at
          .map(
            ({ at: [x, y], to, out }) =>
              `M${p(x, y)}L${p(x + 0.9 * out[0] + 0.6 * to[0], y + 0.9 * out[1] + 0.6 * to[1])}`,
          )
          .join(''),
        dash: undefined,
        filled: false,
      };
    case 'time':
      return { line, marks: '', dash: '1.6 0.8', filled: false };
    case 'fence':
      return {
        line,
        marks: at
          .map(({ at: [x, y], to }) => {
            const s = 0.45;
            return `M${p(x - s * (to[0] + to[1]), y - s * (to[1] - to[0]))}L${p(x + s * (to[0] + to[1]), y + s * (to[1] - to[0]))}`;
          })
          .join(''),
        dash: '0.5 0.5',
        filled: false,
      };
  }
}
