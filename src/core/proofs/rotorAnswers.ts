import type { MotorId } from '../airframe/actuators.ts';
import type { Airframe, Motor } from '../airframe/airframe.ts';
import type { Tilt } from './seen.ts';

/**
 * What rotors must do against a tilt or a turn while they stand still: the board tells how it would share out its commands, and that
 * is judged by where each rotor stands and how it turns.
 */

/** What one more share of a rotor does about an axis: its arm over the farthest, m/m; of yaw, its drag. Roll right, pitch up, yaw right. */
function leverOf(airframe: Airframe, m: Motor, axis: 'roll' | 'pitch' | 'yaw'): number {
  if (axis === 'yaw') return m.spin === 'anticlockwise' ? 1 : -1;
  const of = (x: Motor) => (axis === 'roll' ? -x.rightM : airframe.cgAftM - x.aftM);
  const farthest = Math.max(...airframe.motors.map((x) => Math.abs(of(x))));
  return farthest > 0 ? of(m) / farthest : 0;
}

const axisOf = (tilt: Tilt) => (tilt.startsWith('roll') ? 'roll' : tilt.startsWith('nose') ? 'pitch' : 'yaw');
/** The way to turn it back: -1 against a bank to the right, a raised nose, a turn to the right. */
const backOf = (tilt: Tilt) => (tilt === 'roll-right' || tilt === 'nose-up' || tilt === 'yaw-right' ? -1 : 1);

/** Less than this share of the farthest arm does nothing about an axis. */
const LEAST_LEVER = 0.2;

/** Rotors that have to push more to turn it back. */
export function pushMore(airframe: Airframe, tilt: Tilt): MotorId[] {
  return airframe.motors
    .filter((m) => leverOf(airframe, m, axisOf(tilt)) * backOf(tilt) > LEAST_LEVER)
    .map((m) => m.id);
}

/** What shares differ by no more than this nobody sees. */
const LEAST_ANSWER = 0.015;

/** Whether what the board would give each rotor turns it back. @param shares 0..1, by motor; what is not told gives nothing */
export function rotorsOppose(
  airframe: Airframe,
  shares: Readonly<Partial<Record<string, number>>>,
  tilt: Tilt,
): boolean {
  const axis = axisOf(tilt);
  const mean = airframe.motors.reduce((sum, m) => sum + (shares[m.id] ?? 0), 0) / airframe.motors.length;
  const turn = airframe.motors.reduce(
    (sum, m) => sum + leverOf(airframe, m, axis) * ((shares[m.id] ?? 0) - mean),
    0,
  );
  return (turn * backOf(tilt)) / airframe.motors.length > LEAST_ANSWER;
}
