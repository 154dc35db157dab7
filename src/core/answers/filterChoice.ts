import { fitLine } from '../analysis/line.ts';
import { linesOf, type Spectrum } from '../analysis/spectrum.ts';
import { middleOf, type ThrottleSpectra } from '../analysis/throttleSpectra.ts';
import { type FilterSet, GyroFilter, notchAt, spreadLines } from '../control/gyroFilter.ts';
import { angleOf, type Complex, sizeOf } from '../math/complex.ts';
import { clamp, DEG } from '../math/scalar.ts';
import { controllerAt, LOOP_S, type Loop } from './chain.ts';

/** Share of a steady swing's power that a filter lets through, at each line of a spectrum. */
export function powerThrough(
  filter: { at(hz: number): Complex },
  stepHz: number,
  lines: number,
): Float64Array {
  return Float64Array.from({ length: lines }, (_, k) =>
    k > 0 ? sizeOf(filter.at(within(k * stepHz))) ** 2 : 1,
  );
}

/** Half the rate of the loop is nobody's frequency. */
const within = (hz: number): number => Math.min(hz, 0.499 / LOOP_S);

/** The notches at a throttle alone, and the low-pass alone. */
const notchesOf = (set: FilterSet, centreHz: number, lines: readonly number[] = []): GyroFilter =>
  new GyroFilter({ ...set, lowPassHz: 0, secondHz: 0 }, centreHz, LOOP_S, false, lines);

/** Where tracking notches would stand in a spectrum: on the lines within their span that shake most, behind the other notches. */
export function trackedLines(set: FilterSet, spectrum: Spectrum, centreHz: number): readonly number[] {
  if (set.track === 0) return [];
  const through = powerThrough(
    notchesOf({ ...set, track: 0 }, centreHz),
    spectrum.stepHz,
    spectrum.density.length,
  );
  const density = spectrum.density.map((d, k) => d * through[k]!);
  const within = linesOf({ ...spectrum, density }, MOST_LINES, set.trackFromHz).filter(
    (l) => l.hz <= set.trackToHz,
  );
  return within.slice(0, set.track).map((l) => l.hz);
}

/** All notches as they stand in a band of throttle: those that follow or are told, and those that track. */
export function notchesIn(
  set: FilterSet,
  { bands }: ThrottleSpectra,
  band: number,
  middle: number,
  shaft?: (throttle: number) => number,
): GyroFilter {
  const centre = notchAt(set, middleOf(band, bands.length), middle, shaft);
  const spectrum = bands[band];
  return notchesOf(set, centre, spectrum ? trackedLines(set, spectrum, centre) : []);
}

/** Lines that are told apart in a spectrum. */
const MOST_LINES = 12;

export const lowPassOf = (set: FilterSet): GyroFilter => new GyroFilter(set, 0, LOOP_S);

/** From where its low-passes take so many decibels, Hz; infinite where they never do. */
export function takesAt(set: FilterSet, db: number): number {
  const low = lowPassOf(set);
  const takes = (hz: number) => -20 * Math.log10(sizeOf(low.at(hz))) >= db;
  let [from, to] = [0.5, within(Number.POSITIVE_INFINITY)];
  if (!takes(to)) return Number.POSITIVE_INFINITY;
  for (let k = 0; k < 20; k++) {
    const mid = (from + to) / 2;
    if (takes(mid)) to = mid;
    else from = mid;
  }
  return to;
}

/** What is slower than this is the craft's own turning, not its shake, Hz. */
export const SHAKE_FROM_HZ = 20;

/**
 * What the command has of shake before any low-pass, by band of throttle and line: the density of the gyro's shake, times what notch and
 * gains make of it. @returns share of full command, squared; null where nothing was flown
 */
function beforeLowPass(
  spectra: ThrottleSpectra,
  set: FilterSet,
  middle: number,
  loop: Loop,
  shaft?: (throttle: number) => number,
): readonly (Float64Array | null)[] {
  const { stepHz, bands } = spectra;
  const from = Math.ceil(SHAKE_FROM_HZ / stepHz);
  const lines = bands.find((b) => b)?.density.length ?? 0;
  const gains = Float64Array.from({ length: lines }, (_, k) =>
    k < from
      ? 0
      : stepHz * sizeOf(controllerAt(loop.gains, loop.shape, loop.times.gain, within(k * stepHz))) ** 2,
  );
  return bands.map((band, b) => {
    if (!band) return null;
    const through = powerThrough(notchesIn(set, spectra, b, middle, shaft), stepHz, lines);
    return band.density.map((d, k) => d * through[k]! * gains[k]!);
  });
}

