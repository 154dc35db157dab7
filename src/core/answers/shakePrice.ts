import { isMotor } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { hoverOf, supplyUnderLoad } from '../airframe/performance.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { type Axis, mixRows } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';

/**
 * How far servos go to and fro for a shake that moves what they are commanded, from end to end of their way, times an hour. Each pulse
 * asks for another place: of a swing of normal amplitudes the mean step from one pulse to the next is sqrt(2/pi) of its root mean square,
 * and that one's square is 2 sum S (1 - cos 2 pi f T) (Wiener and Khinchin).
 * @param powers of the command by line, share of full command squared @param stepHz between lines @param pulseS between pulses
 */
export function servoTravel(powers: ArrayLike<number>, stepHz: number, pulseS: number): number {
  let square = 0;
  for (let k = 1; k < powers.length; k++)
    square += 2 * powers[k]! * (1 - Math.cos(2 * Math.PI * k * stepHz * pulseS));
  const step = Math.sqrt((2 / Math.PI) * square);
  // From end to end is twice a full command.
  return (step / 2) * (3600 / pulseS);
}

/** What shake costs what it moves. */
export type ShakePrice =
  | {
      readonly kind: 'heat';
      /** Lost in the winding of one motor by shake, W. */
      readonly watts: number;
      /** What it loses anyway in a hover, W. */
      readonly hoverWatts: number;
    }
  | { readonly kind: 'wear'; readonly waysPerHour: number };

/**
 * @param powers of the command about one axis by line, share of full command squared @param stepHz between lines
 * @param pulseS between pulses, of servos
 */
export const priceOfShake = (
  airframe: Airframe,
  values: Values,
  axis: Axis,
  powers: Float64Array,
  stepHz: number,
  pulseS: number,
): ShakePrice =>
  motorHeat(airframe, values, axis, Math.sqrt(powers.reduce((sum, p) => sum + p, 0))) ?? {
    kind: 'wear',
    waysPerHour: servoTravel(powers, stepHz, pulseS),
  };

/**
 * What shake heats each motor by. A shaft does not follow what is so fast: the voltage that comes and goes drives a current through the
 * winding alone, and its mean square is lost there, (V sigma)^2/R; less where it is so strong that the current stops now and then.
 * @param shake of the command, share of full, root mean square
 * @returns null for wings, and where no motor turns the craft so
 */
function motorHeat(airframe: Airframe, values: Values, axis: Axis, shake: number): ShakePrice | null {
  const most = Math.max(
    0,
    ...mixRows(airframe, values)
      .filter((r) => isMotor(r.drives))
      .map((r) => Math.abs(r.mix[axis])),
  );
  const motor = airframe.motors[0];
  if (!isRotorcraft(airframe) || most === 0 || !motor) return null;
  const supply = supplyUnderLoad(airframe);
  const unit = new MotorUnit(motor);
  unit.settle(hoverOf(airframe).throttle, supply, 0, SEA_LEVEL_DENSITY);
  const { resistanceOhm } = unit;
  return {
    kind: 'heat',
    watts: (supply * most * shake) ** 2 / resistanceOhm,
    hoverWatts: unit.windingA ** 2 * resistanceOhm,
  };
}
