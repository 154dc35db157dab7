import { EVD, inverse, Matrix, solve } from 'ml-matrix';
import { NormalEquations } from '../analysis/normalEquations.ts';
import { Matrix3 } from '../math/matrix3.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { dot, norm, type Triple, unit } from '../math/triple.ts';
import { FACETS, facetOf } from './coverage.ts';
import { attitudeOfMount, type MountAngles, squareMountings } from './mounting.ts';

/** Field and, where it was felt at the same moment, specific force. */
export interface FieldSample {
  /** uT, the compass's own axes. */
  readonly field: Triple;
  /** m/s^2, board axes. */
  readonly force: Triple | null;
}

/** What a compass means by what it says: matrix x (field - offset), uT. The matrix is symmetric, with a determinant of one. */
export interface CompassCalibration {
  readonly offset: Triple;
  readonly matrix: Matrix3;
}

export interface CompassFit {
  readonly calibration: CompassCalibration;
  /** Facets of the globe that the field stood in. */
  readonly seen: readonly boolean[];
  readonly coverage: number;
  readonly samples: number;
  /** Strength of the field after the fit, uT. */
  readonly strength: number;
  /** Rms of what is left over, of the strength. */
  readonly residual: number;
  /** The craft's own iron, uT. */
  readonly ironSize: number;
  /** Of the field below the horizon, rad; NaN where no gravity was felt with it. */
  readonly dip: number;
  /** How the compass lies to the board, by gravity; null where that was not felt. */
  readonly alignment: { readonly square: MountAngles; readonly clear: boolean } | null;
  /** One sigma of a heading shown from a single sample, level, rad: of the fit and of the compass's noise. */
  readonly headingError: number;
}

export type CompassRefusal = {
  readonly code: 'coverage' | 'metal' | 'not-earth' | 'shape';
  readonly refused: string;
  readonly seen: readonly boolean[];
};

/** Facets below this share say too little of the ellipsoid's far side. */
export const COVERAGE_LEAST = 0.6;
/** Of the field's strength: what is left over beyond this was moving metal, or the craft's own. */
const RESIDUAL_MOST = 0.04;
/** The earth's field at its surface, uT (World Magnetic Model 2025: 22 to 67). */
const EARTH = [20, 70] as const;
/** Measured against the model at the place, share. */
const UNLIKE_MODEL = 0.25;
const LEAST_SAMPLES = 60;

/** What the model gives the place, where one is known: uT and rad. */
export interface ModelField {
  readonly strength: number;
  readonly dip: number;
}

/**
 * Fits an ellipsoid: nine parameters by algebraic least squares (as Li and Griffiths 2004 set it up, without their constraint),
 * refined by Gauss-Newton on the distance |M (b - o)| - B.
 */
export function fitCompass(
  samples: readonly FieldSample[],
  model: ModelField | null,
): CompassFit | CompassRefusal {
  const none = Array.from({ length: FACETS }, () => false);
  const first = samples.length >= LEAST_SAMPLES ? algebraic(samples.map((s) => s.field)) : null;
  const refined = first && refine(first, samples);
  const fit = refined && leaveOutMetal(refined, samples);
  if (!fit)
    return {
      code: 'coverage',
      refused:
        'The field was seen from too few sides to tell anything. Turn the craft slowly through all directions.',
      seen: none,
    };
  const { offset, matrix, strength, residual, covariance, noise, kept } = fit;
  const seen = [...none];
  for (const { field } of kept) seen[facetOf(calibratedField(fit, field))] = true;
  const coverage = seen.filter(Boolean).length / FACETS;
  if (coverage < COVERAGE_LEAST)
    return {
      code: 'coverage',
      refused: `${seen.filter(Boolean).length} of ${FACETS} facets are too few: the other side of the globe would be guessed. Go on turning.`,
      seen,
    };
  if (residual > RESIDUAL_MOST || kept.length < 0.8 * samples.length)
    return {
      code: 'metal',
      refused: `${(100 * residual).toFixed(1)} % of the field does not lie on any ellipsoid: metal moved near the craft, or something on it does. Go outdoors, away from tools and tables of steel, and begin again.`,
      seen,
    };
  const eigen = new EVD(new Matrix(matrix.rows.map((r) => [...r])), { assumeSymmetric: true })
    .realEigenvalues;
  if (eigen.some((e) => !(e > 0.6 && e < 1.6)))
    return {
      code: 'shape',
      refused:
        'The compass would feel one direction half again as strong as another. Iron lies right at it, or it is broken: move it.',
      seen,
    };
  const unlike = model ? Math.abs(strength / model.strength - 1) : 0;
  if (!(strength > EARTH[0] && strength < EARTH[1]) || unlike > UNLIKE_MODEL)
    return {
      code: 'not-earth',
      refused: `A field of ${strength.toFixed(0)} µT is not the earth’s${model ? `, which has ${model.strength.toFixed(0)} µT here` : ''}. A magnet, a loudspeaker or a steel frame is near. Go elsewhere and begin again.`,
      seen,
    };
  const calibration = { offset, matrix };
  const { dip, alignment } = byGravity(kept, calibration);
  const felt = Number.isNaN(dip) ? (model?.dip ?? 65 * DEG) : dip;
  return {
    calibration,
    seen,
    coverage,
    samples: kept.length,
    strength,
    residual,
    ironSize: norm(offset),
    dip,
    alignment,
    headingError: headingError(fit, covariance, noise, felt),
  };
}

