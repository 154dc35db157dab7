import { fitLine } from '../analysis/line.ts';
import { DEG } from '../math/scalar.ts';
import { norm, type Triple } from '../math/triple.ts';

/** How the motors' current bends the field that a compass feels. */
export interface Interference {
  /** uT per ampere, compass axes. */
  readonly perAmp: Triple;
  /** One sigma of its largest part. */
  readonly sigma: number;
  /** Share of the field's change that current explains. */
  readonly explains: number;
  readonly leastA: number;
  readonly mostA: number;
  /** At the most current that was seen, uT. */
  readonly atMost: number;
  /** What that turns a heading by at worst, rad; with the coefficients in use, what they leave. */
  readonly headingAtMost: number;
  readonly headingLeft: number;
  readonly verdict: 'small' | 'corrected' | 'move-it';
}

export type InterferenceRefusal = { readonly refused: string };

/** A run-up that spans less says nothing, A. */
const SPAN_A = 3;
/** Shares of the level part of the field: below the first nobody needs to mind, above the second no coefficient helps. */
const SMALL = 0.03;
const TOO_MUCH = 0.5;

/**
 * Field against current, axis by axis, from a run-up of a craft that is tied down.
 * @param fields uT @param currents A, at the same moments @param levelField the level part of the earth's field, uT
 * @param flightA what the craft draws in flight: the verdict goes by it, however far it was run up; left out, the most that was seen
 */
export function interferenceFrom(
  fields: readonly Triple[],
  currents: readonly number[],
  levelField: number,
  flightA?: number,
): Interference | InterferenceRefusal {
  const leastA = currents.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
  const mostA = currents.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  if (!(mostA - leastA >= SPAN_A))
    return { refused: `The current has to change by ${SPAN_A} A at least. Run the motors up farther.` };
  const lines = [0, 1, 2].map(
    (i) =>
      fitLine(
        currents,
        fields.map((f) => f[i]!),
      )!,
  );
  const perAmp = lines.map((l) => l.slope) as unknown as Triple;
  const sigma = Math.max(...lines.map((l) => l.slopeSigma));
  const left = Math.hypot(...lines.map((l) => l.residual));
  const moved = norm(perAmp) * (mostA - leastA);
  if (left > Math.max(3, 0.5 * moved))
    return {
      refused:
        'The field changed by something else than current: the craft was not held fast. Tie it down and begin again.',
    };
  const total = lines.reduce((sum, l) => sum + l.residual ** 2 / Math.max(1e-9, 1 - l.explains), 0);
  const explains = 1 - left ** 2 / total;
  const atMost = norm(perAmp) * mostA;
  // What is left when the coefficients are used is what they are not known by, and what current does not explain beyond noise.
  const headingLeft = Math.atan2(2 * Math.hypot(sigma * mostA, 0.04 * atMost), levelField);
  const share = (norm(perAmp) * (flightA ?? mostA)) / levelField;
  return {
    perAmp,
    sigma,
    explains,
    leastA,
    mostA,
    atMost,
    headingAtMost: Math.atan2(atMost, levelField),
    headingLeft,
    verdict: share < SMALL ? 'small' : share > TOO_MUCH ? 'move-it' : 'corrected',
  };
}

/** What is left of a heading's turn by the current counts as taken out below this, rad. */
const TAKEN_OUT = 5 * DEG;

/** A run-up as the board is set: what the current does to the field, and what of that the coefficients in use leave. */
export interface RunUp {
  readonly raw: Interference;
  readonly left: Interference;
  /** What the coefficients in use leave turns no heading that anybody minds. */
  readonly takenOut: boolean;
}

/** @param set coefficients that the board uses, uT per ampere; the rest as `interferenceFrom` */
export function runUpWith(
  fields: readonly Triple[],
  currents: readonly number[],
  set: Triple,
  levelField: number,
  flightA?: number,
): RunUp | InterferenceRefusal {
  const raw = interferenceFrom(fields, currents, levelField, flightA);
  if ('refused' in raw) return raw;
  const corrected = fields.map((f, k): Triple => {
    const amps = currents[k]!;
    return [f[0] - set[0] * amps, f[1] - set[1] * amps, f[2] - set[2] * amps];
  });
  const left = interferenceFrom(corrected, currents, levelField, flightA);
  if ('refused' in left) return left;
  return { raw, left, takenOut: left.headingAtMost < TAKEN_OUT };
}
