import { type ActuatorId, isMotor, type SurfaceId } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { directionWords, goesNoWay, roleMix } from '../mixer/roles.ts';
import type { Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import { pushMore } from './rotorAnswers.ts';
import { type Seen, type Tilt, tilts } from './seen.ts';

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
  if (!isMotor(actuator) && !goesNoWay(actuator))
    edits[`out.${output}.reversed`] = first !== directionWords(actuator)[0];
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

/** Deflection that opposes a tilt or a turn, positive as on the panel model; 0 for a surface that has nothing to do with it. */
function opposing(surface: ActuatorId, tilt: Tilt): number {
  const mix = roleMix(surface, 'conventional');
  // Against a bank to the right the command is roll left; against a raised nose pitch down; against a turn to the right yaw left.
  return {
    'roll-right': -mix.roll,
    'roll-left': mix.roll,
    'nose-up': -mix.pitch,
    'nose-down': mix.pitch,
    'yaw-right': -mix.yaw,
    'yaw-left': mix.yaw,
  }[tilt];
}

/** What a surface has to do when the craft is tilted or turned and the board levels it: the way that opposes that, in a word. */
export function opposingDirection(surface: ActuatorId, tilt: Tilt): string | null {
  if (isMotor(surface)) return null;
  const d = opposing(surface, tilt);
  return d === 0 ? null : directionWords(surface)[d > 0 ? 0 : 1];
}

/** Less than this of its travel nobody sees, and none is a command. */
const LEAST_COMMAND = 0.03;

/** Surfaces that the board itself does not command against a tilt or a turn, by what it sends now. */
export function notCommandedAgainst(
  commanded: Partial<Record<ActuatorId, number>>,
  surfaces: readonly ActuatorId[],
  tilt: Tilt,
): ActuatorId[] {
  return surfaces.filter((id) => {
    const wanted = Math.sign(opposing(id, tilt));
    return wanted !== 0 && !((commanded[id] ?? 0) * wanted > LEAST_COMMAND);
  });
}

/** Surfaces that answer a tilt or a turn. */
export const surfacesAgainst = (airframe: Airframe, tilt: Tilt): SurfaceId[] =>
  airframe.surfaces.map((s) => s.id).filter((id) => opposingDirection(id, tilt) !== null);

/** Tilts and turns that the craft answers: by its surfaces, or by what the board would give its rotors. */
export function tiltsOf(airframe: Airframe): readonly Tilt[] {
  return tilts.filter(
    (t) =>
      surfacesAgainst(airframe, t).length > 0 || (isRotorcraft(airframe) && pushMore(airframe, t).length > 0),
  );
}
