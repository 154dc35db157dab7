import type { Attitude } from '#core/calibration/poses.ts';
import { multiply, quat, setTurn, toEarth } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';

/**
 * A craft in somebody's hands as it is seen from behind and above, and turned like a ball under a finger. Earth is
 * north-east-down; the eye looks the way the bench does.
 */

/** Which way the eye looks: heading of the bench, and how far down. */
const HEADING = 23 * DEG;
const DOWN = 34 * DEG;

const [ch, sh, cd, sd] = [Math.cos(HEADING), Math.sin(HEADING), Math.cos(DOWN), Math.sin(DOWN)];
const forward = Float64Array.of(ch * cd, sh * cd, sd);
const right = Float64Array.of(-sh, ch, 0);
/** Up on the screen: right x forward. */
const up = Float64Array.of(ch * sd, sh * sd, -cd);

const dot = (a: Float64Array, b: Float64Array) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;

interface Seen {
  /** To the right and down on the screen, in the vector's own unit. */
  readonly x: number;
  readonly y: number;
  /** Away from the eye. */
  readonly away: number;
}

/** Where a vector in body axes is seen. */
export function seen(attitude: Attitude, x: number, y: number, z: number): Seen {
  const e = toEarth(new Float64Array(3), Float64Array.from(attitude), Float64Array.of(x, y, z));
  return { x: dot(e, right), y: -dot(e, up), away: dot(e, forward) };
}

/** The attitude after a finger on the ball went so far. @param dx, dy shares of the ball's radius, right and down */
export function rolledBy(attitude: Attitude, dx: number, dy: number): Attitude {
  const axis = [0, 1, 2].map((i) => up[i]! * dx + right[i]! * dy);
  return turnedBy(attitude, axis);
}

/** The attitude after it was turned in the plane of the screen, clockwise, rad. */
export function spunBy(attitude: Attitude, angle: number): Attitude {
  return turnedBy(
    attitude,
    [0, 1, 2].map((i) => forward[i]! * angle),
  );
}

function turnedBy(attitude: Attitude, axis: readonly number[]): Attitude {
  const turn = setTurn(quat(), axis[0]!, axis[1]!, axis[2]!);
  const q = multiply(quat(), turn, Float64Array.from(attitude));
  return [q[0]!, q[1]!, q[2]!, q[3]!];
}
