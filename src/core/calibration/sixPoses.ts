import { Matrix, solve } from 'ml-matrix';
import { Matrix3 } from '../math/matrix3.ts';
import type { Quat } from '../math/quaternion.ts';
import { GRAVITY } from '../math/scalar.ts';
import { angleDeg, norm, type Triple } from '../math/triple.ts';
import { type PoseId, poseIds, poses } from './poses.ts';
import type { StillTime } from './stillness.ts';

/** An accelerometer's own error: what it feels is scale x (what it says - offset), axis by axis. m/s^2. */
export interface AccelCalibration {
  readonly offset: Triple;
  readonly scale: Triple;
}

const untaught: AccelCalibration = { offset: [0, 0, 0], scale: [1, 1, 1] };

/** What a chip means by what it says, m/s^2. */
export const corrected = ({ offset, scale }: AccelCalibration, said: Triple): Triple => [
  scale[0] * (said[0] - offset[0]),
  scale[1] * (said[1] - offset[1]),
  scale[2] * (said[2] - offset[2]),
];

/** Specific force that each pose of the craft ought to give, unit, craft axes. */
export const forceOfPose: Readonly<Record<PoseId, Triple>> = {
  flat: [0, 0, -1],
  back: [0, 0, 1],
  'nose-up': [1, 0, 0],
  'nose-down': [-1, 0, 0],
  'right-down': [0, -1, 0],
  'left-down': [0, 1, 0],
};

/** A pose leans out of its direction by up to this, degrees. */
const ASTRAY_DEG = 25;
/** What a chip may say of gravity before it is taught, m/s^2. */
const BEYOND = 1.6;

export type PoseTaken = Readonly<Record<PoseId, Triple>>;

export type PoseLook =
  | { readonly kind: 'taken'; readonly pose: PoseId; readonly offDeg: number }
  | {
      readonly kind: 'refused';
      readonly code: 'between' | 'repeated' | 'not-gravity';
      readonly says: string;
    };

/**
 * Which pose a still time is, and whether it may be taken.
 * @param mount board to craft
 * @param taken poses that are there already
 */
export function lookAtPose(
  { force }: Pick<StillTime, 'force'>,
  mount: Quat,
  taken: Partial<PoseTaken>,
): PoseLook {
  const size = norm(force);
  if (Math.abs(size - GRAVITY) > BEYOND)
    return {
      kind: 'refused',
      code: 'not-gravity',
      says: `The chip feels ${size.toFixed(1)} m/s² while it is still, and gravity is 9.8. It is pushed, or it is broken.`,
    };
  const inCraft = Matrix3.fromQuaternion(mount).times(force);
  const away = poseIds.map((pose) => ({ pose, offDeg: angleDeg(inCraft, forceOfPose[pose]) }));
  const { pose, offDeg } = away.reduce((best, a) => (a.offDeg < best.offDeg ? a : best));
  if (offDeg > ASTRAY_DEG)
    return {
      kind: 'refused',
      code: 'between',
      says: `This is ${offDeg.toFixed(0)}° away from ${poses[pose].name}, the nearest pose. Bring it within ${ASTRAY_DEG}°.`,
    };
  if (taken[pose])
    return {
      kind: 'refused',
      code: 'repeated',
      says: `${sentence(poses[pose].name)} is taken already. Turn it to another pose.`,
    };
  return { kind: 'taken', pose, offDeg };
}

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

export interface PoseFit {
  readonly calibration: AccelCalibration;
  /** | |f| - g | of each pose before and after, m/s^2. */
  readonly before: Readonly<Record<PoseId, number>>;
  readonly after: Readonly<Record<PoseId, number>>;
  readonly worstBefore: number;
  readonly worstAfter: number;
}

export type PoseRefusal = { readonly refused: string };

/** Offsets and scales beyond these are no calibration: the chip or the poses are wrong. m/s^2, share. */
const OFFSET_MOST = 1.5;
const SCALE_MOST = 0.1;

/**
 * Three offsets and three scales from six poses. First by linear least squares over the axis-aligned ellipsoid that the six
 * means lie on, sum A_i a_i^2 + B_i a_i = 1; then polished by Gauss-Newton on |S(a - o)| = g.
 * @param taken mean specific force of each pose as the chip says it, m/s^2, board axes
 */
export function fitPoses(taken: PoseTaken): PoseFit | PoseRefusal {
  const means = poseIds.map((id) => taken[id]);
  const first = linearFit(means);
  const calibration = first && polished(first, means);
  if (!calibration)
    return {
      refused: 'The six poses lie too near to each other to tell offsets from scales. Take them anew.',
    };
  const { offset, scale } = calibration;
  if (offset.some((o) => !(Math.abs(o) < OFFSET_MOST)) || scale.some((s) => !(Math.abs(s - 1) < SCALE_MOST)))
    return {
      refused: `What follows from these poses is no chip that works: offsets of ${offset.map((o) => o.toFixed(2)).join(', ')} m/s², scales of ${scale.map((s) => s.toFixed(3)).join(', ')}. A pose was pushed or is another than it seemed. Take them anew.`,
    };
  const residual = (c: AccelCalibration) =>
    Object.fromEntries(
      poseIds.map((id) => [id, Math.abs(norm(corrected(c, taken[id])) - GRAVITY)]),
    ) as Record<PoseId, number>;
  const before = residual(untaught);
  const after = residual(calibration);
  return {
    calibration,
    before,
    after,
    worstBefore: Math.max(...Object.values(before)),
    worstAfter: Math.max(...Object.values(after)),
  };
}

function linearFit(means: readonly Triple[]): AccelCalibration | null {
  const rows = means.map(([x, y, z]) =>
    [x * x, y * y, z * z, x, y, z].map((v, i) => v / (i < 3 ? GRAVITY ** 2 : GRAVITY)),
  );
  const u = solved(
    new Matrix(rows),
    means.map(() => 1),
  );
  if (!u) return null;
  const [a, b] = [u.slice(0, 3), u.slice(3)];
  if (a.some((v) => !(v > 0.2))) return null;
  const offset = a.map((v, i) => (-b[i]! / (2 * v)) * GRAVITY);
  const k = 1 + a.reduce((sum, v, i) => sum + v * (offset[i]! / GRAVITY) ** 2, 0);
  return { offset: triple(offset), scale: triple(a.map((v) => Math.sqrt(v / k))) };
}

const STEPS = 8;

function polished(from: AccelCalibration, means: readonly Triple[]): AccelCalibration | null {
  let { offset, scale } = from;
  for (let step = 0; step < STEPS; step++) {
    const rows: number[][] = [];
    const left: number[] = [];
    for (const mean of means) {
      const f = corrected({ offset, scale }, mean);
      const size = norm(f);
      left.push(GRAVITY - size);
      rows.push([
        ...f.map((v, i) => (-v / size) * scale[i]!),
        ...f.map((v, i) => (v / size) * (mean[i]! - offset[i]!)),
      ]);
    }
    const change = solved(new Matrix(rows), left);
    if (!change) return null;
    offset = triple(offset.map((o, i) => o + change[i]!));
    scale = triple(scale.map((s, i) => s + change[3 + i]!));
    if (Math.hypot(...change) < 1e-10) break;
  }
  return { offset, scale };
}

/** The least-squares solution; null where there is none worth the name. */
function solved(matrix: Matrix, right: readonly number[]): number[] | null {
  const x = solve(matrix, Matrix.columnVector([...right]), true).to1DArray();
  return x.every(Number.isFinite) ? x : null;
}

const triple = (v: readonly number[]): Triple => [v[0]!, v[1]!, v[2]!];
