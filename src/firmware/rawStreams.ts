import type { StreamSource } from '#core/wire/messages.ts';
import type { Readings } from './readings.ts';

/** Blocks a second, about: enough for a display, few enough for a slow cable. */
const BLOCKS_PER_S = 20;
const MOST_SAMPLES = 128;

interface Source extends StreamSource {
  /** How many samples there were so far. */
  readonly count: (r: Readings) => number;
  readonly read: (r: Readings, field: number) => number;
}

const xyz = ['x', 'y', 'z'];
const sources: readonly Source[] = [
  { source: 'gyro', fields: xyz, unit: 'rad/s', mostHz: 1000, count: (r) => r.imus[0].samples, read: (r, k) => r.imus[0].gyro[k]! },
  { source: 'accelerometer', fields: xyz, unit: 'm/s2', mostHz: 1000, count: (r) => r.imus[0].samples, read: (r, k) => r.imus[0].accel[k]! },
  { source: 'gyro-2', fields: xyz, unit: 'rad/s', mostHz: 1000, count: (r) => r.imus[1].samples, read: (r, k) => r.imus[1].gyro[k]! },
  { source: 'accelerometer-2', fields: xyz, unit: 'm/s2', mostHz: 1000, count: (r) => r.imus[1].samples, read: (r, k) => r.imus[1].accel[k]! },
  { source: 'compass', fields: xyz, unit: 'ut', mostHz: 50, count: (r) => r.compass.samples, read: (r, k) => r.compass.field[k]! },
  { source: 'barometer', fields: ['pressure'], unit: 'pa', mostHz: 50, count: (r) => r.baro.samples, read: (r) => r.baro.value },
  { source: 'airspeed', fields: ['pressure'], unit: 'pa', mostHz: 50, count: (r) => r.pitot.samples, read: (r) => r.pitot.value },
  { source: 'rangefinder', fields: ['distance'], unit: 'm', mostHz: 50, count: (r) => r.range.samples, read: (r) => r.range.value },
  { source: 'flow', fields: ['x', 'y', 'quality'], unit: '', mostHz: 50, count: (r) => r.flow.samples, read: (r, k) => (k === 0 ? r.flow.x : k === 1 ? r.flow.y : r.flow.quality) },
  { source: 'battery', fields: ['volts', 'amperes'], unit: '', mostHz: 50, count: (r) => r.powerSamples, read: (r, k) => (k === 0 ? r.supplyV : r.currentA) },
]; // biome-ignore format: a table

/** What streams a board has, as it tells in `hello`. */
export const streamSources: readonly StreamSource[] = sources.map(({ source, fields, unit, mostHz }) => ({
  source,
  fields,
  unit,
  mostHz,
}));

/** Samples of one source on their way. */
export interface Block {
  readonly source: string;
  readonly n: number;
  /** Board's time of the first and between samples, s. */
  readonly atS: number;
  readonly dtS: number;
  readonly values: Float32Array;
}

class Stream {
  private readonly values: Float32Array;
  private filled = 0;
  private seen = -1;
  private skipped = 0;
  private firstS = 0;
  private n = 0;

  constructor(
    readonly of: Source,
    /** Every so many samples one is taken. */
    private readonly every: number,
    private readonly perBlock: number,
  ) {
    this.values = new Float32Array(perBlock * of.fields.length);
  }

  /** The block that this sample fills, or null. */
  step(r: Readings, nowS: number): Block | null {
    const count = this.of.count(r);
    if (count === this.seen) return null;
    this.seen = count;
    this.skipped++;
    if (this.skipped < this.every) return null;
    this.skipped = 0;
    if (this.filled === 0) this.firstS = nowS;
    const width = this.of.fields.length;
    for (let k = 0; k < width; k++) this.values[this.filled * width + k] = this.of.read(r, k);
    this.filled++;
    if (this.filled < this.perBlock) return null;
    const dtS = this.perBlock > 1 ? (nowS - this.firstS) / (this.perBlock - 1) : this.every / this.of.mostHz;
    this.filled = 0;
    return { source: this.of.source, n: this.n++ >>> 0, atS: this.firstS, dtS, values: this.values.slice() };
  }
}

/** Samples of sensors as they are, before anything is done with them, up to the rate at which the sensors give them. */
export class RawStreams {
  /** Takes each block as it is full. */
  onBlock: (block: Block) => void = () => {};
  private readonly running = new Map<string, Stream>();

  /** Begins, changes or (at 0) ends a stream. @returns the rate that it has, Hz; null for a source that is not there */
  ask(name: string, hz: number): number | null {
    const source = sources.find((s) => s.source === name);
    if (!source) return null;
    this.running.delete(name);
    if (hz <= 0) return 0;
    const every = Math.max(1, Math.ceil(source.mostHz / hz - 1e-9));
    const granted = source.mostHz / every;
    const perBlock = Math.min(MOST_SAMPLES, Math.max(1, Math.round(granted / BLOCKS_PER_S)));
    this.running.set(name, new Stream(source, every, perBlock));
    return granted;
  }

  /** How many run. */
  get count(): number {
    return this.running.size;
  }

  endAll(): void {
    this.running.clear();
  }

  step(r: Readings, nowS: number): void {
    if (this.running.size === 0) return;
    for (const stream of this.running.values()) {
      const block = stream.step(r, nowS);
      if (block) this.onBlock(block);
    }
  }
}
