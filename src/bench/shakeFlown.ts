import { isRotorcraft } from '#core/airframe/airframe.ts';
import { hoverOf } from '#core/airframe/performance.ts';
import { aloftOverHome } from '#core/formats/scenario.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';
import type { Refused } from './stepFlown.ts';

/** What a gyro said at every step of a flight over its throttle, before any filter. */
export interface ShakeFlown {
  /** rad/s about roll, pitch and yaw. */
  readonly gyro: readonly [Float64Array, Float64Array, Float64Array];
  /** 0 to 1 */
  readonly throttle: Float64Array;
  readonly rateHz: number;
}

const RATE_HZ = 1000;
const HEIGHT_M = 300;
const LASTS_S = 72;
const LOWEST_M = 20;
/** Wings: the lever goes once from one end to the other in so long, s. */
const SWEEP_S = 12;
/** Rotors: about their hover, so far and once to and fro in so long, s: they climb and sink by it. */
const SWING = 0.35;
const SWING_S = 6;

/** The craft over home in a little wind, its throttle brought from end to end and back, or about its hover, again and again. */
export function flyThrottles(input: RehearsalInput): ShakeFlown | Refused {
  const { scenario: s, airframe } = input;
  const { craft, result } = new Rehearsal({
    ...input,
    scenario: aloftOverHome(s, HEIGHT_M),
  });
  if (result) return { refused: result.reason };
  const { controller } = craft.pfad;
  const hover = isRotorcraft(airframe) ? hoverOf(airframe).throttle : 0;
  const steps = LASTS_S * RATE_HZ;
  const gyro = [0, 1, 2].map(() => new Float64Array(steps)) as [Float64Array, Float64Array, Float64Array];
  const throttle = new Float64Array(steps);
  let k = 0;
  for (; k < steps && craft.aboveGround > LOWEST_M; k++) {
    const at = k / RATE_HZ;
    craft.radio.throttle =
      hover > 0
        ? hover + SWING * Math.sin((2 * Math.PI * at) / SWING_S)
        : Math.abs(((at / SWEEP_S + 1) % 2) - 1);
    craft.step();
    const said = craft.devices.readings.imus[0].gyro;
    for (let i = 0; i < 3; i++) gyro[i]![k] = said[i]!;
    throttle[k] = controller.command.throttle;
  }
  const flown = (a: Float64Array) => a.subarray(0, k);
  return {
    gyro: [flown(gyro[0]), flown(gyro[1]), flown(gyro[2])],
    throttle: flown(throttle),
    rateHz: RATE_HZ,
  };
}
