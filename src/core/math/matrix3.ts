import { type Quat, quat } from './quaternion.ts';
import type { Triple } from './triple.ts';

/** A three by three matrix by rows; for work that is not done every step. */
export class Matrix3 {
  constructor(readonly rows: readonly [Triple, Triple, Triple]) {}

  static fromRows(a: Triple, b: Triple, c: Triple): Matrix3 {
    return new Matrix3([a, b, c]);
  }

  /** The rotation that `toEarth` of a quaternion is. */
  static fromQuaternion(q: Quat): Matrix3 {
    const [w, x, y, z] = [q[0]!, q[1]!, q[2]!, q[3]!];
    return new Matrix3([
      [1 - 2 * (y * y + z * z), 2 * (x * y - w * z), 2 * (x * z + w * y)],
      [2 * (x * y + w * z), 1 - 2 * (x * x + z * z), 2 * (y * z - w * x)],
      [2 * (x * z - w * y), 2 * (y * z + w * x), 1 - 2 * (x * x + y * y)],
    ]);
  }

  times(v: Triple): Triple {
    const [a, b, c] = this.rows;
    const of = (r: Triple) => r[0] * v[0] + r[1] * v[1] + r[2] * v[2];
    return [of(a), of(b), of(c)];
  }

  /** Of a rotation, the unit quaternion: from the largest of its four parts (Shepperd 1978), so that none is divided by nought. */
  toQuaternion(): Quat {
    const [[a, b, c], [d, e, f], [g, h, i]] = this.rows;
    const trace = a + e + i;
    const most = Math.max(trace, a, e, i);
    const q = quat();
    if (most === trace) q.set([1 + trace, h - f, c - g, d - b]);
    else if (most === a) q.set([h - f, 1 + a - e - i, b + d, c + g]);
    else if (most === e) q.set([c - g, b + d, 1 - a + e - i, f + h]);
    else q.set([d - b, c + g, f + h, 1 - a - e + i]);
    const n = Math.hypot(q[0]!, q[1]!, q[2]!, q[3]!);
    for (let k = 0; k < 4; k++) q[k]! /= n;
    return q;
  }
}
