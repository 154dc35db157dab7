import { type Told, writeTold } from '#core/toldBack/frames.ts';
import { NarrowWay } from '#core/toldBack/schedule.ts';
import { FRAME_AROUND, frameBytes, toldSensors } from '#core/toldBack/sensors.ts';
import type { Config } from './config.ts';
import type { FlightController } from './flightController.ts';

/** Twenty times a second it is looked who goes next. */
const EVERY_S = 0.05;
const MOST_PAYLOAD = 60;

/** What goes back to the transmitter over the receiver's port: each by its own rate, never more than there is room for. */
export class RadioTeller {
  /** The wire to the receiver; without it nothing is told. */
  onBytes: ((frame: Uint8Array) => void) | null = null;
  /** Bytes told since the board started, and in the last second. */
  sent = 0;
  perS = 0;
  /** The last frame of each kind, in the order of `toldSensors`; empty before there was one. */
  readonly last: Uint8Array[] = toldSensors.map(() => new Uint8Array(0));
  private readonly frame = new Uint8Array(MOST_PAYLOAD + FRAME_AROUND);
  private readonly told: { -readonly [K in keyof Told]: Told[K] } = {
    ...{
      lat: 0,
      lon: 0,
      groundMps: 0,
      courseRad: 0,
      heightM: 0,
      satellites: 0,
      volts: 0,
      amps: 0,
      usedMah: 0,
    },
    ...{ leftShare: 1, mode: '', climbMps: 0, airspeedMps: 0, rollRad: 0, pitchRad: 0, yawRad: 0 },
  };
  private way: NarrowWay | null = null;
  private of: Config | null = null;
  private hadFix = false;
  private sinceS = 0;
  private second = 0;
  private inSecond = 0;

  step(c: FlightController, dt: number): void {
    this.sinceS += dt;
    if (this.sinceS < EVERY_S) return;
    const by = this.sinceS;
    this.sinceS = 0;
    this.second += by;
    if (this.second >= 1) {
      this.perS = this.inSecond / this.second;
      this.inSecond = 0;
      this.second = 0;
    }
    // SBUS and a pulse train have no way back.
    if (c.config.rx.protocol !== 'crsf') return;
    if (this.of !== c.config) {
      this.of = c.config;
      this.way = new NarrowWay(toldSensors.map(frameBytes), c.config.tell.hz, c.config.tell.room);
    }
    for (let next = this.way!.step(by); next >= 0; next = this.way!.step(0)) {
      const { id } = toldSensors[next]!;
      // The last place is kept at the transmitter: one that is not known any more is not put over it.
      if (c.position.hasFix) this.hadFix = true;
      else if (id === 'place' && this.hadFix) continue;
      this.look(c);
      const length = writeTold(id, this.told, this.frame);
      const frame = this.frame.slice(0, length);
      this.last[next] = frame;
      this.sent += length;
      this.inSecond += length;
      this.onBytes?.(frame);
    }
  }

  /** What is known now. */
  private look(c: FlightController): void {
    const { told: t } = this;
    const { position: p, sensing: s, attitude: a } = c;
    const fix = p.hasFix;
    t.lat = fix ? s.nmea.epoch.lat : 0;
    t.lon = fix ? s.nmea.epoch.lon : 0;
    t.groundMps = fix ? Math.hypot(p.velocityNorth, p.velocityEast) : 0;
    t.courseRad = fix ? Math.atan2(p.velocityEast, p.velocityNorth) : 0;
    t.heightM = p.height;
    t.satellites = c.satellitesUsed;
    t.volts = c.supplyV;
    t.amps = c.currentA;
    t.usedMah = c.usedMah;
    const { leftMah } = c.sanity.battery;
    // Before it is armed nobody has worked out what is left: by what was used of it, then.
    t.leftShare = Number.isNaN(leftMah)
      ? 1 - c.usedMah / Math.max(1, c.config.battery.capacityMah)
      : leftMah / Math.max(1, leftMah + c.usedMah);
    t.mode = c.mode;
    t.climbMps = p.climb;
    t.airspeedMps = c.airspeed;
    t.rollRad = a.roll;
    t.pitchRad = a.pitch;
    t.yawRad = a.yaw;
  }
}
