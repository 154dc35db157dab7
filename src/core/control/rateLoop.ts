import { clamp } from '../math/scalar.ts';
import { LowPass } from './lowPass.ts';

/** Gains of one axis in share of full surface per rad/s (D: per rad/s^2, I: per rad) at the reference speed. */
export interface RateGains {
  readonly feedForward: number;
  readonly proportional: number;
  readonly integral: number;
  readonly derivative: number;
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
  private sum = 0;
  private last = 0;
  private readonly slope: LowPass;

  constructor(
    private readonly gains: RateGains,
    private readonly integralLimit: number,
    derivativeCutoffHz: number,
    private readonly dt: number,
  ) {
    this.slope = new LowPass(derivativeCutoffHz, dt);
  }

  /** @param hold keeps the integral at rest (on the ground) */
  step(hold: boolean): void {
    const { demand, rate, gainBy } = this;
    const error = demand - rate;
    const g = this.gains;
    const slope = g.derivative === 0 ? 0 : this.slope.step((rate - this.last) / this.dt);
    this.last = rate;
    const straight =
      g.feedForward * demand * this.forwardBy + gainBy * (g.proportional * error - g.derivative * slope);
    const next = this.sum + g.integral * error * this.dt;
    const out = straight + gainBy * next;
    // The sum stands still while the surface is at its stop and the error pushes further.
    if (hold) this.sum = 0;
    else if ((out < 1 || error < 0) && (out > -1 || error > 0)) {
      this.sum = clamp(next, -this.integralLimit, this.integralLimit);
    }
    this.output = clamp(straight + gainBy * this.sum, -1, 1);
  }

  reset(): void {
    this.sum = 0;
    this.slope.reset();
  }
}