/** What a compass means by a field that it says, uT. */
export function calibratedField({ offset, matrix }: CompassCalibration, field: Triple): Triple {
  return matrix.times([field[0] - offset[0], field[1] - offset[1], field[2] - offset[2]]);
}

interface Ellipsoid extends CompassCalibration {
  readonly strength: number;
}

interface Refined extends Ellipsoid {
  readonly residual: number;
  /** uT: what a single sample is off by, along the field. */
  readonly noise: number;
  /** Of offset (3) and of the matrix over the strength (xx, yy, zz, xy, xz, yz). */
  readonly covariance: Matrix;
  readonly kept: readonly FieldSample[];
}

/** a x^2 + b y^2 + c z^2 + 2 d xy + 2 e xz + 2 f yz + 2 g x + 2 h y + 2 i z = 1, in units of the samples' size. */
function algebraic(fields: readonly Triple[]): Ellipsoid | null {
  const middle = [0, 1, 2].map((i) => fields.reduce((sum, f) => sum + f[i]!, 0) / fields.length);
  const size = Math.sqrt(
    fields.reduce((sum, f) => sum + f.reduce((s, v, i) => s + (v - middle[i]!) ** 2, 0), 0) / fields.length,
  );
  if (!(size > 1)) return null;
  const sums = new NormalEquations(9);
  for (const f of fields) {
    const x = (f[0] - middle[0]!) / size;
    const y = (f[1] - middle[1]!) / size;
    const z = (f[2] - middle[2]!) / size;
    sums.row.set([x * x, y * y, z * z, 2 * x * y, 2 * x * z, 2 * y * z, 2 * x, 2 * y, 2 * z]);
    sums.add(1);
  }
  const v = sums.solve();
  if (!v) return null;
  const [a, b, c, d, e, f, g, h, i] = v as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const shape = new Matrix([
    [a, d, e],
    [d, b, f],
    [e, f, c],
  ]);
  const centre = solve(shape, Matrix.columnVector([-g, -h, -i]), true).to1DArray();
  const k = 1 - (g * centre[0]! + h * centre[1]! + i * centre[2]!);
  const eigen = new EVD(shape.div(k), { assumeSymmetric: true });
  const values = eigen.realEigenvalues;
  if (values.some((e) => !(e > 1e-6))) return null;
  const V = eigen.eigenvectorMatrix;
  const root = V.mmul(Matrix.diag(values.map(Math.sqrt))).mmul(V.transpose());
  return scaled(centre.map((o, n) => o * size + middle[n]!) as unknown as Triple, root.div(size));
}

/** From a matrix that takes the ellipsoid to a sphere of one: that of determinant one, and the strength. */
function scaled(offset: Triple, toUnit: Matrix): Ellipsoid | null {
  const m = toUnit.to2DArray();
  const det =
    m[0]![0]! * (m[1]![1]! * m[2]![2]! - m[1]![2]! * m[2]![1]!) -
    m[0]![1]! * (m[1]![0]! * m[2]![2]! - m[1]![2]! * m[2]![0]!) +
    m[0]![2]! * (m[1]![0]! * m[2]![1]! - m[1]![1]! * m[2]![0]!);
  if (!(det > 0)) return null;
  const strength = 1 / Math.cbrt(det);
  const rows = m.map((r) => r.map((v) => v * strength)) as unknown as [Triple, Triple, Triple];
  return { offset, matrix: new Matrix3(rows), strength };
}

const STEPS = 12;
const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [0, 2],
  [1, 2],
] as const;

