import { DEG } from './scalar.ts';

/** Three numbers along the axes of the board, of the craft or of the earth; for work that is not done every step. */
export type Triple = readonly [x: number, y: number, z: number];

export const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const norm = (a: Triple): number => Math.hypot(a[0], a[1], a[2]);
export const cross = (a: Triple, b: Triple): Triple => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
/** Of length one; nought stays nought. */
export const unit = (a: Triple): Triple => {
  const n = norm(a) || 1;
  return [a[0] / n, a[1] / n, a[2] / n];
};
/** What of a is square to a unit axis. */
export const without = (a: Triple, axis: Triple): Triple => {
  const k = dot(a, axis);
  return [a[0] - k * axis[0], a[1] - k * axis[1], a[2] - k * axis[2]];
};
/** Angle between two directions, degrees. */
export const angleDeg = (a: Triple, b: Triple): number =>
  Math.acos(Math.min(1, Math.max(-1, dot(unit(a), unit(b))))) / DEG;
