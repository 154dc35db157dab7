import { DEG } from '../math/scalar.ts';
import type { ByteQueue } from './byteQueue.ts';
import { type SatelliteView, type SystemLetter, systems } from './satellites.ts';

/** One GNSS solution. Angles in degrees, heights above mean sea level. */
export interface GnssEpoch {
  /** Seconds of the day, UTC. */
  timeS: number;
  valid: boolean;
  lat: number;
  lon: number;
  heightM: number;
  speedMps: number;
  courseDeg: number;
  used: number;
  hdop: number;
}

/** What a receiver or reader holds before its first solution. */
export function noSolution(timeS: number): GnssEpoch {
  return {
    timeS,
    valid: false,
    lat: 0,
    lon: 0,
    heightM: 0,
    speedMps: 0,
    courseDeg: 0,
    used: 0,
    hdop: 99,
  };
}

export const KNOT_MPS = 1852 / 3600;
const ZERO = 48;

/**
 * Writes NMEA 0183 sentences (talker GN) as bytes: `$`, fields, `*`, the exclusive or of all between as two
 * hex digits, CR LF. Positions as ddmm.mmmmm. No strings are made, so that a receiver costs little.
 */
export class NmeaWriter {
  private sum = 0;

  constructor(private readonly out: ByteQueue) {}

  rmc(e: GnssEpoch, dateDdmmyy: number): void {
    this.begin('GNRMC');
    this.time(e.timeS);
    this.comma();
    this.put(e.valid ? 65 : 86);
    this.position(e);
    this.comma();
    if (e.valid) this.fixed(e.speedMps / KNOT_MPS, 1, 3);
    this.comma();
    if (e.valid) this.course(e);
    this.comma();
    this.integer(dateDdmmyy, 6);
    this.text(e.valid ? ',,,A' : ',,,N');
    this.end();
  }

  /** From 0.00 to 359.99: north is never called 360. */
  private course(e: GnssEpoch): void {
    this.fixed((Math.round(e.courseDeg * 100) % 36000) / 100, 1, 2);
  }

  gga(e: GnssEpoch): void {
    this.begin('GNGGA');
    this.time(e.timeS);
    this.position(e);
    this.comma();
    this.put(ZERO + (e.valid ? 1 : 0));
    this.comma();
    this.integer(Math.min(99, e.used), 2);
    this.comma();
    this.fixed(Math.min(99, e.hdop), 1, 1);
    this.comma();
    if (e.valid) this.fixed(e.heightM, 1, 2);
    this.text(',M,0.0,M,,');
    this.end();
  }

  vtg(e: GnssEpoch): void {
    this.begin('GNVTG');
    if (e.valid) this.course(e);
    this.text(',T,,M,');
    if (e.valid) this.fixed(e.speedMps / KNOT_MPS, 1, 3);
    this.text(',N,');
    if (e.valid) this.fixed(e.speedMps * 3.6, 1, 3);
    this.text(e.valid ? ',K,A' : ',K,N');
    this.end();
  }

  /** One sentence for each system of which there are satellites. */
  gsa(e: GnssEpoch, satellites: readonly SatelliteView[]): void {
    for (const { letter, number } of systems) {
      const of = satellites.filter((s) => s.system === letter);
      if (of.length === 0) continue;
      this.begin('GNGSA');
      this.text(e.valid ? 'A,3' : 'A,1');
      let shown = 0;
      for (const s of of) {
        if (!s.used || shown === 12) continue;
        this.comma();
        this.integer(s.id, 2);
        shown++;
      }
      for (; shown < 12; shown++) this.comma();
      for (const scale of [1.6, 1, 1.3]) {
        this.comma();
        this.fixed(Math.min(99, e.hdop * scale), 1, 1);
      }
      this.comma();
      this.integer(number, 1);
      this.end();
    }
  }

  gsv(satellites: readonly SatelliteView[]): void {
    for (const { letter, talker } of systems) {
      const of = satellites.filter((s) => s.system === letter);
      const sentences = Math.ceil(of.length / 4);
      for (let n = 0; n < sentences; n++) {
        this.begin(`${talker}GSV`);
        this.integer(sentences, 1);
        this.comma();
        this.integer(n + 1, 1);
        this.comma();
        this.integer(of.length, 2);
        for (const s of of.slice(4 * n, 4 * n + 4)) {
          this.comma();
          this.integer(s.id, 2);
          this.comma();
          this.integer(Math.round(s.elevationDeg), 2);
          this.comma();
          this.integer(Math.round(s.azimuthDeg) % 360, 3);
          this.comma();
          if (s.strength > 0) this.integer(Math.round(s.strength), 2);
        }
        this.end();
      }
    }
  }

  /** What the receiver is, as it tells when it starts. */
  txt(text: string): void {
    this.begin('GNTXT');
    this.text('01,01,02,');
    this.text(text);
    this.end();
  }

