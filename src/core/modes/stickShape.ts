import { clamp } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** How a board takes a stick: pulses of its ends and middle, what is taken for rest about it, us; how soft it is there, 0..0.9. */
export interface StickShape {
  readonly low: number;
  readonly middle: number;
  readonly high: number;
  readonly deadband: number;
  readonly expo: number;
}

/** The shape of a stick that springs back, as a board is set. */
export function stickShapeOf(values: Values, stick: 'roll' | 'pitch' | 'yaw'): StickShape {
  const { number } = settingsOf(values);
  return {
    low: number(`rx.${stick}.low`),
    middle: number(`rx.${stick}.middle`),
    high: number(`rx.${stick}.high`),
    deadband: number('rx.deadband'),
    expo: number('rx.expo'),
  };
}

/** Demand of a stick that springs back, -1..1: nothing within the deadband, then x (1 - e) + e x^3 of what is left. */
export function stickDemand(us: number, s: StickShape): number {
  const off = us - s.middle;
  if (Math.abs(off) <= s.deadband) return 0;
  const span = off > 0 ? s.high - s.middle : s.middle - s.low;
  const x = clamp((off - Math.sign(off) * s.deadband) / (span - s.deadband), -1, 1);
  return x * (1 - s.expo) + s.expo * x * x * x;
}
