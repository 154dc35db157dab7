import type { LoggedSeries } from '../formats/flightLog.ts';
import type { TrackPoint } from '../formats/rehearsalResult.ts';
import { DEG } from '../math/scalar.ts';
import { eastOf, northOf } from '../navigation/earth.ts';
import type { CircleSample } from './airspeedCircles.ts';

/** One moment of a flight, wherever it is known from: SI, degrees. */
export interface FlownMoment {
  readonly atS: number;
  readonly rollDeg: number;
  readonly pitchDeg: number;
  readonly climbMps: number;
  /** Through the air, true, m/s. */
  readonly airspeedMps: number;
  /** As the craft's own tube told it; NaN where there is none. */
  readonly toldMps: number;
  /** Over ground, m/s. */
  readonly northMps: number;
  readonly eastMps: number;
  /** Above the ground, or above where it began. */
  readonly aboveM: number;
}

/** The moments of a rehearsed flight. */
export function momentsOfTrack(track: readonly TrackPoint[]): readonly FlownMoment[] {
  return track.slice(1, -1).flatMap((at, i) => {
    const [a, b] = [track[i]!, track[i + 2]!];
    const dt = b.atS - a.atS;
    if (!(dt > 0 && dt < 5)) return [];
    return [
      {
        atS: at.atS,
        rollDeg: at.rollDeg,
        pitchDeg: at.pitchDeg,
        climbMps: (b.heightM - a.heightM) / dt,
        airspeedMps: at.airspeedMps,
        toldMps: at.toldAirspeedMps ?? Number.NaN,
        northMps: northOf(a.lat, b.lat) / dt,
        eastMps: eastOf(a.lat, a.lon, b.lon) / dt,
        aboveM: at.heightM - at.groundM,
      },
    ];
  });
}

/** Numbers of a log that are wanted for it. */
const logged = [
  'seconds',
  'roll',
  'pitch',
  'velocityNorth',
  'velocityEast',
  'climb',
  'airspeed',
  'height',
] as const;

/**
 * The moments of a flight that a board logged; attitudes are those that it believed under its mounting and trim of then.
 * @returns null where the log has not the numbers
 */
export function momentsOfLog(log: LoggedSeries): readonly FlownMoment[] | null {
  const at = logged.map((name) => log.fields.indexOf(name));
  if (at.includes(-1)) return null;
  const began = log.samples[0]?.[at[7]!] ?? 0;
  return log.samples.map((s) => {
    const [seconds, roll, pitch, north, east, climb, airspeed, height] = at.map((i) => s[i]!) as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    return {
      atS: seconds,
      rollDeg: roll / DEG,
      pitchDeg: pitch / DEG,
      climbMps: climb,
      airspeedMps: airspeed,
      toldMps: airspeed,
      northMps: north,
      eastMps: east,
      aboveM: height - began,
    };
  });
}

/** What counts as straight and level: degrees, m/s, and of the speed about its usual. */
const STRAIGHT = { rollDeg: 8, climbMps: 0.7, speedShare: 0.15 } as const;
/** So much of it is wanted, s. */
const LEAST_S = 20;
/** Below this it is a take-off or a landing, m. */
const LEAST_HEIGHT_M = 15;
/** A pause in a record is no flight, s. */
const GAP_S = 5;

export interface LevelFlown {
  /** Mean nose-up and right-wing-down attitude, degrees. */
  readonly pitchDeg: number;
  readonly rollDeg: number;
  readonly seconds: number;
  readonly speedMps: number;
}

/** The mean attitude of a flight while it flew straight and level at its usual speed: what is to count as level. */
export function levelFromFlight(flight: readonly FlownMoment[]): LevelFlown | { readonly refused: string } {
  const speeds = flight.filter((p) => p.aboveM > LEAST_HEIGHT_M).map((p) => p.airspeedMps);
  const usual = speeds.sort((a, b) => a - b)[speeds.length >> 1] ?? 0;
  let [seconds, pitch, roll, speed] = [0, 0, 0, 0];
  for (let i = 1; i < flight.length; i++) {
    const p = flight[i]!;
    const dt = p.atS - flight[i - 1]!.atS;
    if (!(dt > 0 && dt < GAP_S) || p.aboveM <= LEAST_HEIGHT_M) continue;
    if (Math.abs(p.rollDeg) > STRAIGHT.rollDeg || Math.abs(p.climbMps) > STRAIGHT.climbMps) continue;
    if (Math.abs(p.airspeedMps / usual - 1) > STRAIGHT.speedShare) continue;
    seconds += dt;
    pitch += p.pitchDeg * dt;
    roll += p.rollDeg * dt;
    speed += p.airspeedMps * dt;
  }
  if (!(usual > 5) || seconds < LEAST_S)
    return {
      refused: `It flew straight and level for ${seconds.toFixed(0)} s only; ${LEAST_S} s are wanted.`,
    };
  return { pitchDeg: pitch / seconds, rollDeg: roll / seconds, seconds, speedMps: speed / seconds };
}

/** Speeds over ground and through the air at a steady height, as the wind triangle wants them. */
export function circleSamplesOf(flight: readonly FlownMoment[]): readonly CircleSample[] {
  return flight
    .filter((p) => Number.isFinite(p.toldMps) && p.aboveM > LEAST_HEIGHT_M && Math.abs(p.climbMps) < 0.8)
    .map((p) => ({ north: p.northMps, east: p.eastMps, airspeed: p.toldMps }));
}
