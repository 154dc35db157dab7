import { type ActuatorId, type Airframe, isMotor } from '../airframe/airframe.ts';
import { directionWords, roleMix } from '../mixer/roles.ts';
import type { Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import { type Seen, type Tilt, tilts } from './proofs.ts';

export type FirstMove = Extract<Seen, { kind: 'moved' }>['first'];

/**
 * Edits that follow from "this output moved that, and it went this way first". The board moves towards the
 * long pulse first, which on an output not reversed is trailing edge down (rudder: left). Another output that
 * claimed the same actuator lets go of it, unless it has been seen to move it itself.
 */
export function editsFromAnswer(
  values: Values,
  output: number,
  actuator: ActuatorId,
  first: FirstMove,
  seenOn: ReadonlyMap<ActuatorId, number>,
): Edits {
  const edits: Record<string, string | boolean> = { [`out.${output}.drives`]: actuator };
  if (!isMotor(actuator)) edits[`out.${output}.reversed`] = first !== directionWords(actuator)[0];
  for (const [key, value] of Object.entries(values)) {
    const other = /^out\.(\d+)\.drives$/.exec(key)?.[1];
    if (!other || Number(other) === output || value !== actuator) continue;
    if (seenOn.get(actuator) === Number(other) && Number(other) !== output) continue;
    edits[key] = 'nothing';
  }
  return edits;
}

/** Edits that follow from "nothing moved": the output drives nothing. */
export function editsFromStill(output: number): Edits {
  return { [`out.${output}.drives`]: 'nothing' };
}

/** What a surface has to do when the craft is tilted and the board levels it: the way that opposes the tilt. */
export function opposingDirection(surface: ActuatorId, tilt: Tilt): 'up' | 'down' | null {
  const mix = roleMix(surface, 'conventional');
  // Against a bank to the right the command is roll left; against a raised nose it is pitch down.
  const command = {
    'roll-right': -mix.roll,
    'roll-left': mix.roll,
    'nose-up': -mix.pitch,
    'nose-down': mix.pitch,
  };
  const d = command[tilt];
  return d === 0 ? null : d > 0 ? 'down' : 'up';
}

/** Whether anything on the craft moves against a tilt while its motors are off. */
export function answersTilt(airframe: Airframe): boolean {
  return airframe.surfaces.some((s) => tilts.some((t) => opposingDirection(s.id, t) !== null));
}
