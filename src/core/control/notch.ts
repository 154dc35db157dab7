import { type Complex, complex, over, plus, polar, scaled } from '../math/complex.ts';

/**
 * Second-order notch by the bilinear transform (Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter
 * coefficients", 1998), direct form II transposed. A centre of zero lets everything through.
 */
export class Notch {
  private b0 = 1;
  private b1 = 0;
  private b2 = 0;
  private a1 = 0;
  private a2 = 0;
  private s1 = 0;
  private s2 = 0;

  constructor(
    centreHz: number,
    private readonly q: number,
    private readonly dt: number,
  ) {
    this.tune(centreHz);
  }

  /** Moves the notch; its memory stays, so that it can follow a motor. */
  tune(centreHz: number): void {
    if (!(centreHz > 0) || centreHz >= 0.45 / this.dt) {
      this.b0 = 1;
      this.b1 = 0;
      this.b2 = 0;
      this.a1 = 0;
      this.a2 = 0;
      return;
    }
    const w = 2 * Math.PI * centreHz * this.dt;
    const alpha = Math.sin(w) / (2 * this.q);
    const a0 = 1 + alpha;
    this.b0 = 1 / a0;
    this.b1 = (-2 * Math.cos(w)) / a0;
    this.b2 = 1 / a0;
    this.a1 = this.b1;
    this.a2 = (1 - alpha) / a0;
  }

  /** What it makes of a steady swing: (b0 + b1 z^-1 + b2 z^-2)/(1 + a1 z^-1 + a2 z^-2). @param hz below half the rate */
  at(hz: number): Complex {
    const one = polar(1, -2 * Math.PI * hz * this.dt);
    const two = polar(1, -4 * Math.PI * hz * this.dt);
    const top = plus(complex(this.b0), plus(scaled(one, this.b1), scaled(two, this.b2)));
    return over(top, plus(complex(1), plus(scaled(one, this.a1), scaled(two, this.a2))));
  }

  step(x: number): number {
    const y = this.b0 * x + this.s1;
    this.s1 = this.b1 * x - this.a1 * y + this.s2;
    this.s2 = this.b2 * x - this.a2 * y;
    return y;
  }
}
