/** A straight line through points by least squares, with how well it is known. */
export interface FittedLine {
  readonly slope: number;
  readonly at0: number;
  /** One sigma. */
  readonly slopeSigma: number;
  /** Root mean square of what is left over. */
  readonly residual: number;
  /** Share of the variance that it explains, 0 to 1. */
  readonly explains: number;
}

/** @returns null where all x are the same, or fewer than three points are there */
export function fitLine(x: ArrayLike<number>, y: ArrayLike<number>): FittedLine | null {
  const n = x.length;
  if (n < 3) return null;
  let mx = 0;
  let my = 0;
  for (let i = 0; i < n; i++) {
    mx += x[i]! / n;
    my += y[i]! / n;
  }
  let xx = 0;
  let xy = 0;
  let yy = 0;
  for (let i = 0; i < n; i++) {
    xx += (x[i]! - mx) ** 2;
    xy += (x[i]! - mx) * (y[i]! - my);
    yy += (y[i]! - my) ** 2;
  }
  if (!(xx > 1e-12 * Math.max(1, mx * mx) * n)) return null;
  const slope = xy / xx;
  const left = Math.max(0, yy - slope * xy);
  return {
    slope,
    at0: my - slope * mx,
    slopeSigma: Math.sqrt(left / (n - 2) / xx),
    residual: Math.sqrt(left / n),
    explains: yy > 0 ? 1 - left / yy : 1,
  };
}
