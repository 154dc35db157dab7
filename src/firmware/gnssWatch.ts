import type { NmeaReader } from '#core/sensors/nmea.ts';

/** When a GNSS receiver first spoke and first had a fix, by the board's time since it started. */
export class GnssWatch {
  /** s; below nought while it has not happened. */
  spokeS = -1;
  fixS = -1;
  private nowS = 0;

  step(dt: number, nmea: NmeaReader): void {
    this.nowS += dt;
    if (this.spokeS < 0 && nmea.sentences > 0) this.spokeS = this.nowS;
    if (this.fixS < 0 && nmea.epoch.valid && nmea.epoch.used >= 4) this.fixS = this.nowS;
  }
}
