/** Who goes next over a narrow way: each is due by its own rate, and all together take no more than there is room for. */
export class NarrowWay {
  private readonly due: Float64Array;
  private saved = 0;

  /**
   * @param bytes of each at most
   * @param hz how often each is wanted; nought for never
   * @param room bytes a second
   */
  constructor(
    private readonly bytes: readonly number[],
    private readonly hz: readonly number[],
    private readonly room: number,
  ) {
    this.due = new Float64Array(bytes.length);
  }

  /** @returns who goes now, or -1 for nobody. Allocates nothing. */
  step(dt: number): number {
    // What is not used is saved for the largest of them and no longer, so that no second takes more than its room.
    let largest = 0;
    for (let i = 0; i < this.bytes.length; i++)
      if (this.hz[i]! > 0) largest = Math.max(largest, this.bytes[i]!);
    this.saved = Math.min(largest, this.saved + this.room * dt);
    let next = -1;
    let late = 0;
    for (let i = 0; i < this.due.length; i++) {
      const hz = this.hz[i]!;
      if (hz <= 0) continue;
      // In periods of its own; who waited longest by that goes first, and nobody gathers more than a few.
      this.due[i] = Math.min(4, this.due[i]! + dt * hz);
      if (this.due[i]! >= 1 && this.due[i]! > late) {
        late = this.due[i]!;
        next = i;
      }
    }
    if (next < 0 || this.saved < this.bytes[next]!) return -1;
    this.saved -= this.bytes[next]!;
    this.due[next]! -= 1;
    if (this.due[next]! > 1) this.due[next] = 1;
    return next;
  }
}
