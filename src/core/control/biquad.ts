import { type Complex, complex, over, plus, polar, scaled } from '../math/complex.ts';

/**
 * Second-order filter (b0 + b1 z^-1 + b2 z^-2)/(1 + a1 z^-1 + a2 z^-2), direct form II transposed (Oppenheim and Schafer,
 * "Discrete-Time Signal Processing", 6.3). Until it is set it lets everything through. What stands in it stays when it is set anew.
 */
export class Biquad {
  private b0 = 1;
  private b1 = 0;
  private b2 = 0;
  private a1 = 0;
  private a2 = 0;
  private s1 = 0;
  private s2 = 0;

  constructor(protected readonly dt: number) {}

  protected set(b0: number, b1: number, b2: number, a1: number, a2: number): void {
    this.b0 = b0;
    this.b1 = b1;
    this.b2 = b2;
    this.a1 = a1;
    this.a2 = a2;
  }

  step(x: number): number {
    const y = this.b0 * x + this.s1;
    this.s1 = this.b1 * x - this.a1 * y + this.s2;
    this.s2 = this.b2 * x - this.a2 * y;
    return y;
  }

  /** What it makes of a steady swing. @param hz below half the rate */
  at(hz: number): Complex {
    const one = polar(1, -2 * Math.PI * hz * this.dt);
    const two = polar(1, -4 * Math.PI * hz * this.dt);
    const top = plus(complex(this.b0), plus(scaled(one, this.b1), scaled(two, this.b2)));
    return over(top, plus(complex(1), plus(scaled(one, this.a1), scaled(two, this.a2))));
  }
}
