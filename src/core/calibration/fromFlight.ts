import type { TrackPoint } from '../formats/rehearsalResult.ts';
import { eastOf, northOf } from '../navigation/earth.ts';
import type { CircleSample } from './airspeedCircles.ts';

/** What counts as straight and level: degrees, m/s, and of the speed about its usual. */
const STRAIGHT = { rollDeg: 8, climbMps: 0.7, speedShare: 0.15 } as const;
/** So much of it is wanted, s. */
const LEAST_S = 20;
/** Below this it is a take-off or a landing, m over the ground. */
const LEAST_HEIGHT_M = 15;

export interface LevelFlown {
  /** Mean nose-up and right-wing-down attitude, degrees. */
  readonly pitchDeg: number;
  readonly rollDeg: number;
  readonly seconds: number;
  readonly speedMps: number;
}

/** The mean attitude of a flight while it flew straight and level at its usual speed: what is to count as level. */
export function levelFromFlight(track: readonly TrackPoint[]): LevelFlown | { readonly refused: string } {
  const flying = track.filter((p) => p.heightM - p.groundM > LEAST_HEIGHT_M);
  const usual =
    [...flying].sort((a, b) => a.airspeedMps - b.airspeedMps)[flying.length >> 1]?.airspeedMps ?? 0;
  const level: { pitch: number; roll: number; dt: number; speed: number }[] = [];
  for (let i = 1; i < track.length; i++) {
    const [a, b] = [track[i - 1]!, track[i]!];
    const dt = b.atS - a.atS;
    if (!(dt > 0) || b.heightM - b.groundM <= LEAST_HEIGHT_M) continue;
    const climb = (b.heightM - a.heightM) / dt;
    if (Math.abs(b.rollDeg) > STRAIGHT.rollDeg || Math.abs(climb) > STRAIGHT.climbMps) continue;
    if (Math.abs(b.airspeedMps / usual - 1) > STRAIGHT.speedShare) continue;
    level.push({ pitch: b.pitchDeg, roll: b.rollDeg, dt, speed: b.airspeedMps });
  }
  const seconds = level.reduce((sum, p) => sum + p.dt, 0);
  if (!(usual > 5) || seconds < LEAST_S)
    return {
      refused: `It flew straight and level for ${seconds.toFixed(0)} s only; ${LEAST_S} s are wanted.`,
    };
  const mean = (of: (p: (typeof level)[number]) => number) =>
    level.reduce((sum, p) => sum + of(p) * p.dt, 0) / seconds;
  return {
    pitchDeg: mean((p) => p.pitch),
    rollDeg: mean((p) => p.roll),
    seconds,
    speedMps: mean((p) => p.speed),
  };
}

/** Speeds over ground and through the air of a flight, at a steady height, as the wind triangle wants them. */
export function circleSamplesOf(track: readonly TrackPoint[]): readonly CircleSample[] {
  const out: CircleSample[] = [];
  for (let i = 1; i + 1 < track.length; i++) {
    const [a, at, b] = [track[i - 1]!, track[i]!, track[i + 1]!];
    const dt = b.atS - a.atS;
    if (!(dt > 0 && dt < 5) || at.toldAirspeedMps === undefined) continue;
    if (at.heightM - at.groundM <= LEAST_HEIGHT_M || Math.abs(b.heightM - a.heightM) / dt > 1.5) continue;
    out.push({
      north: northOf(a.lat, b.lat) / dt,
      east: eastOf(a.lat, a.lon, b.lon) / dt,
      airspeed: at.toldAirspeedMps,
    });
  }
  return out;
}
