import { type LoggedStep, stepFromLog } from '#core/analysis/stepResponse.ts';
import { Random } from '#core/math/random.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';

export type StepFlown =
  | {
      readonly kind: 'flown';
      readonly step: LoggedStep;
      readonly speedMps: number /** Root mean square of what was asked, rad/s: servos follow a little faster than a lot. */;
      readonly askedRms: number;
    }
  | { readonly kind: 'refused'; readonly why: string };

/** So high over home it begins, m, and so long it is flown, s. */
const HEIGHT_M = 300;
const LASTS_S = 60;
/** A stick about one axis is put somewhere else so often, s, and no farther than this of its way. */
const EVERY_S = 0.6;
const FARTHEST = 0.7;
/** Nearer to the ground than this nothing is learnt any more, m. */
const LOWEST_M = 20;
const LEAST_ASKED = 3 * DEG;
const RATE_HZ = 1000;

/**
 * The craft in still air over home, its stick about one axis thrown about at random, and out of what its board logged at every step the
 * answer: as a flight would show it.
 */
export function flyStep(input: RehearsalInput, axis: Axis): StepFlown {
  const { scenario: s } = input;
  const { craft, result } = new Rehearsal({
    ...input,
    scenario: {
      ...s,
      wind: { ...s.wind, speedMps: 0, gustMps: 0 },
      outbound: { bearingDeg: s.outbound.bearingDeg, distanceM: 0, heightM: HEIGHT_M, begins: 'there' },
      events: [],
    },
  });
  if (result) return { kind: 'refused', why: result.reason };
  const { controller } = craft.pfad;
  if (controller.mode === 'manual')
    return {
      kind: 'refused',
      why: 'No position of its switches flies it by its loops, so none of them answers.',
    };
  const random = new Random(s.seed);
  const i = { roll: 0, pitch: 1, yaw: 2 }[axis];
  const steps = LASTS_S * RATE_HZ;
  const [asked, came] = [new Float64Array(steps), new Float64Array(steps)];
  const every = EVERY_S * RATE_HZ;
  let speed = 0;
  let k = 0;
  for (; k < steps && craft.aboveGround > LOWEST_M; k++) {
    if (k % every === 0) craft.radio[axis] = 2 * FARTHEST * (random.uniform() - 0.5);
    craft.step();
    asked[k] = controller.loops.wanted[i]!;
    came[k] = controller.attitude.rates[i]!;
    speed += controller.airspeed;
  }
  const told = stepFromLog(
    [{ asked: asked.subarray(0, k), came: came.subarray(0, k) }],
    RATE_HZ,
    LEAST_ASKED,
  );
  if (!told.ok)
    return { kind: 'refused', why: `It was flown for ${Math.round(k / RATE_HZ)} s, but ${told.why}.` };
  const square = asked.reduce((sum, x) => sum + x * x, 0) / k;
  return { kind: 'flown', step: told.step, speedMps: speed / k, askedRms: Math.sqrt(square) };
}
