import { linesOf } from '../analysis/spectrum.ts';
import { middleOf, type ThrottleSpectra } from '../analysis/throttleSpectra.ts';
import { LowPass } from '../control/lowPass.ts';
import { Notch } from '../control/notch.ts';
import { angleOf, type Complex, sizeOf } from '../math/complex.ts';
import { DEG } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { controllerAt, LOOP_S, type Loop } from './chain.ts';

/** The filters between gyro and loop, as they are set. */
export interface FilterSet {
  /** 0: off. */
  readonly notchHz: number;
  readonly notchQ: number;
  readonly follows: boolean;
  /** 0: off. */
  readonly lowPassHz: number;
}

export function filtersOf(values: Values): FilterSet {
  const s = settingsOf(values);
  return {
    notchHz: s.number('gyro.notch'),
    notchQ: s.number('gyro.notchQ'),
    follows: s.flag('gyro.notchFollows'),
    lowPassHz: s.number('gyro.cutoff'),
  };
}

/** Where the notch is at a throttle, Hz: as the firmware has it follow. @param middle throttle at which it is where it is set */
export const notchAt = ({ notchHz, follows }: FilterSet, throttle: number, middle: number): number =>
  follows && middle > 0 ? notchHz * Math.sqrt(Math.max(0.2, throttle) / middle) : notchHz;

/** Share of a steady swing's power that a filter lets through, at each line of a spectrum. */
export function powerThrough(
  filter: { at(hz: number): Complex } | null,
  stepHz: number,
  lines: number,
): Float64Array {
  return Float64Array.from({ length: lines }, (_, k) =>
    filter && k > 0 ? sizeOf(filter.at(within(k * stepHz))) ** 2 : 1,
  );
}

/** Half the rate of the loop is nobody's frequency. */
const within = (hz: number): number => Math.min(hz, 0.499 / LOOP_S);

export const notchOf = (set: FilterSet, centreHz: number): Notch | null =>
  centreHz > 0 ? new Notch(centreHz, set.notchQ, LOOP_S) : null;

export const lowPassOf = (set: FilterSet): LowPass | null =>
  set.lowPassHz > 0 ? new LowPass(set.lowPassHz, LOOP_S) : null;

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
): readonly (Float64Array | null)[] {
  const { stepHz, bands } = spectra;
  const from = Math.ceil(SHAKE_FROM_HZ / stepHz);
  const lines = bands.find((b) => b)?.density.length ?? 0;
  const gains = Float64Array.from({ length: lines }, (_, k) =>
    k < from
      ? 0
      : stepHz * sizeOf(controllerAt(loop.gains, loop.dCutoffHz, loop.ratio, within(k * stepHz))) ** 2,
  );
  return bands.map((band, b) => {
    if (!band) return null;
    const through = powerThrough(
      notchOf(set, notchAt(set, middleOf(b, bands.length), middle)),
      stepHz,
      lines,
    );
    return band.density.map((d, k) => d * through[k]! * gains[k]!);
  });
}

const rootOf = (powers: Float64Array, through: Float64Array): number => {
  let sum = 0;
  for (let k = 0; k < powers.length; k++) sum += powers[k]! * through[k]!;
  return Math.sqrt(sum);
};

/**
 * How far shake moves servos or motors, share of full command, root mean square, by band of throttle; NaN where nothing was flown.
 * Spectral density times the squares of what filters and gains make of it, summed up (Wiener and Khinchin).
 */
export function commandShake(
  spectra: ThrottleSpectra,
  set: FilterSet,
  middle: number,
  loop: Loop,
): readonly number[] {
  const before = beforeLowPass(spectra, set, middle, loop);
  const through = powerThrough(lowPassOf(set), spectra.stepHz, before.find((p) => p)?.length ?? 0);
  return before.map((powers) => (powers ? rootOf(powers, through) : Number.NaN));
}

/**
 * What shakes most in a band of throttle.
 * @returns its frequency, what of it comes to the gyro, rad/s root mean square, and how much the filters take of it; null where no line stands out
 */
export function loudestLine(
  { bands }: ThrottleSpectra,
  band: number,
  set: FilterSet,
  middle: number,
): { readonly hz: number; readonly rms: number; readonly takenDb: number } | null {
  const spectrum = bands[band];
  const line = spectrum && linesOf(spectrum, 1, SHAKE_FROM_HZ)[0];
  if (!line) return null;
  const notch = notchOf(set, notchAt(set, middleOf(band, bands.length), middle));
  const through = [notch, lowPassOf(set)].reduce(
    (share, f) => (f ? share * sizeOf(f.at(within(line.hz))) : share),
    1,
  );
  return { hz: line.hz, rms: line.rms, takenDb: -20 * Math.log10(through) };
}

/** What each filter costs at a frequency. */
export interface FilterDelay {
  readonly id: 'notch' | 'low-pass';
  readonly degrees: number;
  readonly ms: number;
}

/** @param hz where the loop crosses over */
export function delaysOf(set: FilterSet, hz: number): readonly FilterDelay[] {
  const each = [
    ['notch', notchOf(set, set.notchHz)],
    ['low-pass', lowPassOf(set)],
  ] as const;
  return each.flatMap(([id, filter]) => {
    if (!filter) return [];
    const degrees = -angleOf(filter.at(hz)) / DEG;
    return [{ id, degrees, ms: (1000 * degrees) / 360 / hz }];
  });
}

/** Choices that are gone through. */
const LOW_PASSES = [20, 25, 30, 35, 40, 50, 60, 70, 80, 90, 100, 120, 140, 160, 180, 200, 250];
const NOTCH_QS = [1, 1.5, 2, 3, 4];
const NOTCH_MOVED = [0.9, 0.95, 1, 1.05, 1.1];

/** What filters are to do. */
export interface FilterWish {
  /** How often propellers turn at the middle throttle; NaN for no notch. */
  readonly shaftHz: number;
  /** Where the loop crosses over. */
  readonly crossHz: number;
  /** Share of full command that shake may move it by, root mean square. */
  readonly allowed: number;
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
  { shaftHz, crossHz, allowed }: FilterWish,
): FilterChoice {
  const notches = Number.isFinite(shaftHz)
    ? NOTCH_MOVED.flatMap((moved) =>
        NOTCH_QS.map((notchQ) => ({ notchHz: Math.round(moved * shaftHz), notchQ, follows: true })),
      )
    : [];
  const lines = spectra.bands.find((b) => b)?.density.length ?? 0;
  const lows = LOW_PASSES.map((lowPassHz) => ({
    lowPassHz,
    through: powerThrough(new LowPass(lowPassHz, LOOP_S), spectra.stepHz, lines),
  }));
  let best: FilterChoice | null = null;
  for (const notch of [{ notchHz: 0, notchQ: 2, follows: false }, ...notches]) {
    const before = beforeLowPass(spectra, { ...notch, lowPassHz: 0 }, middle, loop);
    for (const { lowPassHz, through } of lows) {
      const set = { ...notch, lowPassHz };
      const degrees = delaysOf(set, crossHz).reduce((sum, d) => sum + d.degrees, 0);
      const shake = Math.max(0, ...before.map((powers) => (powers ? rootOf(powers, through) : 0)));
      const enough = shake <= allowed;
      if (!best || (enough ? !best.enough || degrees < best.degrees : !best.enough && shake < best.shake))
        best = { set, shake, degrees, enough };
    }
  }
  return best!;
}
