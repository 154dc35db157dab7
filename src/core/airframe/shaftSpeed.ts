import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import type { Airframe } from './airframe.ts';
import { supplyUnderLoad } from './performance.ts';

/** How often the propellers of a craft turn at a throttle, 1/s, by the model of its motors; NaN without any. @param speedMps through the air */
export function shaftHz(airframe: Airframe, throttle: number, speedMps: number): number {
  const motor = airframe.motors[0];
  if (!motor) return Number.NaN;
  const unit = new MotorUnit(motor);
  unit.settle(throttle, supplyUnderLoad(airframe), speedMps, SEA_LEVEL_DENSITY);
  return unit.omega / (2 * Math.PI);
}
