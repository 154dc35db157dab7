import { type ActuatorId, isMotor } from '../airframe/airframe.ts';
import { directionWords } from '../mixer/roles.ts';
import type { Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import type { Seen } from './proofs.ts';

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
export function opposingDirection(
  surface: ActuatorId,
  tilt: 'roll-right' | 'roll-left' | 'nose-up' | 'nose-down',
): 'up' | 'down' | null {
  switch (surface) {
    case 'left-aileron':
      return tilt === 'roll-right' ? 'up' : tilt === 'roll-left' ? 'down' : null;
    case 'right-aileron':
      return tilt === 'roll-right' ? 'down' : tilt === 'roll-left' ? 'up' : null;
    case 'elevator':
      return tilt === 'nose-up' ? 'down' : tilt === 'nose-down' ? 'up' : null;
    default:
      return null;
  }
}
