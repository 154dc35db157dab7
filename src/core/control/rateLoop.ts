import { clamp } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { LowPass } from './lowPass.ts';

/** Gains of one axis in share of full surface per rad/s (D: per rad/s^2, I: per rad) at the reference speed. */
export interface RateGains {
  readonly feedForward: number;
  readonly proportional: number;
  readonly integral: number;
  readonly derivative: number;
}

/** What all rate loops of a craft share besides their gains. */
export interface LoopShape {
  /** How much of the surface the I part may use, share. */
  readonly sumLimit: number;
  /** Cut-off of the low-pass before D, of each of its poles, Hz. */
  readonly dCutoffHz: number;
  readonly dPoles: number;
  /** What is asked is smoothed by this before the feed-forward, s; and its slope for so long is added, s. 0 for neither. */
  readonly forwardLagS: number;
  readonly forwardLeadS: number;
  /** Steps of the firmware from one time that loops are worked out to the next. */
  readonly everySteps: number;
}

/** As a board is set; firmware before 3.2 has one pole, takes what is asked as it comes, and loops in every step. */
export function loopShapeOf(values: Values): LoopShape {
  const s = settingsOf(values);
  return {
    sumLimit: s.number('rate.sumLimit'),
    dCutoffHz: s.number('rate.dCutoff'),
    dPoles: settingOf(values, 'rate.dPoles') ?? 1,
    forwardLagS: settingOf(values, 'rate.forwardLag') ?? 0,
    forwardLeadS: settingOf(values, 'rate.forwardLead') ?? 0,
    everySteps: Math.round(1000 / Number(settingOf(values, 'loop.rate') ?? '1000')),
  };
}

/** Rate loop of one axis. Its gains and its feed-forward are multiplied as the gain law says (`gainLaw.ts`). */
export class RateLoop {
  /** What is asked for and what is measured, rad/s, and what gains are multiplied by. Set before `step`: numbers given to a call go on the heap. */
  demand = 0;
  rate = 0;
  gainBy = 1;
  forwardBy = 1;
  /** Share of full surface that the last step gave, -1..1. */
  output = 0;
  /** What the I part has summed up, share of full surface at the reference. */
  sum = 0;
  private last = 0;
  private readonly slope: LowPass;
  private readonly slope2: LowPass | null;
  private readonly forwardBack: number;
  private asked = 0;

  constructor(
    private readonly gains: RateGains,
    private readonly shape: LoopShape,
    private readonly dt: number,
  ) {
    this.slope = new LowPass(shape.dCutoffHz, dt);
    this.slope2 = shape.dPoles > 1 ? new LowPass(shape.dCutoffHz, dt) : null;
    this.forwardBack = dt / Math.max(dt, shape.forwardLagS);
  }

  /** @param hold keeps the integral at rest (on the ground) */
  step(hold: boolean): void {
    const { demand, rate, gainBy } = this;
    const error = demand - rate;
    const g = this.gains;
    let slope = 0;
    if (g.derivative !== 0) {
      slope = this.slope.step((rate - this.last) / this.dt);
      if (this.slope2) slope = this.slope2.step(slope);
    }
    this.last = rate;
    const straight =
      g.feedForward * this.ahead() * this.forwardBy +
      gainBy * (g.proportional * error - g.derivative * slope);
    const next = this.sum + g.integral * error * this.dt;
    const out = straight + gainBy * next;
    // The sum stands still while the surface is at its stop and the error pushes further.
    if (hold) this.sum = 0;
    else if ((out < 1 || error < 0) && (out > -1 || error > 0)) {
      this.sum = clamp(next, -this.shape.sumLimit, this.shape.sumLimit);
    }
    this.output = clamp(straight + gainBy * this.sum, -1, 1);
  }

  /** What is asked, as the feed-forward takes it: smoothed, and ahead of itself by its slope. */
  private ahead(): number {
    const { demand, shape } = this;
    const before = this.asked;
    this.asked = shape.forwardLagS > 0 ? before + this.forwardBack * (demand - before) : demand;
    if (shape.forwardLeadS === 0) return this.asked;
    return this.asked + (shape.forwardLeadS * (this.asked - before)) / this.dt;
  }

  reset(): void {
    this.sum = 0;
    this.asked = 0;
    this.slope.reset();
    this.slope2?.reset();
  }
}
