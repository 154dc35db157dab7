import { clamp } from '#core/math/scalar.ts';
import type { Command } from './outputs.ts';
import type { Readings } from './readings.ts';
import type { Sticks } from './sticks.ts';

/** Tilted by more than this it lies on its back; by less than that gravity does the rest, rad. */
const ON_ITS_BACK = (110 * Math.PI) / 180;
const UPRIGHT_AGAIN = (85 * Math.PI) / 180;
/** So fast it may turn over, rad/s. */
const OVER_RATE = 4;

type Wires = Readings['controllers'];
type Driven = readonly { readonly isMotor: boolean; readonly frames: boolean }[];

/** Whether a craft lies on its back with every rotor on a wire that can be told to turn backwards. @param tilt rad */
export function canTurnOver(tilt: number, outputs: Driven, wires: Wires): boolean {
  if (tilt < ON_ITS_BACK) return false;
  return outputs.every(
    (o, i) => !o.isMotor || (o.frames && wires.some((w) => w.output === i + 1 && w.answers)),
  );
}

/** Has all rotors turn backwards, or as they fly. */
export function turnRound(wires: Wires, backwards: boolean): void {
  for (const w of wires) w.turnRound(backwards);
}

/**
 * What the stick asks of a craft that turns over: over its edge nothing pushes it on, and the other side holds against a turn that is
 * too fast, or it would go round and round.
 * @param tilt rad @param rates rad/s, body axes
 */
export function turnOverCommand(sticks: Sticks, tilt: number, rates: ArrayLike<number>, out: Command): void {
  const push = tilt > UPRIGHT_AGAIN ? 1 : 0;
  out.roll = clamp(push * sticks.roll - rates[0]! / OVER_RATE, -1, 1);
  out.pitch = clamp(push * sticks.pitch - rates[1]! / OVER_RATE, -1, 1);
  out.yaw = 0;
  out.throttle = 0;
}
