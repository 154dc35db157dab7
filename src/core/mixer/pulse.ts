import { clamp } from '../math/scalar.ts';

/** How one output turns its share of a command into a pulse. All in us. */
export interface OutputShape {
  readonly lowUs: number;
  readonly centreUs: number;
  readonly highUs: number;
  readonly reversed: boolean;
}

/** Pulse of a servo for a deflection in -1..1, positive trailing edge down (left on a rudder). */
export function servoPulse(shape: OutputShape, deflection: number): number {
  const d = clamp(shape.reversed ? -deflection : deflection, -1, 1);
  return d >= 0
    ? shape.centreUs + d * (shape.highUs - shape.centreUs)
    : shape.centreUs + d * (shape.centreUs - shape.lowUs);
}

/** Pulse of a motor for a duty in 0..1: low is stop. Reversal has no meaning for a controller's input. */
export function motorPulse(shape: OutputShape, duty: number): number {
  return shape.lowUs + clamp(duty, 0, 1) * (shape.highUs - shape.lowUs);
}

/** Deflection in -1..1 that a pulse asks for: the inverse of `servoPulse`. */
export function deflectionOfPulse(shape: OutputShape, pulseUs: number): number {
  const off = pulseUs - shape.centreUs;
  const d = off >= 0 ? off / (shape.highUs - shape.centreUs) : off / (shape.centreUs - shape.lowUs);
  return clamp(shape.reversed ? -d : d, -1.2, 1.2);
}
