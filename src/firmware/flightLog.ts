import { GyroPacker } from '#core/formats/gyroTrace.ts';
import { modeIds } from '#core/modes/modes.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { encodeCbor } from '#core/wire/frames.ts';
import type { FlightController } from './flightController.ts';
import { WRITTEN_VERSION } from './versions.ts';

/** Numbers of one sample, in this order; SI and radians. */
export const logFields = [
  'seconds',
  'mode',
  'roll',
  'pitch',
  'yaw',
  'rollRate',
  'pitchRate',
  'yawRate',
  'north',
  'east',
  'height',
  'velocityNorth',
  'velocityEast',
  'climb',
  'airspeed',
  'windNorth',
  'windEast',
  'throttle',
  'supplyV',
  'currentA',
  'satellites',
  'accuracy',
  'quality',
  'command',
  'shake',
  'compassOff',
  'homeNorth',
  'homeEast',
] as const;
const logLoopFields = [
  'rollRateWanted',
  'pitchRateWanted',
  'yawRateWanted',
  'rollCommand',
  'pitchCommand',
  'yawCommand',
  'rollSum',
  'pitchSum',
  'yawSum',
  'motorHz',
] as const;

export interface LoggedFlight {
  readonly flight: number;
  /** Since power-on, s. */
  readonly startedS: number;
  readonly bytes: number;
  readonly whole: boolean;
}

export interface KeptLog {
  readonly ring: Uint8Array;
  readonly head: number;
  readonly number: number;
  readonly flights: readonly Readonly<Extent>[];
}

interface Extent {
  readonly flight: number;
  readonly startedS: number;
  readonly from: number;
  length: number;
  whole: boolean;
}

/**
 * Flights on the board's store as CBOR sequences (RFC 8742): a map that names the fields, then arrays of numbers,
 * `[seconds, text]` for each decision, and `[seconds, s between samples, bytes]` for each block of the raw gyro. The store is a ring; when it is full the oldest flight goes as a whole.
 */
export class FlightLog {
  /** What the flights are flown by; the board says so when it starts. */
  firmware = `Pfad ${WRITTEN_VERSION}`;
  /** Settings unlike the firmware's defaults that it flies by; the board tells them when a flight begins. */
  settings: () => Values = () => ({});
  private readonly ring: Uint8Array;
  private readonly flights: Extent[] = [];
  private head = 0;
  private open: Extent | null = null;
  private due = 0;
  private told = 0;
  private number = 0;
  /** Counts the flights that were ended, for those who keep the store over a power cut. */
  ended = 0;
  private readonly gyro = new GyroPacker();
  private gyroFromS = 0;
  private gyroStepS = 0;
  private readonly sample = new DataView(new ArrayBuffer(5));
  private readonly values: Float64Array;

  constructor(capacity = 4_000_000) {
    this.ring = new Uint8Array(capacity);
    this.values = new Float64Array(logFields.length + logLoopFields.length);
  }

  /** Bytes that flights take of it, and that it has. */
  get used(): number {
    return this.flights.reduce((sum, f) => sum + f.length, 0);
  }

  get room(): number {
    return this.ring.length;
  }

  /** Writes what is due, from arming to disarming. */
  step(c: FlightController, dt: number): void {
    const every = c.config.logEvery;
    if (!c.armed || every === 0) {
      if (this.open) this.close(c);
      return;
    }
    if (!this.open) this.begin(c);
    if (c.config.logGyro) this.packGyro(c, dt);
    this.due -= dt;
    if (this.due > 0) return;
    this.due += every;
    this.decisions(c);
    this.write(c);
  }

  private begin(c: FlightController): void {
    this.number++;
    this.open = { flight: this.number, startedS: c.uptimeS, from: this.head, length: 0, whole: false };
    this.flights.push(this.open);
    this.told = c.journal.count - 1;
    this.due = 0;
    this.gyro.clear();
    const fields = c.config.logLoops ? [...logFields, ...logLoopFields] : logFields;
    const { firmware } = this;
    const { originLat: lat, originLon: lon } = c.sensing;
    const origin = c.position.hasFix ? { origin: { lat, lon } } : {};
    this.append(
      encodeCbor({
        ...{ flight: this.number, firmware, fields, modes: modeIds, settings: this.settings() },
        ...origin,
      }),
    );
  }

  private close(c: FlightController): void {
    this.decisions(c);
    this.disarmed();
  }

  /** Ends the flight that is being written, whole. */
  disarmed(): void {
    this.writeGyro();
    if (this.open) this.open.whole = true;
    this.open = null;
    this.ended++;
  }

  private decisions(c: FlightController): void {
    const { decisions, count } = c.journal;
    for (let n = Math.max(this.told, count - decisions.length, 0); n < count; n++) {
      const d = decisions[decisions.length - (count - n)]!;
      this.append(encodeCbor([d.atS, d.text]));
    }
    this.told = count;
  }

