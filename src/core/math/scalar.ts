/** Standard gravity, m/s^2 (3rd CGPM, 1901). */
export const GRAVITY = 9.80665;
export const DEG = Math.PI / 180;

/** The value held within [low, high]. */
export function clamp(value: number, low: number, high: number): number {
  return Math.min(Math.max(value, low), high);
}

/** Angle in radians folded into (-pi, pi]. */
export function wrapPi(angle: number): number {
  let a = angle % (2 * Math.PI);
  if (a > Math.PI) a -= 2 * Math.PI;
  else if (a <= -Math.PI) a += 2 * Math.PI;
  return a;
}

/** Compass bearing in degrees folded into [0, 360). */
export function wrapBearingDeg(deg: number): number {
  const a = deg % 360;
  return a < 0 ? a + 360 : a;
}

/** Hermite step from 0 at `low` to 1 at `high`. */
export function smoothStep(value: number, low: number, high: number): number {
  const t = clamp((value - low) / (high - low), 0, 1);
  return t * t * (3 - 2 * t);
}
