import { type Complex, ONE, times } from '../math/complex.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { LineTrackers } from './lineTracker.ts';
import { LowPass, LowPass2 } from './lowPass.ts';
import { Notch } from './notch.ts';

/** The filters between a gyro and the loops, as they are set: notches first, then the low-pass. */
export interface FilterSet {
  /** Centre of the first notch, Hz; 0 for none. */
  readonly notchHz: number;
  readonly notchQ: number;
  /** So many notches: at once, twice, three times its centre. */
  readonly harmonics: number;
  /** The notches follow the throttle, by this power of it. */
  readonly follows: boolean;
  readonly power: number;
  /** They go by what motor controllers tell of their own speed, where they do; else as they would without. */
  readonly told: boolean;
  /** So many notches besides that look for lines themselves, within a span, Hz, and how narrow each is. */
  readonly track: number;
  readonly trackFromHz: number;
  readonly trackToHz: number;
  readonly trackQ: number;
  /** Cut-off of the low-pass, of each of its poles, Hz; 0 for none. */
  readonly lowPassHz: number;
  readonly poles: number;
  /** It is one of the second order instead, by Butterworth. */
  readonly biquad: boolean;
  /** A second low-pass behind it, of one pole, Hz; and one of the yaw gyro alone. 0 for none. */
  readonly secondHz: number;
  readonly yawHz: number;
}

/** As a board is set; firmware before 3.2 has one notch that goes by the root of the throttle, and one pole. */
export function filtersOf(values: Values): FilterSet {
  const s = settingsOf(values);
  return {
    notchHz: s.number('gyro.notch'),
    notchQ: s.number('gyro.notchQ'),
    harmonics: settingOf(values, 'gyro.notchHarmonics') ?? 1,
    follows: s.flag('gyro.notchFollows'),
    power: settingOf(values, 'gyro.notchPower') ?? 0.5,
    told: settingOf(values, 'gyro.notchTold') ?? false,
    track: settingOf(values, 'gyro.track') ?? 0,
    trackFromHz: settingOf(values, 'gyro.trackFrom') ?? 70,
    trackToHz: settingOf(values, 'gyro.trackTo') ?? 350,
    trackQ: settingOf(values, 'gyro.trackQ') ?? 3,
    lowPassHz: s.number('gyro.cutoff'),
    poles: settingOf(values, 'gyro.poles') ?? 1,
    biquad: settingOf(values, 'gyro.kind') === 'biquad',
    secondHz: settingOf(values, 'gyro.cutoff2') ?? 0,
    yawHz: settingOf(values, 'gyro.yawCutoff') ?? 0,
  };
}

/** Less throttle than this moves the notches no farther down: a wind turns propellers as well. */
const LEAST_THROTTLE = 0.2;

/**
 * Where the first notch is at a throttle, Hz.
 * @param middle throttle at which it is where it is set
 * @param shaft how often propellers turn by throttle, for notches that go by what controllers tell; left out where nothing is told
 */
export function notchAt(
  { notchHz, follows, power, told }: FilterSet,
  throttle: number,
  middle: number,
  shaft?: (throttle: number) => number,
): number {
  if (told && shaft && notchHz > 0) return shaft(throttle);
  return follows && middle > 0 ? notchHz * (Math.max(LEAST_THROTTLE, throttle) / middle) ** power : notchHz;
}

/** Tracking notches where nobody knows their lines: spread over the span, one at its lower end, where it costs most. */
export const spreadLines = ({ track, trackFromHz, trackToHz }: FilterSet): readonly number[] =>
  Array.from(
    { length: track },
    (_, k) => trackFromHz * (trackToHz / trackFromHz) ** (k / Math.max(1, track)),
  );

/** A low-pass as it is passed, of whatever order. */
export interface PassedLow {
  readonly name: string;
  step(value: number): number;
  at(hz: number): Complex;
}

/** Low-passes of one axis, in the order in which they are passed; one that is off is left out. */
export function lowPassesOf(set: FilterSet, dt: number, yaw = false): PassedLow[] {
  const one = (name: string, hz: number, filter: LowPass | LowPass2): PassedLow => ({
    name: `${name} at ${Math.round(hz)} Hz`,
    step: (value) => filter.step(value),
    at: (x) => filter.at(x),
  });
  const first =
    set.lowPassHz <= 0
      ? []
      : set.biquad
        ? [one('second-order low-pass', set.lowPassHz, new LowPass2(set.lowPassHz, dt))]
        : Array.from({ length: set.poles }, () =>
            one('low-pass', set.lowPassHz, new LowPass(set.lowPassHz, dt)),
          );
  return [
    ...first,
    ...(set.secondHz > 0 ? [one('second low-pass', set.secondHz, new LowPass(set.secondHz, dt))] : []),
    ...(yaw && set.yawHz > 0 ? [one('low-pass of yaw', set.yawHz, new LowPass(set.yawHz, dt))] : []),
  ];
}

/** All filters of one axis, in the order in which they are passed. */
export class GyroFilter {
  readonly notches: readonly Notch[];
  /** Notches on lines that are looked for; one without a line lets everything through. */
  readonly tracked: readonly Notch[];
  readonly lowPasses: readonly PassedLow[];
  private readonly trackers: LineTrackers;

  /**
   * @param notchHz centre of the first notch now. @param dt s @param yaw of the yaw gyro
   * @param lines where tracking notches stand to begin with, Hz; nowhere where left out
   */
  constructor(set: FilterSet, notchHz: number, dt: number, yaw = false, lines: readonly number[] = []) {
    this.notches = Array.from(
      { length: notchHz > 0 ? set.harmonics : 0 },
      (_, k) => new Notch((k + 1) * notchHz, set.notchQ, dt),
    );
    this.tracked = Array.from({ length: set.track }, (_, k) => new Notch(lines[k] ?? 0, set.trackQ, dt));
    this.trackers = new LineTrackers(
      set.track,
      set.trackFromHz,
      Math.max(set.trackToHz, set.trackFromHz + 20),
      dt,
    );
    this.lowPasses = lowPassesOf(set, dt, yaw);
  }

  /** Moves the notches; their memories stay. */
  tune(notchHz: number): void {
    for (let k = 0; k < this.notches.length; k++) this.notches[k]!.tune((k + 1) * notchHz);
  }

  /** Puts tracking notches where their lines are now. */
  follow(): void {
    if (this.tracked.length === 0) return;
    this.trackers.look();
    for (let k = 0; k < this.tracked.length; k++) {
      const { found, hz } = this.trackers.all[k]!;
      this.tracked[k]!.tune(found ? hz : 0);
    }
  }

  step(value: number): number {
    let passed = value;
    for (let k = 0; k < this.notches.length; k++) passed = this.notches[k]!.step(passed);
    if (this.tracked.length > 0) {
      // What the other notches take needs no tracking notch.
      this.trackers.step(passed);
      for (let k = 0; k < this.tracked.length; k++) passed = this.tracked[k]!.step(passed);
    }
    for (let k = 0; k < this.lowPasses.length; k++) passed = this.lowPasses[k]!.step(passed);
    return passed;
  }

  /** What all of them make of a steady swing. @param hz below half the rate */
  at(hz: number): Complex {
    return [...this.notches, ...this.tracked, ...this.lowPasses].reduce(
      (sum, f) => times(sum, f.at(hz)),
      ONE,
    );
  }
}
