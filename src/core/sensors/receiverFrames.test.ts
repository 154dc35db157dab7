import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ByteQueue } from './byteQueue.ts';
import {
  CrsfReader,
  crc8,
  PulseTrainReader,
  packChannels,
  pulseOf,
  SbusReader,
  ticksOf,
  unpackChannels,
  writeCrsfChannels,
  writeCrsfLink,
  writeSbus,
} from './receiverFrames.ts';

const bytesOf = (write: (q: ByteQueue) => void): number[] => {
  const q = new ByteQueue();
  write(q);
  return Array.from({ length: q.length }, () => q.shift());
};
/** The channels' bits, one by one, least first: a second way to pack them. */
const bitsOf = (ticks: readonly number[]) =>
  ticks.flatMap((t) => Array.from({ length: 11 }, (_, i) => (t >> i) & 1));
const anyTicks = fc.array(fc.integer({ min: 0, max: 2047 }), { minLength: 16, maxLength: 16 });

describe('channels of eleven bits', () => {
  it('lie in the bytes bit by bit, least first', () => {
    fc.assert(
      fc.property(anyTicks, (ticks) => {
        const out = new Uint8Array(22);
        packChannels(ticks.map(pulseOf), out, 0);
        const bits = bitsOf(ticks);
        for (let i = 0; i < 176; i++) expect((out[i >> 3]! >> (i & 7)) & 1).toBe(bits[i]);
        const back = new Float64Array(16);
        unpackChannels(out, 0, back);
        expect([...back].map(ticksOf)).toEqual(ticks);
      }),
    );
  });

  it('count 992 for 1500 us and 8 ticks for 5 us', () => {
    expect([ticksOf(1500), ticksOf(2000), ticksOf(1000)]).toEqual([992, 1792, 192]);
    expect(pulseOf(172)).toBeCloseTo(987.5, 9);
    expect(pulseOf(1811)).toBeCloseTo(2011.875, 9);
  });
});

describe('CRSF', () => {
  it('frames sixteen channels: sync, length 24, type 0x16, payload, CRC of type and payload', () => {
    const bytes = bytesOf((q) => writeCrsfChannels(q, new Float64Array(16).fill(1500)));
    expect(bytes).toHaveLength(26);
    expect(bytes.slice(0, 3)).toEqual([0xc8, 24, 0x16]);
    // CRC-8/DVB-S2 by its long division, bit by bit.
    let crc = 0;
    for (const b of bytes.slice(2, 25)) {
      crc ^= b;
      for (let k = 0; k < 8; k++) crc = crc & 0x80 ? ((crc << 1) ^ 0xd5) & 0xff : (crc << 1) & 0xff;
    }
    expect(bytes[25]).toBe(crc);
    // The catalogue of CRC algorithms gives 0xBC for "123456789".
    expect(
      crc8(
        Uint8Array.from('123456789', (c) => c.charCodeAt(0)),
        0,
        9,
      ),
    ).toBe(0xbc);
  });

  it('tells link quality, and failsafe when it is nought', () => {
    const reader = new CrsfReader();
    for (const b of bytesOf((q) => writeCrsfLink(q, 0.83, -71))) reader.push(b);
    expect([reader.news.quality, reader.news.failsafe]).toEqual([0.83, false]);
    for (const b of bytesOf((q) => writeCrsfLink(q, 0, -120))) reader.push(b);
    expect(reader.news.failsafe).toBe(true);
  });

  it('gets over noise before, and refuses a frame with any bit turned', () => {
    const pulses = Array.from({ length: 16 }, (_, i) => 1000 + 60 * i);
    const frame = bytesOf((q) => writeCrsfChannels(q, pulses));
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 25 }), fc.integer({ min: 0, max: 7 }), (at, bit) => {
        const reader = new CrsfReader();
        let frames = 0;
        frame.forEach((b, i) => {
          if (reader.push(i === at ? b ^ (1 << bit) : b)) frames++;
        });
        expect(frames).toBe(0);
      }),
    );
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 100 }), (noise) => {
        const reader = new CrsfReader();
        for (const b of noise) reader.push(b);
        let frames = 0;
        for (let k = 0; k < 5; k++) for (const b of frame) if (reader.push(b)) frames++;
        // A piece of noise may look like the beginning of a frame and swallow a few.
        expect(frames).toBeGreaterThanOrEqual(1);
        expect(Math.abs(reader.news.channels[15]! - pulses[15]!)).toBeLessThan(0.4);
      }),
    );
  });
});

describe('SBUS', () => {
  it('frames sixteen channels between 0x0F and 0x00, with flags for a lost frame and failsafe', () => {
    const frame = bytesOf((q) => writeSbus(q, new Float64Array(16).fill(1500), true, true));
    expect(frame).toHaveLength(25);
    expect([frame[0], frame[23], frame[24]]).toEqual([0x0f, 0x0c, 0x00]);
    const reader = new SbusReader();
    let frames = 0;
    for (const b of frame) if (reader.push(b)) frames++;
    expect(frames).toBe(1);
    expect(reader.news.failsafe).toBe(true);
    expect(reader.news.channels[7]).toBe(1500);
  });

  it('finds its frames again after a byte was lost', () => {
    const reader = new SbusReader();
    const frame = bytesOf((q) => writeSbus(q, new Float64Array(16).fill(1712), false, false));
    for (const b of frame.slice(1)) reader.push(b);
    let frames = 0;
    for (let k = 0; k < 6; k++) for (const b of frame) if (reader.push(b)) frames++;
    expect(frames).toBeGreaterThanOrEqual(3);
    expect(reader.news.channels[3]).toBeCloseTo(1711.875, 2);
  });
});

describe('a pulse train', () => {
  it('gives its channels between two long gaps, and nothing of a broken frame', () => {
    const reader = new PulseTrainReader();
    const frame = [1100, 1200, 1300, 1400, 1500, 1600, 1700, 1800];
    expect(reader.edge(9000)).toBe(false);
    for (const us of frame) expect(reader.edge(us)).toBe(false);
    expect(reader.edge(9000)).toBe(true);
    expect([...reader.news.channels.subarray(0, 8)]).toEqual(frame);
    for (const us of [1500, 300, 1500]) reader.edge(us);
    expect(reader.edge(9000)).toBe(false);
    expect(reader.faults).toBe(1);
  });
});
