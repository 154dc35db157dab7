import { isRotorcraft } from '../airframe/airframe.ts';
import { FlightPower } from '../airframe/flightPower.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { loadedV, openCircuitV } from '../flight/battery.ts';
import { windAtHeight } from '../flight/wind.ts';
import { DEG } from '../math/scalar.ts';
import { settingsOf } from '../settings/typed.ts';
import { homeMarch, planOf, type ReachInput } from './reachMap.ts';

/** A moment of a flight straight out, and what would be left if it turned for home then. */
export interface OutPoint {
  readonly seconds: number;
  readonly distanceM: number;
  /** Charge left, share of the capacity. */
  readonly share: number;
  /** Charge left above home if the way home began now; below nought it does not get there. */
  readonly homeShare: number;
  /** Of a cell under the load of the flight out, V. */
  readonly cellV: number;
}

/** When a way of watching the battery says that it is low on such a flight, and what would be left above home then. */
export interface LowMark {
  readonly watch: 'volts' | 'charge' | 'home';
  readonly at: OutPoint | null;
}

export interface OutFlight {
  readonly points: readonly OutPoint[];
  readonly marks: readonly LowMark[];
  /** Where the battery is empty, by the mark of its voltage or by what is left of its charge; null where it lasts. */
  readonly empty: OutPoint | null;
}

/** What the battery is like on the day. */
export interface PackDay {
  /** Of the cells, degrees Celsius. */
  readonly cellsC: number;
  /** Of the whole pack as measured; null for what the craft says. */
  readonly ohm: number | null;
}

/** Charge that cells give at a temperature, share of what they give when warm: by rule of thumb, ours. */
export function coldShare(cellsC: number): number {
  const below = Math.max(0, 20 - cellsC);
  return Math.max(0.4, 1 - 0.005 * below - 0.00012 * below * below);
}

/** With less than this of its capacity the firmware takes it for empty. */
const EMPTY_SHARE = 0.03;
/** Steps of the flight out, s, and how long it is looked at, s. */
const STEP_S = 5;
const LONGEST_S = 4 * 3600;

/**
 * Flies straight out on a bearing at the speed of the cruise until the battery is empty, and asks at each step what the way
 * home would leave: where the three ways of watching it say that it is low.
 */
export function flyOut(input: ReachInput, bearingDeg: number, day: PackDay): OutFlight {
  const { airframe, values, circumstances: c } = input;
  const s = settingsOf(values);
  const rotors = isRotorcraft(airframe);
  const b = airframe.battery;
  const capacityMah = b.capacityMah * coldShare(day.cellsC);
  const cold = { ...airframe, battery: { ...b, capacityMah } };
  const asked = { ...input, airframe: cold };
  const plan = planOf(asked);
  const power = new FlightPower(cold, { rho: SEA_LEVEL_DENSITY, maxDuty: s.number('motor.max') });
  const speed = s.number('nav.speed');
  const [toNorth, toEast] = [Math.cos(bearingDeg * DEG), Math.sin(bearingDeg * DEG)];
  const wind = windAtHeight(c.wind.speedMps, c.heightM);
  const along = -wind * Math.cos((c.wind.fromDeg - bearingDeg) * DEG);
  const across = wind * Math.sin((c.wind.fromDeg - bearingDeg) * DEG);
  const left = speed * speed - across * across;
  const way = rotors ? speed : (left > 0 ? Math.sqrt(left) : 0) + along;
  const air = rotors ? Math.hypot(speed - along, across) : speed;
  const watts = power.watts({ speedMps: air, climbMps: 0, load: 1 });
  const ohm = day.ohm ?? b.cells * b.cellResistanceOhm;
  const points: OutPoint[] = [];
  let share = 1;
  let distance = 0;
  for (let seconds = 0; seconds <= LONGEST_S && share > 0 && Number.isFinite(watts); seconds += STEP_S) {
    const open = b.cells * openCircuitV(b.chemistry, share);
    const volts = loadedV(open, watts, ohm);
    const march = homeMarch({ ...asked, circumstances: { ...c, batteryShare: share } }, plan);
    march.from(toNorth * distance, toEast * distance);
    points.push({
      seconds,
      distanceM: distance,
      share,
      homeShare: Number.isNaN(march.atHomeShare) ? -1 : march.atHomeShare,
      cellV: volts / b.cells,
    });
    share -= ((watts / volts) * STEP_S) / (capacityMah * 3.6);
    distance += Math.max(0, way) * STEP_S;
  }
  const reserve = s.number('battery.reserve');
  // The last moment before: that is when a watch that looks ahead says so.
  const first = (low: (p: OutPoint) => boolean) => {
    const i = points.findIndex(low);
    return i < 0 ? null : points[Math.max(0, i - 1)]!;
  };
  const watch = s.choice('battery.watch');
  return {
    points,
    empty: first((p) => p.cellV < s.number('battery.empty') || (watch !== 'volts' && p.share < EMPTY_SHARE)),
    marks: [
      { watch: 'home', at: first((p) => p.homeShare < reserve) },
      { watch: 'charge', at: first((p) => p.share < reserve) },
      { watch: 'volts', at: first((p) => p.cellV < s.number('battery.low')) },
    ],
  };
}
