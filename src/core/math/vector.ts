/** Three numbers in a fixed frame; the frame is named where the vector is. */
export type Vec3 = Float64Array;

export function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  return a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
}

export function norm(a: ArrayLike<number>): number {
  return Math.sqrt(dot(a, a));
}
