import { clamp } from '#core/math/scalar.ts';
import { type StickShape, stickDemand } from '#core/modes/stickShape.ts';
import type { Config } from './config.ts';

/** Stick demands of the pilot: -1..1 (throttle 0..1), roll right, pitch up, yaw right positive. */
export class Sticks {
  roll = 0;
  pitch = 0;
  yaw = 0;
  throttle = 0;
  private markRoll = 0;
  private markPitch = 0;
  private markYaw = 0;
  private markThrottle = 0;

  read(channels: Float64Array, rx: Config['rx']): void {
    this.roll = centred(channels, rx.roll, rx.shapes.roll);
    this.pitch = rx.pitchSign * centred(channels, rx.pitch, rx.shapes.pitch);
    this.yaw = centred(channels, rx.yaw, rx.shapes.yaw);
    const { throttleLow: low, throttleHigh: high } = rx;
    const us = rx.throttle >= 1 ? channels[rx.throttle - 1]! : low;
    this.throttle = clamp((us - low) / (high - low), 0, 1);
  }

  centre(): void {
    this.roll = 0;
    this.pitch = 0;
    this.yaw = 0;
  }

  /** Remembers where the sticks are, for `shift`. */
  mark(): void {
    this.markRoll = this.roll;
    this.markPitch = this.pitch;
    this.markYaw = this.yaw;
    this.markThrottle = this.throttle;
  }

  /** Greatest movement since `mark`, 0..2. */
  shift(): number {
    return Math.max(
      Math.abs(this.roll - this.markRoll),
      Math.abs(this.pitch - this.markPitch),
      Math.abs(this.yaw - this.markYaw),
      Math.abs(this.throttle - this.markThrottle),
    );
  }
}

function centred(channels: Float64Array, channel: number, shape: StickShape): number {
  return channel < 1 ? 0 : stickDemand(channels[channel - 1]!, shape);
}
