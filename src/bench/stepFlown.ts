import { type LoggedStep, type Stretch, stepFromLog } from '#core/analysis/stepResponse.ts';
import type { WhyRatesOther } from '#core/answers/loggedAnswer.ts';
import { LEAST_ASKED, whyRatesOther } from '#core/answers/loggedAnswer.ts';
import { describeBoard } from '#core/board/describe.ts';
import { Random } from '#core/math/random.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';

export interface StepFlown {
  readonly step: LoggedStep;
  /** Mean, through the air. */
  readonly speedMps: number;
  /** So long it was flown. */
  readonly seconds: number;
  /** Size of what was asked, rad/s, each by its own power, as the answer weighs it: servos follow a little faster than a lot. */
  readonly askedSize: number;
  /** Why it flew otherwise than promised, as far as it did. */
  readonly why: WhyRatesOther | null;
}

/** A flight with a stick thrown about, as its board measured it at every step. */
interface ThrownAbout extends Stretch {
  readonly speedMps: number;
  /** Share of the time that the command about the axis stood at its end. */
  readonly atEnd: number;
}

export type Refused = { readonly refused: string };

/** So high over home it begins, m, and so long it is flown, s. */
const HEIGHT_M = 300;
const LASTS_S = 60;
/** A stick about one axis is put somewhere else so often, s, for a while no farther than the one share of its way, then the other. */
const EVERY_S = 0.6;
const FARTHEST = [0.7, 0.15] as const;
const WHILE_S = 6;
/** Nearer to the ground than this nothing is learnt any more, m. */
const LOWEST_M = 20;
/** A command as large as this is at its end. */
const AT_END = 0.97;
/** Of its samples: the firmware's own steps. */
export const THROWN_HZ = 1000;

/**
 * The craft over home, its stick about one axis thrown about at random, far and then little.
 * @param gustMps of gusts; still air where left out
 */
export function throwAbout(input: RehearsalInput, axis: Axis, gustMps = 0): ThrownAbout | Refused {
  const { scenario: s } = input;
  const { craft, result } = new Rehearsal({
    ...input,
    scenario: {
      ...s,
      wind: { ...s.wind, speedMps: 0, gustMps },
      outbound: { bearingDeg: s.outbound.bearingDeg, distanceM: 0, heightM: HEIGHT_M, begins: 'there' },
      events: [],
    },
  });
  if (result) return { refused: result.reason };
  const { controller } = craft.pfad;
  if (controller.mode === 'manual')
    return { refused: 'No position of its switches flies it by its loops, so none of them answers.' };
  const random = new Random(s.seed);
  const i = { roll: 0, pitch: 1, yaw: 2 }[axis];
  const steps = LASTS_S * THROWN_HZ;
  const [asked, came] = [new Float64Array(steps), new Float64Array(steps)];
  const every = EVERY_S * THROWN_HZ;
  let [speed, ends] = [0, 0];
  let k = 0;
  for (; k < steps && craft.aboveGround > LOWEST_M; k++) {
    const farthest = FARTHEST[Math.floor(k / (WHILE_S * THROWN_HZ)) % 2]!;
    if (k % every === 0) craft.radio[axis] = 2 * farthest * (random.uniform() - 0.5);
    craft.step();
    asked[k] = controller.loops.wanted[i]!;
    came[k] = controller.attitude.rates[i]!;
    speed += controller.airspeed;
    if (Math.abs(controller.command[axis]) > AT_END) ends++;
  }
  return { asked: asked.subarray(0, k), came: came.subarray(0, k), speedMps: speed / k, atEnd: ends / k };
}

/** The answer of one axis out of such a flight, as a log would show it, and why it is not the one that was promised. */
export function flyStep(input: RehearsalInput, axis: Axis): StepFlown | Refused {
  const flown = throwAbout(input, axis);
  if ('refused' in flown) return flown;
  const { asked, speedMps } = flown;
  const told = stepFromLog([flown], THROWN_HZ, LEAST_ASKED);
  if (!told.ok)
    return { refused: `It was flown for ${Math.round(asked.length / THROWN_HZ)} s, but ${told.why}.` };
  const craft = { ...input, pads: describeBoard(input.board).pads };
  let [square, fourth] = [0, 0];
  for (const x of asked) {
    square += x * x;
    fourth += x ** 4;
  }
  return {
    step: told.step,
    speedMps,
    seconds: asked.length / THROWN_HZ,
    askedSize: Math.sqrt(fourth / square),
    why: whyRatesOther(craft, axis, speedMps, { stretches: [flown], rateHz: THROWN_HZ }),
  };
}
