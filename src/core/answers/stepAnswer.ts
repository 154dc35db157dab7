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
 * A loop that runs, in steps of the firmware: with its own controller and filters, pulses as they come, servos no faster than they are,
 * what is loose in their rods, and full command as the most there is.
 */
export class LoopRun {
  /** What it turns at, rad/s, and where surfaces or motors stand, share of full command. */
  rate = 0;
  command = 0;
  private readonly controller: RateLoop;
  private readonly filters;
  private readonly now: Float64Array;
  private readonly slopes: Float64Array;
  private readonly states: Float64Array;
  private readonly byCommand: Float64Array;
  private readonly wait: number;
  private readonly first: number;
  private readonly reach: number;
  /** What was decided and has not arrived yet, the oldest at `oldest`. */
  private readonly way: Float64Array;
  private oldest = 0;
  private pulse = 0;
  private servo = 0;
  private k = 0;

  /** @param late how much of the time between two pulses passes until the next one: half of it on average */
  constructor(
    private readonly loop: Loop,
    late = 0.5,
  ) {
    this.controller = new RateLoop(loop.gains, loop.shape, loop.shape.everySteps * LOOP_S);
    this.controller.gainBy = loop.times.gain;
    this.controller.forwardBy = loop.times.forward;
    this.filters = loop.filters.map((f) => f.make());
    this.now = new Float64Array(loop.model.states.length);
    this.slopes = new Float64Array(this.now.length);
    this.states = Float64Array.from(loop.model.states.flat());
    this.byCommand = Float64Array.from(loop.model.byCommand);
    this.wait = Math.round(loop.waitS / LOOP_S);
    this.first = Math.floor(this.wait * late) % this.wait;
    this.reach = loop.slew * LOOP_S;
    this.way = new Float64Array(1 + Math.round(loop.lateS / LOOP_S));
  }

  /** @param asked rad/s. @param push turning acceleration from outside, rad/s^2 */
  step(asked: number, push: number): void {
    const { now, slopes, controller, way } = this;
    let felt = now[0]!;
    for (const f of this.filters) felt = f.step(felt);
    if (this.k % this.loop.shape.everySteps === 0) {
      controller.demand = asked;
      controller.rate = felt;
      controller.step(false);
    }
    const sent = way[this.oldest]!;
    if (this.k++ % this.wait === this.first) this.pulse = controller.output;
    way[this.oldest] = this.pulse;
    this.oldest = (this.oldest + 1) % way.length;
    this.servo += clamp(sent - this.servo, -this.reach, this.reach);
    const loose = this.loop.play / 2;
    this.command = clamp(this.command, this.servo - loose, this.servo + loose);
    const { states, byCommand } = this;
    const n = now.length;
    for (let i = 0; i < n; i++) {
      let slope = byCommand[i]! * this.command;
      for (let j = 0; j < n; j++) slope += states[i * n + j]! * now[j]!;
      slopes[i] = slope;
    }
    slopes[0]! += push;
    for (let i = 0; i < n; i++) now[i]! += LOOP_S * slopes[i]!;
    this.rate = now[0]!;
  }
}

/**
 * The loop answers a rate that is asked for suddenly, or a push.
 * @param asked rad/s. @param push turning acceleration from outside, rad/s^2. @param late as `LoopRun`
 */
export function answerTo(loop: Loop, asked: number, push: number, seconds: number, late = 0.5): StepAnswer {
  const run = new LoopRun(loop, late);
  const points = Math.floor(Math.round(seconds / LOOP_S) / EVERY);
  const rates = new Float64Array(points + 1);
  const commands = new Float64Array(points + 1);
  for (let k = 1; k <= points; k++) {
    for (let i = 0; i < EVERY; i++) run.step(asked, push);
    rates[k] = run.rate;
    commands[k] = run.command;
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