const rootOf = (powers: Float64Array, through: Float64Array): number => {
  let sum = 0;
  for (let k = 0; k < powers.length; k++) sum += powers[k]! * through[k]!;
  return Math.sqrt(sum);
};

/** What is left of shake in the command, by band of throttle and line: share of full command, squared; null where nothing was flown. */
export function commandPowers(
  spectra: ThrottleSpectra,
  set: FilterSet,
  middle: number,
  loop: Loop,
  shaft?: (throttle: number) => number,
): readonly (Float64Array | null)[] {
  const before = beforeLowPass(spectra, set, middle, loop, shaft);
  const through = powerThrough(lowPassOf(set), spectra.stepHz, before.find((p) => p)?.length ?? 0);
  return before.map((powers) => powers?.map((p, k) => p * through[k]!) ?? null);
}

/**
 * How far shake moves servos or motors, share of full command, root mean square, by band of throttle; NaN where nothing was flown.
 * Spectral density times the squares of what filters and gains make of it, summed up (Wiener and Khinchin).
 */
export function commandShake(
  spectra: ThrottleSpectra,
  set: FilterSet,
  middle: number,
  loop: Loop,
  shaft?: (throttle: number) => number,
): readonly number[] {
  return commandPowers(spectra, set, middle, loop, shaft).map((powers) =>
    powers ? Math.sqrt(powers.reduce((sum, p) => sum + p, 0)) : Number.NaN,
  );
}

/**
 * What shakes most in a band of throttle.
 * @returns its frequency, what of it comes to the gyro, rad/s root mean square, and how much the filters take of it; null where no line stands out
 */
export function loudestLine(
  spectra: ThrottleSpectra,
  band: number,
  set: FilterSet,
  middle: number,
  shaft?: (throttle: number) => number,
): { readonly hz: number; readonly rms: number; readonly takenDb: number } | null {
  const spectrum = spectra.bands[band];
  const line = spectrum && linesOf(spectrum, 1, SHAKE_FROM_HZ)[0];
  if (!line) return null;
  const hz = within(line.hz);
  const through = sizeOf(notchesIn(set, spectra, band, middle, shaft).at(hz)) * sizeOf(lowPassOf(set).at(hz));
  return { hz: line.hz, rms: line.rms, takenDb: -20 * Math.log10(through) };
}

/** What each filter costs at a frequency. */
export interface FilterDelay {
  readonly id: 'notch' | 'tracking' | 'low-pass';
  readonly degrees: number;
  readonly ms: number;
}

/** @param hz where the loop crosses over; tracking notches are reckoned with as if they stood spread over their span, one at its lower end */
export function delaysOf(set: FilterSet, hz: number): readonly FilterDelay[] {
  const each = [
    ['notch', set.notchHz > 0, notchesOf({ ...set, track: 0 }, set.notchHz)],
    ['tracking', set.track > 0, notchesOf(set, 0, spreadLines(set))],
    ['low-pass', set.lowPassHz > 0 || set.secondHz > 0, lowPassOf(set)],
  ] as const;
  return each.flatMap(([id, there, filter]) => {
    if (!there) return [];
    const degrees = -angleOf(filter.at(hz)) / DEG;
    return [{ id, degrees, ms: (1000 * degrees) / 360 / hz }];
  });
}

/** Choices that are gone through. */
const LOW_PASSES = [20, 25, 30, 35, 40, 50, 60, 70, 80, 90, 100, 120, 140, 160, 180, 200, 250];
const ORDERS = [
  { poles: 1, biquad: false },
  { poles: 2, biquad: false },
  { poles: 1, biquad: true },
];
const NO_LOW = { secondHz: 0, yawHz: 0 };
const NOTCH_QS = [1, 1.5, 2, 3, 4, 5];
const NOTCH_MOVED = [0.97, 1, 1.03];
const HARMONICS = [1, 2];
const NO_NOTCH = { notchHz: 0, notchQ: 3, harmonics: 1, follows: false, power: 0.5, told: false };
const NO_TRACK = { track: 0, trackFromHz: 70, trackToHz: 350, trackQ: 3 };

/** How often propellers turn, by throttle. */
export interface ShaftLine {
  /** At the middle throttle, Hz. */
  readonly hz: number;
  /** Of the throttle, by which it grows. */
  readonly power: number;
}

/** A line belongs to the propellers within these shares of what their model says. */
const NEAR = [0.72, 1.4] as const;
const LEAST_THROTTLE = 0.2;
const LEAST_POINTS = 4;

