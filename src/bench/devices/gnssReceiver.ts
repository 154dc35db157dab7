import type { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { Random } from '#core/math/random.ts';
import { wrapBearingDeg } from '#core/math/scalar.ts';
import { latitudeAt, longitudeAt, type Place } from '#core/navigation/earth.ts';
import type { ByteQueue } from '#core/sensors/byteQueue.ts';
import { NmeaWriter, noSolution } from '#core/sensors/nmea.ts';
import type { SatelliteView, SystemLetter } from '#core/sensors/satellites.ts';
import { Device } from './device.ts';

/** Time to the first fix under an open sky, s. */
const FIRST_FIX_S = { cold: 32, warm: 11, hot: 2 } as const;
const SATELLITES = 18;
/** Of each system, in the order in which they are drawn: eight, five and five. */
const SYSTEM_OF: readonly SystemLetter[] = [...'GECGGECGCEGGECGECG'] as SystemLetter[];
const SYSTEMS = { one: ['G'], two: ['G', 'E'], all: ['G', 'E', 'C'] } as const;
const USED_MOST = 14;
/** What it says it is when it starts. */
const GNSS_FIRMWARE = 'Lode 4.10';
/** Below this a satellite is not used, dB Hz. */
const USABLE = 28;
/** Work on a solution before it is sent, s. */
const THINKING_S = 0.06;
/** 1 June 2026. */
const DATE = 10626;
const START_OF_DAY_S = 9 * 3600;

interface Satellite {
  readonly system: SystemLetter;
  readonly id: number;
  readonly elevationDeg: number;
  readonly azimuthDeg: number;
  /** Share of the time to first fix after which it is tracked. */
  readonly foundAfter: number;
}

/**
 * A GNSS receiver: sees the part of the sky that is open, needs its time to the first fix, wanders by some
 * metres, and speaks NMEA 0183 over its own serial port.
 */
export class GnssReceiver extends Device {
  /** How open the sky is, 0 (indoors, a window) to 1. */
  sky = 1;
  /** Satellites it uses now. */
  used = 0;
  private readonly writer: NmeaWriter;
  private readonly satellites: readonly Satellite[];
  private readonly epoch = noSolution(START_OF_DAY_S);
  private seconds = 0;
  private openFor = 0;
  private due: number;
  private sendIn = -1;
  private everySecond = 0;
  private seen: readonly SatelliteView[] = [];
  private seenBy = '';
  private driftNorth = 0;
  private driftEast = 0;
  private driftUp = 0;

  constructor(
    seed: number,
    private readonly plant: Plant,
    out: ByteQueue,
    private readonly origin: Place,
    private readonly truth: BenchTruth['gnss'] & {
      readonly view: boolean;
      readonly systems?: keyof typeof SYSTEMS;
    },
  ) {
    super(seed);
    this.writer = new NmeaWriter(out);
    this.due = 1 / truth.hz;
    const random = new Random(seed);
    const usable: readonly SystemLetter[] = SYSTEMS[truth.systems ?? 'all'];
    this.satellites = Array.from({ length: SATELLITES }, (_, i) => ({
      system: SYSTEM_OF[i]!,
      id: i + 1,
      elevationDeg: 12 + 70 * random.uniform() ** 1.3,
      azimuthDeg: 360 * random.uniform(),
      foundAfter: 0.35 + (0.65 * (i + 0.5)) / SATELLITES,
    })).filter((s) => usable.includes(s.system));
  }

  step(dt: number): void {
    if (this.seconds === 0 && this.fault === 'none') this.writer.txt(GNSS_FIRMWARE);
    this.seconds += dt;
    this.openFor = this.sky > 0.3 && this.fault !== 'jammed' ? this.openFor + dt : 0;
    if (this.sendIn > 0) {
      this.sendIn -= dt;
      if (this.sendIn <= 0) this.send();
    }
    this.due -= dt;
    if (this.due > 0) return;
    this.due += 1 / this.truth.hz;
    const turn = this.fault === 'jammed' ? 'measure' : this.turn();
    if (turn === 'nothing') return;
    if (turn === 'measure') this.measure();
    this.epoch.timeS = START_OF_DAY_S + Math.round(this.seconds * this.truth.hz) / this.truth.hz;
    this.sendIn = THINKING_S;
  }

  private measure(): void {
    const n = this.noise;
    const p = this.plant;
    const e = this.epoch;
    const loud = this.fault === 'noisy' ? 12 : 1;
    const k = 0.01;
    this.driftNorth += -k * this.driftNorth + 0.14 * n.next();
    this.driftEast += -k * this.driftEast + 0.14 * n.next();
    this.driftUp += -k * this.driftUp + 0.2 * n.next();
    let used = 0;
    for (const s of this.satellites) if (this.strength(s) >= USABLE && used < USED_MOST) used++;
    this.used = used;
    e.used = used;
    e.valid = used >= 4;
    e.hdop = used >= 4 ? 0.7 + 8 / (used * used) : 99;
    e.lat = latitudeAt(this.origin.lat, p.position[0]! + loud * this.driftNorth);
    e.lon = longitudeAt(this.origin.lat, this.origin.lon, p.position[1]! + loud * this.driftEast);
    e.heightM = p.height + loud * this.driftUp;
    const vn = p.velocity[0]! + 0.05 * loud * n.next();
    const ve = p.velocity[1]! + 0.05 * loud * n.next();
    e.speedMps = Math.sqrt(vn * vn + ve * ve);
    e.courseDeg = wrapBearingDeg((Math.atan2(ve, vn) * 180) / Math.PI);
  }

  /** What is received of a satellite, dB Hz; 0 while it is not tracked. */
  private strength(s: Satellite): number {
    if (this.fault === 'jammed') return 0;
    if (this.sky <= 0.3) return s.id <= 3 ? 29 : s.id <= 6 ? 22 : 0;
    // A wall takes the sky from one side, low ones first.
    if (s.elevationDeg < 90 * (1 - this.sky)) return 0;
    if (this.openFor < s.foundAfter * FIRST_FIX_S[this.truth.start]) return 0;
    return 30 + s.elevationDeg / 5;
  }

  private send(): void {
    const e = this.epoch;
    this.writer.rmc(e, DATE);
    this.writer.gga(e);
    this.writer.vtg(e);
    if (!this.truth.view || Math.floor(e.timeS) === this.everySecond) return;
    this.everySecond = Math.floor(e.timeS);
    const view = this.view();
    this.writer.gsa(e, view);
    this.writer.gsv(view);
  }

  /** Worked out anew when more of the sky can have come into view, or less. */
  private view(): readonly SatelliteView[] {
    const by = `${this.fault === 'jammed'} ${this.sky} ${Math.min(this.openFor, FIRST_FIX_S[this.truth.start] + 1)}`;
    if (by === this.seenBy) return this.seen;
    this.seenBy = by;
    let used = 0;
    this.seen = this.satellites
      .map((s) => ({
        system: s.system,
        id: s.id,
        elevationDeg: s.elevationDeg,
        azimuthDeg: s.azimuthDeg,
        strength: this.strength(s),
      }))
      .filter((s) => s.strength > 0)
      .map((s) => ({ ...s, used: s.strength >= USABLE && used++ < USED_MOST }));
    return this.seen;
  }
}