  private begin(name: string): void {
    this.out.push(36);
    this.sum = 0;
    this.text(name);
    this.comma();
  }

  private end(): void {
    const sum = this.sum;
    this.out.push(42);
    this.out.push(hexDigit(sum >> 4));
    this.out.push(hexDigit(sum & 15));
    this.out.push(13);
    this.out.push(10);
  }

  private put(byte: number): void {
    this.sum ^= byte;
    this.out.push(byte);
  }

  private comma(): void {
    this.put(44);
  }

  private text(text: string): void {
    for (let i = 0; i < text.length; i++) this.put(text.charCodeAt(i));
  }

  private integer(value: number, width: number): void {
    let unit = 1;
    let digits = 1;
    while (unit * 10 <= value || digits < width) {
      unit *= 10;
      digits++;
    }
    let rest = value;
    for (; unit >= 1; unit = Math.floor(unit / 10)) {
      const d = Math.floor(rest / unit);
      this.put(ZERO + d);
      rest -= d * unit;
    }
  }

  private fixed(value: number, width: number, decimals: number): void {
    let rounded = Math.round(value * 10 ** decimals);
    if (rounded < 0) {
      this.put(45);
      rounded = -rounded;
    }
    const unit = 10 ** decimals;
    this.integer(Math.floor(rounded / unit), width);
    this.put(46);
    this.integer(rounded % unit, decimals);
  }

  private time(timeS: number): void {
    const hundredths = Math.round(timeS * 100) % 8_640_000;
    const s = Math.floor(hundredths / 100);
    this.integer(Math.floor(s / 3600), 2);
    this.integer(Math.floor(s / 60) % 60, 2);
    this.integer(s % 60, 2);
    this.put(46);
    this.integer(hundredths % 100, 2);
  }

  private position(e: GnssEpoch): void {
    this.comma();
    if (e.valid) this.angle(Math.abs(e.lat), 2);
    this.comma();
    if (e.valid) this.put(e.lat >= 0 ? 78 : 83);
    this.comma();
    if (e.valid) this.angle(Math.abs(e.lon), 3);
    this.comma();
    if (e.valid) this.put(e.lon >= 0 ? 69 : 87);
  }

  private angle(deg: number, width: number): void {
    const all = Math.round(deg * 60 * 1e5);
    this.integer(Math.floor(all / 6_000_000), width);
    const minutes = all % 6_000_000;
    this.integer(Math.floor(minutes / 1e5), 2);
    this.put(46);
    this.integer(minutes % 1e5, 5);
  }
}

const hexDigit = (n: number) => (n < 10 ? ZERO + n : 55 + n);
const MAX_SENTENCE = 96;
const MAX_FIELDS = 24;
/** Bytes that can be looked at as they came. */
const KEPT_BYTES = 512;

/**
 * Reads NMEA 0183 from bytes as they come. Sentences whose checksum fails or that are too long are counted
 * and dropped; any talker is taken. A solution is `fresh` once GGA and RMC of the same time have arrived.
 */
export class NmeaReader {
  readonly epoch = noSolution(-1);
  /** Satellites of the last complete GSV set of each system. */
  readonly bySystem = new Map<SystemLetter, readonly SatelliteView[]>();
  /** What the receiver said in its last TXT sentence. */
  text = '';
  sentences = 0;
  faults = 0;
  bytes = 0;
  private readonly newest = new Uint8Array(KEPT_BYTES);
  private readonly line = new Uint8Array(MAX_SENTENCE);
  private readonly starts = new Int16Array(MAX_FIELDS + 1);
  private length = -1;
  private fields = 0;
  private rmcTime = -1;
  private ggaTime = -1;
  private coming: SatelliteView[] = [];
  private readonly usedIds = new Map<SystemLetter, Set<number>>();

  /** True when this byte completed a solution. */
  push(byte: number): boolean {
    this.newest[this.bytes++ % KEPT_BYTES] = byte;
    if (byte === 36) {
      this.length = 0;
      return false;
    }
    if (this.length < 0) return false;
    if (byte === 13 || byte === 10) {
      const done = this.length > 0 && this.sentence();
      this.length = -1;
      return done;
    }
    if (this.length >= MAX_SENTENCE || byte < 32 || byte > 126) {
      this.faults++;
      this.length = -1;
      return false;
    }
    this.line[this.length++] = byte;
    return false;
  }

