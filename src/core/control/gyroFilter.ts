import { type Complex, ONE, times } from '../math/complex.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { LowPass } from './lowPass.ts';
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
  /** Cut-off of each of its poles, Hz; 0 for none. */
  readonly lowPassHz: number;
  readonly poles: number;
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
    lowPassHz: s.number('gyro.cutoff'),
    poles: settingOf(values, 'gyro.poles') ?? 1,
  };
}

/** Less throttle than this moves the notches no farther down: a wind turns propellers as well. */
const LEAST_THROTTLE = 0.2;

/** Where the first notch is at a throttle, Hz. @param middle throttle at which it is where it is set */
export const notchAt = ({ notchHz, follows, power }: FilterSet, throttle: number, middle: number): number =>
  follows && middle > 0 ? notchHz * (Math.max(LEAST_THROTTLE, throttle) / middle) ** power : notchHz;

/** All filters of one axis, in the order in which they are passed. */
export class GyroFilter {
  readonly notches: readonly Notch[];
  readonly lowPasses: readonly LowPass[];

  /** @param notchHz centre of the first notch now. @param dt s */
  constructor(set: FilterSet, notchHz: number, dt: number) {
    this.notches = Array.from(
      { length: notchHz > 0 ? set.harmonics : 0 },
      (_, k) => new Notch((k + 1) * notchHz, set.notchQ, dt),
    );
    this.lowPasses = Array.from(
      { length: set.lowPassHz > 0 ? set.poles : 0 },
      () => new LowPass(set.lowPassHz, dt),
    );
  }

  /** Moves the notches; their memories stay. */
  tune(notchHz: number): void {
    for (let k = 0; k < this.notches.length; k++) this.notches[k]!.tune((k + 1) * notchHz);
  }

  step(value: number): number {
    let passed = value;
    for (let k = 0; k < this.notches.length; k++) passed = this.notches[k]!.step(passed);
    for (let k = 0; k < this.lowPasses.length; k++) passed = this.lowPasses[k]!.step(passed);
    return passed;
  }

  /** What all of them make of a steady swing. @param hz below half the rate */
  at(hz: number): Complex {
    return [...this.notches, ...this.lowPasses].reduce((sum, f) => times(sum, f.at(hz)), ONE);
  }
}