/**
 * The propellers' line as it shook: of each band of throttle the loudest line near what the model of the motors says, and a power law through
 * them, straight in logarithms. Where too few are there, by the model alone; null without motors.
 * @param shaft what the model says, Hz by throttle. @param middle throttle
 */
export function shaftLine(
  { bands }: ThrottleSpectra,
  shaft: (throttle: number) => number,
  middle: number,
): ShaftLine | null {
  const flown = bands.flatMap((band, k) => {
    const at = middleOf(k, bands.length);
    return band && at > LEAST_THROTTLE ? [{ at, band }] : [];
  });
  const points = flown.flatMap(({ at, band }) => {
    const said = shaft(at);
    const near = linesOf(band, 6, SHAKE_FROM_HZ).find((l) => l.hz > NEAR[0] * said && l.hz < NEAR[1] * said);
    return near ? [[Math.log(at), Math.log(near.hz)] as const] : [];
  });
  const seen =
    points.length < LEAST_POINTS
      ? flown.map(({ at }) => [Math.log(at), Math.log(shaft(at))] as const)
      : points;
  const line = fitLine(
    seen.map(([x]) => x),
    seen.map(([, y]) => y),
  );
  if (!line || !Number.isFinite(line.at0)) return null;
  return { hz: Math.exp(line.at0 + line.slope * Math.log(middle)), power: line.slope };
}

/** What filters are to do. */
export interface FilterWish {
  /** Where propellers shake; null for no notch. */
  readonly shaft: ShaftLine | null;
  /** Where the loop crosses over. */
  readonly crossHz: number;
  /** Share of full command that shake may move it by, root mean square. */
  readonly allowed: number;
  /** Notches go by what motor controllers tell. */
  readonly told?: boolean;
  /** Firmware before 3.2: one notch that follows by the root of the throttle, one pole. */
  readonly plain?: boolean;
}

/** Filters and what they do. */
export interface FilterChoice {
  readonly set: FilterSet;
  /** The most of it over all throttles, share of full command. */
  readonly shake: number;
  readonly degrees: number;
  /** Whether it keeps the shake under what is allowed; else it is the quietest there is. */
  readonly enough: boolean;
}

/**
 * The filters that cost least phase where the loop crosses over, of those that keep what shake makes of the command under a limit at every
 * throttle that was flown.
 * @param middle throttle at which a notch that follows is where it is set
 */
export function chooseFilters(
  spectra: ThrottleSpectra,
  middle: number,
  loop: Loop,
  { shaft, crossHz, allowed, told = false, plain = false }: FilterWish,
): FilterChoice {
  const notches = shaft
    ? NOTCH_MOVED.flatMap((moved) =>
        NOTCH_QS.flatMap((notchQ) =>
          (plain ? [1] : HARMONICS).map((harmonics) => ({
            notchHz: Math.round(moved * shaft.hz),
            notchQ,
            harmonics,
            follows: true,
            told,
            power: plain ? NO_NOTCH.power : Math.round(20 * clamp(shaft.power, 0.3, 1.5)) / 20,
          })),
        ),
      )
    : [];
  // What controllers tell is the line itself.
  const asTold = shaft ? (throttle: number) => shaft.hz * (throttle / middle) ** shaft.power : undefined;
  const lines = spectra.bands.find((b) => b)?.density.length ?? 0;
  const lows = (plain ? ORDERS.slice(0, 1) : ORDERS).flatMap((order) =>
    LOW_PASSES.map((lowPassHz) => {
      const low = { ...NO_LOW, ...NO_TRACK, ...order, lowPassHz };
      return { low, through: powerThrough(lowPassOf({ ...NO_NOTCH, ...low }), spectra.stepHz, lines) };
    }),
  );
  let best: FilterChoice | null = null;
  for (const notch of [NO_NOTCH, ...notches]) {
    const before = beforeLowPass(spectra, { ...notch, ...lows[0]!.low, lowPassHz: 0 }, middle, loop, asTold);
    for (const { low, through } of lows) {
      const set = { ...notch, ...low };
      const shake = Math.max(0, ...before.map((powers) => (powers ? rootOf(powers, through) : 0)));
      const enough = shake <= allowed;
      if (best?.enough && !enough) continue;
      const degrees = delaysOf(set, crossHz).reduce((sum, d) => sum + d.degrees, 0);
      if (!best || (enough ? !best.enough || degrees < best.degrees : shake < best.shake))
        best = { set, shake, degrees, enough };
    }
  }
  return best!;
}
