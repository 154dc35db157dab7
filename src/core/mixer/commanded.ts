import { type ActuatorId, isMotor } from '../airframe/actuators.ts';
import { clamp } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import { deflectionOfPulse, type OutputShape } from './pulse.ts';

/** The first output that is set to drive a part of the craft, from 1; null where none is. */
export function outputDriving(values: Values, actuator: ActuatorId): number | null {
  for (let n = 1; ; n++) {
    const drives = settingOf(values, `out.${n}.drives`);
    if (drives === undefined) return null;
    if (drives === actuator) return n;
  }
}

/** An output's shape from its settings. */
export function outputShapeOf(values: Values, output: number): OutputShape {
  return {
    lowUs: settingOf(values, `out.${output}.low`) ?? 1000,
    centreUs: settingOf(values, `out.${output}.centre`) ?? 1500,
    highUs: settingOf(values, `out.${output}.high`) ?? 2000,
    reversed: settingOf(values, `out.${output}.reversed`) === true,
  };
}

/**
 * What the board commands, from the pulses it sends and the settings it holds: surfaces -1..1 (trailing edge
 * down, rudder left positive), motors 0..1.
 */
export function commandedBy(values: Values, pulses: ArrayLike<number>): Partial<Record<ActuatorId, number>> {
  const out: Partial<Record<ActuatorId, number>> = {};
  for (let n = 1; n <= pulses.length; n++) {
    const drives = settingOf(values, `out.${n}.drives`);
    const pulse = pulses[n - 1]!;
    if (typeof drives !== 'string' || drives === 'nothing' || pulse <= 0) continue;
    const shape = outputShapeOf(values, n);
    const id = drives as ActuatorId;
    out[id] = isMotor(id)
      ? clamp((pulse - shape.lowUs) / (shape.highUs - shape.lowUs), 0, 1)
      : deflectionOfPulse(shape, pulse);
  }
  return out;
}