  private sentence(): boolean {
    const n = this.length;
    const l = this.line;
    if (n < 9 || l[n - 3] !== 42) return this.fault();
    let sum = 0;
    this.fields = 0;
    this.starts[this.fields++] = 0;
    for (let i = 0; i < n - 3; i++) {
      sum ^= l[i]!;
      if (l[i] === 44 && this.fields < MAX_FIELDS) this.starts[this.fields++] = i + 1;
    }
    this.starts[this.fields] = n - 2;
    if (l[n - 2] !== hexDigit(sum >> 4) || l[n - 1] !== hexDigit(sum & 15)) return this.fault();
    this.sentences++;
    const kind = (l[2]! << 16) | (l[3]! << 8) | l[4]!;
    switch (kind) {
      case 0x524d43:
        return this.rmc();
      case 0x474741:
        return this.gga();
      case 0x475356:
        this.gsv();
        return false;
      case 0x475341:
        this.gsa();
        return false;
      case 0x545854:
        this.text = String.fromCharCode(...l.subarray(this.starts[4], n - 3));
        return false;
      default:
        return false;
    }
  }

  private fault(): boolean {
    this.faults++;
    return false;
  }

  private rmc(): boolean {
    const e = this.epoch;
    this.rmcTime = this.time(1);
    const valid = this.line[this.starts[2]!] === 65;
    if (valid) {
      e.speedMps = this.number(7) * KNOT_MPS;
      e.courseDeg = this.number(8);
    }
    return this.complete();
  }

  private gga(): boolean {
    const e = this.epoch;
    this.ggaTime = this.time(1);
    e.valid = this.number(6) > 0;
    e.used = this.number(7);
    e.hdop = this.number(8);
    if (e.valid) {
      e.lat = this.angle(2) * (this.line[this.starts[3]!] === 83 ? -1 : 1);
      e.lon = this.angle(4) * (this.line[this.starts[5]!] === 87 ? -1 : 1);
      e.heightM = this.number(9);
    }
    return this.complete();
  }

  private complete(): boolean {
    if (this.rmcTime < 0 || this.rmcTime !== this.ggaTime) return false;
    this.epoch.timeS = this.rmcTime;
    this.rmcTime = -1;
    return true;
  }

  /** The newest bytes as they came, oldest first. */
  recent(): Uint8Array {
    const count = Math.min(this.bytes, KEPT_BYTES);
    return Uint8Array.from({ length: count }, (_, i) => this.newest[(this.bytes - count + i) % KEPT_BYTES]!);
  }

  /** Satellites in view, all systems. */
  get satellites(): SatelliteView[] {
    return [...this.bySystem.values()].flat();
  }

  /** Of a talker that stands for all systems GSA says by a number which it means; older receivers leave it out. */
  private gsa(): void {
    const number = this.fields > 18 ? this.number(18) : 0;
    const system = systems.find((s) => s.number === number)?.letter ?? this.talkerSystem();
    const used = new Set<number>();
    for (let i = 3; i < 15; i++) if (this.width(i) > 0) used.add(this.number(i));
    this.usedIds.set(system, used);
  }

  private talkerSystem(): SystemLetter {
    const talker = String.fromCharCode(this.line[0]!, this.line[1]!);
    return systems.find((s) => s.talker === talker)?.letter ?? 'G';
  }

  private gsv(): void {
    const system = this.talkerSystem();
    if (this.number(2) === 1) this.coming = [];
    for (let i = 4; i + 3 < this.fields; i += 4) {
      const id = this.number(i);
      this.coming.push({
        system,
        id,
        elevationDeg: this.number(i + 1),
        azimuthDeg: this.number(i + 2),
        strength: this.number(i + 3),
        used: this.usedIds.get(system)?.has(id) ?? false,
      });
    }
    if (this.number(2) >= this.number(1)) this.bySystem.set(system, this.coming);
  }

  private width(field: number): number {
    return field < this.fields ? this.starts[field + 1]! - 1 - this.starts[field]! : 0;
  }

  /** A decimal field; 0 when it is empty. */
  private number(field: number): number {
    if (field >= this.fields) return 0;
    let value = 0;
    let scale = 0;
    let sign = 1;
    const end = this.starts[field]! + this.width(field);
    for (let i = this.starts[field]!; i < end; i++) {
      const b = this.line[i]!;
      if (b === 45) sign = -1;
      else if (b === 46) scale = 1;
      else if (b >= ZERO && b <= 57) {
        value = value * 10 + (b - ZERO);
        scale *= 10;
      }
    }
    return (sign * value) / (scale || 1);
  }

  private time(field: number): number {
    const raw = this.number(field);
    if (this.width(field) < 6) return -1;
    const h = Math.floor(raw / 10000);
    const m = Math.floor(raw / 100) % 100;
    return 3600 * h + 60 * m + (raw % 100);
  }

  private angle(field: number): number {
    const raw = this.number(field);
    const deg = Math.floor(raw / 100);
    return deg + (raw - 100 * deg) / 60;
  }
}

/** North and east velocity of a solution, m/s. */
export function velocityNorth(e: GnssEpoch): number {
  return e.speedMps * Math.cos(e.courseDeg * DEG);
}
export function velocityEast(e: GnssEpoch): number {
  return e.speedMps * Math.sin(e.courseDeg * DEG);
}