function refine(from: Ellipsoid, samples: readonly FieldSample[]): Refined | null {
  let offset = from.offset;
  // Over the strength, so that the sphere has a radius of one.
  let m = from.matrix.rows.map((r) => r.map((v) => v / from.strength));
  let sums = new NormalEquations(9);
  let squares = 0;
  for (let step = 0; step < STEPS; step++) {
    sums = new NormalEquations(9);
    squares = 0;
    const { row } = sums;
    const [a, b, c] = m as [number[], number[], number[]];
    const v = [0, 0, 0];
    const d = [0, 0, 0];
    for (const { field } of samples) {
      for (let i = 0; i < 3; i++) d[i] = field[i]! - offset[i]!;
      for (let i = 0; i < 3; i++) v[i] = m[i]![0]! * d[0]! + m[i]![1]! * d[1]! + m[i]![2]! * d[2]!;
      const size = Math.sqrt(v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]!);
      for (let i = 0; i < 3; i++) row[i] = -(a[i]! * v[0]! + b[i]! * v[1]! + c[i]! * v[2]!) / size;
      for (let p = 0; p < 6; p++) {
        const [i, j] = PAIRS[p]!;
        row[3 + p] = (i === j ? v[i]! * d[i]! : v[i]! * d[j]! + v[j]! * d[i]!) / size;
      }
      squares += (1 - size) ** 2;
      sums.add(1 - size);
    }
    const change = sums.solve();
    if (!change) return null;
    offset = offset.map((o, i) => o + change[i]!) as unknown as Triple;
    m = m.map((r) => [...r]);
    for (let p = 0; p < 6; p++) {
      const [i, j] = PAIRS[p]!;
      m[i]![j]! += change[3 + p]!;
      if (i !== j) m[j]![i]! += change[3 + p]!;
    }
    if (Math.hypot(...change.slice(3)) < 1e-12) break;
  }
  const ellipsoid = scaled(offset, new Matrix(m));
  if (!ellipsoid) return null;
  const residual = Math.sqrt(squares / samples.length);
  const each = squares / Math.max(1, samples.length - 9);
  const covariance = inverse(sums.normal, true).mul(each);
  return { ...ellipsoid, residual, noise: Math.sqrt(each) * ellipsoid.strength, covariance, kept: samples };
}

/** Samples that lie far off are metal that came by: fitted again without them, when they are few. */
function leaveOutMetal(fit: Refined, samples: readonly FieldSample[]): Refined | null {
  const limit = Math.max(5 * fit.noise, 0.01 * fit.strength);
  const kept = samples.filter(
    ({ field }) => Math.abs(norm(calibratedField(fit, field)) - fit.strength) < limit,
  );
  if (kept.length === samples.length || kept.length < LEAST_SAMPLES) return fit;
  return refine(fit, kept);
}

/** The dip, and how the compass lies to the board: whichever way it lies, the field's dip is the same in every attitude. */
function byGravity(
  samples: readonly FieldSample[],
  calibration: CompassCalibration,
): Pick<CompassFit, 'dip' | 'alignment'> {
  const still = samples.flatMap(({ field, force }) =>
    force && Math.abs(norm(force) - GRAVITY) < 1.5
      ? [{ b: unit(calibratedField(calibration, field)), down: unit([-force[0], -force[1], -force[2]]) }]
      : [],
  );
  if (still.length < LEAST_SAMPLES / 2) return { dip: Number.NaN, alignment: null };
  const tried = squareMountings
    .map((square) => {
      const turn = Matrix3.fromQuaternion(attitudeOfMount(square));
      let sum = 0;
      let squares = 0;
      for (const { b, down } of still) {
        const sine = dot(turn.times(b), down);
        sum += sine;
        squares += sine * sine;
      }
      const mean = sum / still.length;
      return { square, mean, spread: Math.sqrt(Math.max(0, squares / still.length - mean * mean)) };
    })
    .sort((a, b) => a.spread - b.spread);
  const [best, next] = [tried[0]!, tried[1]!];
  return {
    dip: Math.asin(Math.max(-1, Math.min(1, best.mean))),
    alignment: { square: best.square, clear: best.spread < 0.5 * next.spread },
  };
}

const HEADINGS = 24;

/**
 * One sigma of the heading of a craft that stands level, over all headings: the fit's covariance carried through the matrix, and
 * the compass's noise across the level part of the field.
 */
function headingError(fit: Refined, covariance: Matrix, noise: number, dip: number): number {
  const { strength, matrix } = fit;
  const level = Math.max(0.05, Math.cos(dip));
  const back = inverse(new Matrix(matrix.rows.map((r) => [...r])));
  let sum = 0;
  for (let k = 0; k < HEADINGS; k++) {
    const heading = (2 * Math.PI * k) / HEADINGS;
    const true_: Triple = [
      strength * level * Math.cos(heading),
      -strength * level * Math.sin(heading),
      strength * Math.sin(dip),
    ];
    const d = back.mmul(Matrix.columnVector([...true_])).to1DArray();
    // Of the heading by the corrected field: across the level part.
    const across: Triple = [-Math.sin(heading), -Math.cos(heading), 0];
    const row = new Array<number>(9).fill(0);
    for (let i = 0; i < 3; i++) row[i] = -across.reduce((s, a, j) => s + a * matrix.rows[j]![i]!, 0);
    for (let p = 0; p < 6; p++) {
      const [i, j] = PAIRS[p]!;
      const value = i === j ? across[i]! * d[i]! : across[i]! * d[j]! + across[j]! * d[i]!;
      row[3 + p] = value * strength;
    }
    const vector = Matrix.rowVector(row);
    const variance = vector.mmul(covariance).mmul(vector.transpose()).get(0, 0);
    sum += (variance + noise * noise) / (strength * level) ** 2;
  }
  return Math.sqrt(sum / HEADINGS);
}
