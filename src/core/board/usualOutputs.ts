import { type ActuatorId, isMotor } from '../airframe/actuators.ts';
import { type Airframe, actuatorsOf, isRotorcraft } from '../airframe/airframe.ts';
import type { SettingValue } from '../settings/catalogue.ts';
import type { BoardDescription } from './description.ts';

/**
 * Which output drives what, for a craft that is wired as a careful builder would: motors first, then servos
 * beginning on a timer of their own, so that the two can have different rates.
 */
function usualOutputs(airframe: Airframe, board: BoardDescription): Map<number, ActuatorId> {
  const out = new Map<number, ActuatorId>();
  let at = 0;
  let wasMotor = true;
  for (const id of actuatorsOf(airframe)) {
    if (wasMotor && !isMotor(id)) {
      const used = board.pads[at - 1]?.timer;
      while (at > 0 && at < board.pads.length && board.pads[at]!.timer === used) at++;
    }
    wasMotor = isMotor(id);
    const pad = board.pads[at++];
    if (!pad) break;
    out.set(pad.output, id);
  }
  return out;
}

/** The settings of those outputs: what each drives, and the rate of each timer. */
export function outputSettings(airframe: Airframe, board: BoardDescription): Record<string, SettingValue> {
  const settings: Record<string, SettingValue> = {};
  const outputs = usualOutputs(airframe, board);
  const fast = isRotorcraft(airframe);
  for (const pad of board.pads) {
    const id = outputs.get(pad.output);
    settings[`out.${pad.output}.drives`] = id ?? 'nothing';
    settings[`out.${pad.output}.reversed`] = false;
    if (id) settings[`timer.${pad.timer}.rate`] = fast && isMotor(id) ? '400' : '50';
  }
  return settings;
}
