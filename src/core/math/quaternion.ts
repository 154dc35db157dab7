import type { Vec3 } from './vector.ts';

/** Scalar-first unit quaternion, body to earth (north-east-down). */
export type Quat = Float64Array;

export function quat(w = 1, x = 0, y = 0, z = 0): Quat {
  return Float64Array.of(w, x, y, z);
}

/** Sets q from roll, pitch, yaw in radians (yaw, then pitch, then roll). */
export function setEuler(q: Quat, roll: number, pitch: number, yaw: number): Quat {
  const cr = Math.cos(roll / 2);
  const sr = Math.sin(roll / 2);
  const cp = Math.cos(pitch / 2);
  const sp = Math.sin(pitch / 2);
  const cy = Math.cos(yaw / 2);
  const sy = Math.sin(yaw / 2);
  q[0] = cr * cp * cy + sr * sp * sy;
  q[1] = sr * cp * cy - cr * sp * sy;
  q[2] = cr * sp * cy + sr * cp * sy;
  q[3] = cr * cp * sy - sr * sp * cy;
  return q;
}

/** Roll about body x, radians. */
export function rollOf(q: Quat): number {
  return Math.atan2(2 * (q[0]! * q[1]! + q[2]! * q[3]!), 1 - 2 * (q[1]! * q[1]! + q[2]! * q[2]!));
}

/** Pitch, nose up positive, radians. */
export function pitchOf(q: Quat): number {
  const s = 2 * (q[0]! * q[2]! - q[3]! * q[1]!);
  return Math.asin(Math.min(Math.max(s, -1), 1));
}

/** Yaw from north through east, radians. */
export function yawOf(q: Quat): number {
  return Math.atan2(2 * (q[0]! * q[3]! + q[1]! * q[2]!), 1 - 2 * (q[2]! * q[2]! + q[3]! * q[3]!));
}

/** out = q v q*, body to earth. out may be v. */
export function toEarth(out: Vec3, q: Quat, v: Vec3): Vec3 {
  return rotate(out, q, 1, v);
}

/** out = q* v q, earth to body. out may be v. */
export function toBody(out: Vec3, q: Quat, v: Vec3): Vec3 {
  return rotate(out, q, -1, v);
}

/** @param sense 1 by q, -1 by its conjugate. Small numbers and arrays only: others would be put on the heap. */
function rotate(out: Vec3, q: Quat, sense: 1 | -1, v: Vec3): Vec3 {
  const w = q[0]!;
  const x = sense * q[1]!;
  const y = sense * q[2]!;
  const z = sense * q[3]!;
  const vx = v[0]!;
  const vy = v[1]!;
  const vz = v[2]!;
  const tx = 2 * (y * vz - z * vy);
  const ty = 2 * (z * vx - x * vz);
  const tz = 2 * (x * vy - y * vx);
  out[0] = vx + w * tx + y * tz - z * ty;
  out[1] = vy + w * ty + z * tx - x * tz;
  out[2] = vz + w * tz + x * ty - y * tx;
  return out;
}

/**
 * Advances q by the body rates in rad/s over dt seconds and renormalises. The normalised step turns by
 * 2 atan(w dt/2); the half step is lengthened by its series, so that it turns by w dt up to the fifth order.
 */
export function integrate(q: Quat, rates: Vec3, dt: number): void {
  const p = rates[0]!;
  const qr = rates[1]!;
  const r = rates[2]!;
  const h = (dt / 2) * (1 + ((p * p + qr * qr + r * r) * dt * dt) / 12);
  const w = q[0]!;
  const x = q[1]!;
  const y = q[2]!;
  const z = q[3]!;
  q[0] = w + h * (-x * p - y * qr - z * r);
  q[1] = x + h * (w * p + y * r - z * qr);
  q[2] = y + h * (w * qr - x * r + z * p);
  q[3] = z + h * (w * r + x * qr - y * p);
  const n = 1 / Math.sqrt(q[0]! * q[0]! + q[1]! * q[1]! + q[2]! * q[2]! + q[3]! * q[3]!);
  q[0]! *= n;
  q[1]! *= n;
  q[2]! *= n;
  q[3]! *= n;
}

/** out = a b: first b, then a. out may be neither. */
export function multiply(out: Quat, a: Quat, b: Quat): Quat {
  out[0] = a[0]! * b[0]! - a[1]! * b[1]! - a[2]! * b[2]! - a[3]! * b[3]!;
  out[1] = a[0]! * b[1]! + a[1]! * b[0]! + a[2]! * b[3]! - a[3]! * b[2]!;
  out[2] = a[0]! * b[2]! - a[1]! * b[3]! + a[2]! * b[0]! + a[3]! * b[1]!;
  out[3] = a[0]! * b[3]! + a[1]! * b[2]! - a[2]! * b[1]! + a[3]! * b[0]!;
  return out;
}

/** Sets q to a turn by a vector: its direction is the axis, its length the angle, rad. */
export function setTurn(q: Quat, x: number, y: number, z: number): Quat {
  const angle = Math.sqrt(x * x + y * y + z * z);
  const s = angle < 1e-9 ? 0.5 : Math.sin(angle / 2) / angle;
  q[0] = Math.cos(angle / 2);
  q[1] = s * x;
  q[2] = s * y;
  q[3] = s * z;
  return q;
}

/** The shortest turn that takes attitude a to b, as a vector in a's body axes, rad. */
export function turnBetween(out: Vec3, a: Quat, b: Quat): Vec3 {
  // a* b
  const w = a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]! + a[3]! * b[3]!;
  const x = a[0]! * b[1]! - a[1]! * b[0]! - a[2]! * b[3]! + a[3]! * b[2]!;
  const y = a[0]! * b[2]! + a[1]! * b[3]! - a[2]! * b[0]! - a[3]! * b[1]!;
  const z = a[0]! * b[3]! - a[1]! * b[2]! + a[2]! * b[1]! - a[3]! * b[0]!;
  const s = Math.sqrt(x * x + y * y + z * z);
  const angle = 2 * Math.atan2(s, Math.abs(w));
  const k = s < 1e-12 ? 2 : (w < 0 ? -angle : angle) / s;
  out[0] = k * x;
  out[1] = k * y;
  out[2] = k * z;
  return out;
}
