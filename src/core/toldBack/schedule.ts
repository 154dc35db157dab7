/** Sends that are looked back at; in a second there are fewer. */
const MOST_SENDS = 256;
const WINDOW_S = 1;
/** Nobody gathers more than so many of its periods while it waits. */
const MOST_DUE = 4;

/** Who goes next over a narrow way: each is due by its own rate, and in no second all together take more than there is room for. */
export class NarrowWay {
  private readonly due: Float64Array;
  private nowS = 0;
  /** When what was sent in the last second went, and how much it was: a ring. */
  private readonly sentS = new Float64Array(MOST_SENDS);
  private readonly sentBytes = new Float64Array(MOST_SENDS);
  private first = 0;
  private count = 0;
  private inWindow = 0;

  /**
   * @param bytes of each at most; none more than the room, or it never goes
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
    this.nowS += dt;
    while (this.count > 0 && this.nowS - this.sentS[this.first]! >= WINDOW_S - 1e-9) {
      this.inWindow -= this.sentBytes[this.first]!;
      this.first = (this.first + 1) % MOST_SENDS;
      this.count--;
    }
    let next = -1;
    let late = 0;
    for (let i = 0; i < this.due.length; i++) {
      const hz = this.hz[i]!;
      if (hz <= 0) continue;
      // In periods of its own; who waited longest by that goes first.
      this.due[i] = Math.min(MOST_DUE, this.due[i]! + dt * hz);
      if (this.due[i]! >= 1 && this.due[i]! > late) {
        late = this.due[i]!;
        next = i;
      }
    }
    if (next < 0 || this.count === MOST_SENDS || this.inWindow + this.bytes[next]! > this.room) return -1;
    const at = (this.first + this.count) % MOST_SENDS;
    this.sentS[at] = this.nowS;
    this.sentBytes[at] = this.bytes[next]!;
    this.count++;
    this.inWindow += this.bytes[next]!;
    this.due[next] = Math.min(1, this.due[next]! - 1);
    return next;
  }
}
