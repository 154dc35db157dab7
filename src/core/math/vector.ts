/** Three numbers in a fixed frame; the frame is named where the vector is. */
export type Vec3 = Float64Array;

export function vec3(x = 0, y = 0, z = 0): Vec3 {
  return Float64Array.of(x, y, z);
}

export function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  return a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
}

export function norm(a: ArrayLike<number>): number {
  return Math.sqrt(dot(a, a));
}

/** out = a x b; out may not be a or b. */
export function crossInto(out: Vec3, a: ArrayLike<number>, b: ArrayLike<number>): Vec3 {
  out[0] = a[1]! * b[2]! - a[2]! * b[1]!;
  out[1] = a[2]! * b[0]! - a[0]! * b[2]!;
  out[2] = a[0]! * b[1]! - a[1]! * b[0]!;
  return out;
}
