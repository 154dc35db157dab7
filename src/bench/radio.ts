import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Readings } from '#firmware/readings.ts';

const FRAME_S = 0.02;

/** The transmitter in the pilot's hands and the receiver on the craft, which falls silent when the link is lost. */
export class Radio {
  /** Transmitter switched on and in reach. */
  on = true;
  /** -1..1; pitch positive is pulled back. Throttle 0..1. */
  roll = 0;
  pitch = 0;
  yaw = 0;
  throttle = 0;
  arm = false;
  /** Three positions: 0, 1, 2. */
  attitude: 0 | 1 | 2 = 0;
  returnHome = false;
  private due = 0;

  constructor(private readonly channels: BenchTruth['channels']) {}

  step(r: Readings, powered: boolean, dt: number): void {
    r.receiverFresh = false;
    this.due -= dt;
    if (this.due > 0) return;
    this.due += FRAME_S;
    if (!this.on || !powered) {
      r.linkQuality = 0;
      return;
    }
    const c = this.channels;
    r.channels[c.roll - 1] = 1500 + 500 * this.roll;
    r.channels[c.pitch - 1] = 1500 + 500 * this.pitch;
    r.channels[c.yaw - 1] = 1500 + 500 * this.yaw;
    r.channels[c.throttle - 1] = 1000 + 1000 * this.throttle;
    r.channels[c.arm - 1] = this.arm ? 2000 : 1000;
    r.channels[c.attitude - 1] = 1000 + 500 * this.attitude;
    r.channels[c.navigation - 1] = this.returnHome ? 2000 : 1000;
    r.linkQuality = 0.98;
    r.receiverFresh = true;
  }
}
