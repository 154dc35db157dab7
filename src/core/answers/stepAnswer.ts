import { RateLoop } from '../control/rateLoop.ts';
import { clamp } from '../math/scalar.ts';
import { LOOP_S, type Loop } from './chain.ts';

/** How a rate goes on after something sudden, sampled every 1/SAMPLES_HZ. */
export interface StepAnswer {
  readonly stepS: number;
  /** rad/s, the first at the moment of the change. */
  readonly rates: Float64Array;
  /** Share of full command where surfaces or motors stand. */
  readonly commands: Float64Array;
}

/** A step of the firmware each. */
const EVERY = 5;

/**
 * The loop answers a rate that is asked for suddenly, or a push: in steps of the firmware, with its own controller and filters, pulses as
 * they come, servos no faster than they are and full command as the most there is.
 * @param asked rad/s. @param push turning acceleration from outside, rad/s^2
 * @param late how much of the time between two pulses passes until the next one: half of it on average
 */
export function answerTo(loop: Loop, asked: number, push: number, seconds: number, late = 0.5): StepAnswer {
  const { model, gains } = loop;
  const controller = new RateLoop(gains, loop.sumLimit, loop.dCutoffHz, LOOP_S);
  const filters = loop.filters.map((f) => f.make());
  const steps = Math.round(seconds / LOOP_S);
  const wait = Math.round(loop.waitS / LOOP_S);
  const reach = loop.slew * LOOP_S;
  const rates = new Float64Array(Math.floor(steps / EVERY) + 1);
  const commands = new Float64Array(rates.length);
  const { states, byCommand } = model;
  const now = new Float64Array(states.length);
  const slopes = new Float64Array(states.length);
  let [pulse, stands] = [0, 0];
  controller.demand = asked;
  controller.speedRatio = loop.ratio;
  const first = Math.floor(wait * late) % wait;
  for (let k = 0; k <= steps; k++) {
    if (k % EVERY === 0) {
      rates[k / EVERY] = now[0]!;
      commands[k / EVERY] = stands;
    }
    let felt = now[0]!;
    for (const f of filters) felt = f.step(felt);
    controller.rate = felt;
    controller.step(false);
    const sent = pulse;
    if (k % wait === first) pulse = controller.output;
    stands += clamp(sent - stands, -reach, reach);
    for (let i = 0; i < now.length; i++) {
      let slope = byCommand[i]! * stands + (i === 0 ? push : 0);
      for (let j = 0; j < now.length; j++) slope += states[i]![j]! * now[j]!;
      slopes[i] = slope;
    }
    for (let i = 0; i < now.length; i++) now[i]! += LOOP_S * slopes[i]!;
  }
  return { stepS: EVERY * LOOP_S, rates, commands };
}

/** What an answer to a rate asked for is like. */
export interface StepFigures {
  /** From a tenth to nine tenths of what it comes to, s; NaN where it does not get there. */
  readonly riseS: number;
  /** From the wish to half of what it comes to, s. */
  readonly delayS: number;
  /** Above what was asked, share of it. */
  readonly overshoot: number;
  /** Of what was asked, at the end. */
  readonly reaches: number;
  /** From when on it stays within a tenth of what it comes to, s; NaN where it never does. */
  readonly settlesS: number;
}

/** @param asked rad/s, not zero */
export function figuresOf({ rates, stepS }: StepAnswer, asked: number): StepFigures {
  const share = (k: number) => rates[k]! / asked;
  const last = rates.length - 1;
  const tail = Math.max(1, Math.floor(last / 10));
  let end = 0;
  for (let k = last - tail + 1; k <= last; k++) end += share(k) / tail;
  const crosses = (level: number) => {
    for (let k = 1; k <= last; k++) {
      if (share(k) < level) continue;
      const [a, b] = [share(k - 1), share(k)];
      return stepS * (k - 1 + (b > a ? (level - a) / (b - a) : 0));
    }
    return Number.NaN;
  };
  let [most, settled] = [0, Number.NaN];
  for (let k = 0; k <= last; k++) most = Math.max(most, share(k));
  for (let k = last; k >= 0; k--) {
    if (Math.abs(share(k) - end) > 0.1 * Math.abs(end)) break;
    settled = k * stepS;
  }
  return {
    riseS: crosses(0.9 * end) - crosses(0.1 * end),
    delayS: crosses(0.5 * end),
    overshoot: Math.max(0, most - 1),
    reaches: end,
    settlesS: settled,
  };
}
