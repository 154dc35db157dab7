import { type Airframe, isRotorcraft } from '../../airframe/airframe.ts';
import { DEG } from '../../math/scalar.ts';
import type { Values } from '../../settings/catalogue.ts';
import { settingsOf } from '../../settings/typed.ts';

/** What is asked of the loops outside the rate loops: of wings, then of rotors. */
export const wingManoeuvres = ['bank', 'height', 'speed', 'path', 'circle'] as const;
export const rotorManoeuvres = ['bank', 'height', 'go', 'gusts'] as const;
export type WingManoeuvre = (typeof wingManoeuvres)[number];
export type RotorManoeuvre = (typeof rotorManoeuvres)[number];
export type ManoeuvreId = WingManoeuvre | RotorManoeuvre;

export const manoeuvresOf = (airframe: Airframe): readonly ManoeuvreId[] =>
  isRotorcraft(airframe) ? rotorManoeuvres : wingManoeuvres;

/** How much is asked: rad, m, m/s, and for how long it is looked at, s. */
export interface Asked {
  readonly bank: number;
  readonly height: number;
  readonly speed: number;
  /** Turned off the line that it is to follow, rad. */
  readonly off: number;
  /** At the craft's height, m/s, from north. */
  readonly windMps: number;
  /** Standard deviation of gusts, m/s. */
  readonly gustMps: number;
  /** Rotors are let go of at so long after they were told to go, s. */
  readonly letGoS: number;
  readonly seconds: number;
}

const BANK = 20 * DEG;
const OFF = 60 * DEG;
const WIND_SHARE = 0.4;
const none = { bank: 0, height: 0, speed: 0, off: 0, windMps: 0, gustMps: 0, letGoS: 0 };

/** What is asked of this craft as it is set. */
export function askedOf(airframe: Airframe, values: Values, id: ManoeuvreId): Asked {
  const s = settingsOf(values);
  const rotors = isRotorcraft(airframe);
  switch (id) {
    case 'bank':
      return { ...none, bank: Math.min(BANK, s.number('level.bank') * DEG), seconds: 3 };
    case 'height':
      return { ...none, height: rotors ? 5 : 20, seconds: rotors ? 15 : 40 };
    case 'speed':
      return { ...none, speed: 3, seconds: 30 };
    case 'path':
      return { ...none, off: OFF, seconds: 30 };
    case 'circle': {
      // Twice round, at what it flies with the wind.
      const around = (2 * Math.PI * s.number('loiter.radius')) / s.number('nav.speed');
      return {
        ...none,
        windMps: WIND_SHARE * s.number('nav.speed'),
        seconds: Math.min(120, Math.ceil(2.4 * around)),
      };
    }
    case 'go':
      return { ...none, speed: 0.6 * s.number('hover.speed'), letGoS: 7, seconds: 16 };
    case 'gusts':
      return { ...none, windMps: 7, gustMps: 2, seconds: 40 };
  }
}