  private write(c: FlightController): void {
    const v = this.values;
    const { attitude: a, position: p, sensing: s, command: k } = c;
    let i = 0;
    v[i++] = c.uptimeS;
    v[i++] = modeIds.indexOf(c.mode);
    v[i++] = a.roll;
    v[i++] = a.pitch;
    v[i++] = a.yaw;
    v[i++] = a.rates[0]!;
    v[i++] = a.rates[1]!;
    v[i++] = a.rates[2]!;
    v[i++] = p.north;
    v[i++] = p.east;
    v[i++] = p.height;
    v[i++] = p.velocityNorth;
    v[i++] = p.velocityEast;
    v[i++] = p.climb;
    v[i++] = s.airspeed;
    v[i++] = p.windNorth;
    v[i++] = p.windEast;
    v[i++] = k.throttle;
    v[i++] = c.supplyV;
    v[i++] = c.currentA;
    v[i++] = s.satellites;
    v[i++] = p.place.accuracy;
    v[i++] = c.linkAlive ? c.input.quality : 0;
    v[i++] = Math.max(Math.abs(k.roll), Math.abs(k.pitch), Math.abs(k.yaw));
    v[i++] = s.shake;
    v[i++] = s.compassOff;
    v[i++] = c.homeSet ? c.home.homeNorth : Number.NaN;
    v[i++] = c.homeSet ? c.home.homeEast : Number.NaN;
    if (c.config.logLoops) {
      for (let axis = 0; axis < 3; axis++) v[i++] = c.loops.wanted[axis]!;
      v[i++] = k.roll;
      v[i++] = k.pitch;
      v[i++] = k.yaw;
      for (let axis = 0; axis < 3; axis++) v[i++] = c.loops.sumOf(axis);
      v[i++] = s.motorHz;
    }
    // Head of an array of up to 255 items, then each as a 32-bit float (RFC 8949, 3.1 and 3.3).
    this.put(0x98);
    this.put(i);
    for (let n = 0; n < i; n++) {
      this.sample.setUint8(0, 0xfa);
      this.sample.setFloat32(1, v[n]!);
      for (let b = 0; b < 5; b++) this.put(this.sample.getUint8(b));
    }
  }

  private packGyro(c: FlightController, dt: number): void {
    if (this.gyro.samples === 0) {
      this.gyroFromS = c.uptimeS;
      this.gyroStepS = dt;
    }
    this.gyro.push(c.sensing.rawGyro);
    if (this.gyro.full) this.writeGyro();
  }

  private writeGyro(): void {
    const { gyro } = this;
    if (gyro.samples > 0)
      this.append(encodeCbor([this.gyroFromS, this.gyroStepS, gyro.bytes.slice(0, gyro.length)]));
    gyro.clear();
  }

  private append(bytes: Uint8Array): void {
    for (const b of bytes) this.put(b);
  }

  private put(byte: number): void {
    const open = this.open;
    if (!open) return;
    const first = this.flights[0]!;
    const used = open.from + open.length - first.from;
    if (used >= this.ring.length) {
      // A single flight that fills the store keeps its beginning, which says how it came to be.
      if (first === open) return;
      this.flights.shift();
    }
    this.ring[this.head % this.ring.length] = byte;
    this.head++;
    open.length++;
  }

  /** The power goes: what was being written stays as far as it came, and is not whole. */
  cut(): void {
    this.open = null;
  }

  /** All that the store holds, to be brought back: its flights, one behind the other. Later changes do not reach what was given. */
  keep(): KeptLog {
    const ring = new Uint8Array(this.used);
    const flights: Extent[] = [];
    let head = 0;
    for (const f of this.flights) {
      for (let k = 0; k < f.length; k++) ring[head + k] = this.ring[(f.from + k) % this.ring.length]!;
      flights.push({ ...f, from: head, whole: f.whole && f !== this.open });
      head += f.length;
    }
    return { ring, head, number: this.number, flights };
  }

  /** As it was kept, by a store of whatever size: where there is less room the oldest flights are left out. */
  bring({ ring, number, flights }: KeptLog): void {
    this.head = 0;
    this.number = number;
    this.open = null;
    let left = flights.reduce((sum, f) => sum + f.length, 0);
    this.flights.length = 0;
    for (const f of flights) {
      const fits = left <= this.ring.length;
      left -= f.length;
      if (!fits) continue;
      for (let k = 0; k < f.length; k++) this.ring[this.head + k] = ring[(f.from + k) % ring.length]!;
      this.flights.push({ ...f, from: this.head });
      this.head += f.length;
    }
  }

  /** Throws away the flights up to a number, that one as well; one that is being written stays. */
  clear(upTo: number): void {
    while (this.flights[0] && this.flights[0].flight <= upTo && this.flights[0] !== this.open) {
      this.flights.shift();
      this.ended++;
    }
  }

  list(): LoggedFlight[] {
    return this.flights.map((f) => ({
      flight: f.flight,
      startedS: f.startedS,
      bytes: f.length,
      whole: f.whole,
    }));
  }

  /** Part of a flight; null when there is no such flight. */
  read(flight: number, from: number, count: number): Uint8Array | null {
    const f = this.flights.find((x) => x.flight === flight);
    if (!f) return null;
    const length = Math.max(0, Math.min(count, f.length - from));
    return Uint8Array.from({ length }, (_, i) => this.ring[(f.from + from + i) % this.ring.length]!);
  }
}
