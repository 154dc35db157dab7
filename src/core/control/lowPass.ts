/** One-pole low-pass, k = dt/(dt + 1/(2 pi f_c)). A cut-off of zero lets everything through. */
export class LowPass {
  value = 0;
  private readonly k: number;

  constructor(cutoffHz: number, dt: number) {
    this.k = cutoffHz > 0 ? dt / (dt + 1 / (2 * Math.PI * cutoffHz)) : 1;
  }

  step(input: number): number {
    this.value += this.k * (input - this.value);
    return this.value;
  }

  reset(value = 0): void {
    this.value = value;
  }
}
