import { readVideo, writeVideo } from '#core/video/transmitter.ts';
import type { FlightController } from './flightController.ts';

/** It is asked so often, s; an answer older than this is none. */
const EVERY_S = 0.5;
const OLD_S = 2;

/** Tells the video transmitter where to send, over the port that is for it; nobody is told where there is none. */
export class VideoControl {
  /** The wire to it. */
  onBytes: ((frame: Uint8Array) => void) | null = null;
  /** What it said last that it does. */
  told: { readonly mhz: number; readonly mw: number } | null = null;
  /** A port is set for it; the board says so. */
  byPort = false;
  asked = { mhz: 0, mw: 0 };
  private dueS = 0;
  private ageS = Number.POSITIVE_INFINITY;

  step(c: FlightController, dt: number): void {
    this.ageS += dt;
    if (this.ageS > OLD_S) this.told = null;
    this.dueS -= dt;
    if (this.dueS > 0) return;
    this.dueS += EVERY_S;
    const { video } = c.config;
    // Before it is armed least power serves, and does not heat it without air.
    const mw = video.quiet && !c.armed && !c.hasFlown ? Math.min(video.mw, video.leastMw) : video.mw;
    this.asked = { mhz: video.mhz, mw };
    if (this.byPort) this.onBytes?.(writeVideo(video.mhz, mw));
  }

  /** What comes from it. */
  receive(frame: Uint8Array): void {
    const said = readVideo(frame);
    if (!said) return;
    this.told = said;
    this.ageS = 0;
  }
}
