import { crc32 as zlibCrc32 } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cobsDecode, cobsEncode } from './cobs.ts';
import { crc32 } from './crc32.ts';
import { encodeFrame, FrameReader, MAX_FRAME_BYTES } from './frames.ts';

const bytes = (text: string) => new TextEncoder().encode(text);

describe('CRC-32', () => {
  it('gives the published check value for "123456789"', () => {
    expect(crc32(bytes('123456789'))).toBe(0xcbf43926);
  });

  it.runIf(typeof zlibCrc32 === 'function')('agrees with a second implementation on any bytes', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 600 }), (b) => crc32(b) === zlibCrc32(b)));
  });
});

describe('COBS', () => {
  // Examples of the paper's own kind (Cheshire and Baker 1999).
  it.each([
    [[0], [1, 1]],
    [
      [0, 0],
      [1, 1, 1],
    ],
    [
      [0x11, 0x22, 0, 0x33],
      [3, 0x11, 0x22, 2, 0x33],
    ],
    [
      [0x11, 0, 0, 0],
      [2, 0x11, 1, 1, 1],
    ],
    [[], [1]],
  ])('stuffs %j as %j', (plain, stuffed) => {
    expect([...cobsEncode(Uint8Array.from(plain))]).toEqual(stuffed);
  });

  it('holds no zero and gives any bytes back', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 1200 }), (b) => {
        const stuffed = cobsEncode(b);
        expect(stuffed.includes(0)).toBe(false);
        expect(stuffed.length).toBeLessThanOrEqual(b.length + Math.ceil(b.length / 254) + 1);
        expect([...cobsDecode(stuffed)!]).toEqual([...b]);
      }),
    );
    const run = new Uint8Array(600).fill(7);
    expect([...cobsDecode(cobsEncode(run))!]).toEqual([...run]);
  });

  it('refuses codes that point past the end', () => {
    expect(cobsDecode(Uint8Array.of(5, 1, 2))).toBeNull();
  });
});

/** Anything that JSON can say, but for a key that the decoder defuses by renaming it. */
const plainValue = fc.jsonValue().filter((v) => !JSON.stringify(v).includes('"__proto__"'));

describe('frames', () => {
  const collect = () => {
    const got: unknown[] = [];
    return { got, reader: new FrameReader((m) => got.push(m)) };
  };

  it('come back whole however the stream is cut', () => {
    fc.assert(
      fc.property(
        fc.array(plainValue, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 17 }),
        (messages, cut) => {
          const stream = Uint8Array.from(messages.flatMap((m) => [...encodeFrame({ m })]));
          const { got, reader } = collect();
          for (let i = 0; i < stream.length; i += cut) reader.push(stream.subarray(i, i + cut));
          expect(got).toHaveLength(messages.length);
          expect(JSON.stringify(got)).toBe(JSON.stringify(messages.map((m) => ({ m }))));
        },
      ),
    );
  });

  it('a wrong checksum costs that frame only', () => {
    const { got, reader } = collect();
    const bad = encodeFrame({ a: 1 });
    bad[2] = bad[2]! ^ 4;
    reader.push(bad);
    reader.push(encodeFrame({ b: 2 }));
    expect(got).toEqual([{ b: 2 }]);
    expect(reader.counts.damaged).toBe(1);
  });

  it('a truncated frame costs that frame only', () => {
    const { got, reader } = collect();
    reader.push(encodeFrame({ long: 'x'.repeat(50) }).subarray(0, 20));
    reader.push(Uint8Array.of(0));
    reader.push(encodeFrame({ b: 2 }));
    expect(got).toEqual([{ b: 2 }]);
  });

  it('any noise never throws, and the next frame is read', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 3000 }), (noise) => {
        const { got, reader } = collect();
        reader.push(noise);
        reader.push(Uint8Array.of(0));
        reader.push(encodeFrame('here'));
        expect(got.at(-1)).toBe('here');
      }),
    );
  });

  it('a flood without an end is dropped, not kept', () => {
    const { got, reader } = collect();
    for (let k = 0; k < 200; k++) reader.push(new Uint8Array(MAX_FRAME_BYTES / 4).fill(9));
    reader.push(Uint8Array.of(0));
    reader.push(encodeFrame(5));
    expect(reader.counts.tooLong).toBe(1);
    expect(got).toEqual([5]);
  });

  it('is refused at the sender when it would be too long', () => {
    expect(() => encodeFrame('x'.repeat(MAX_FRAME_BYTES))).toThrow(RangeError);
  });
});
