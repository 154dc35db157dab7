import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Random } from '../math/random.ts';
import { IMAGE_BASE, inspectImage, writeImage } from './firmwareImage.ts';
import { readHex, writeHex } from './intelHex.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const read = (text: string) => readHex(bytesOf(text));
/** What was put into both files below. */
const content = Uint8Array.from({ length: 80 }, (_, i) => (i * 37 + 11) % 256);

/** Written by GNU objcopy 2.40 (-I binary -O ihex) at 0x1FFE0: extended segment addresses, a segment start. */
const segments = `:020000021000EC
:10FFE0000B30557A9FC4E90E33587DA2C7EC113609
:10FFF0005B80A5CAEF14395E83A8CDF2173C6186F9
:020000022000DC
:10000000ABD0F51A3F6489AED3F81D42678CB1D6E8
:10001000FB20456A8FB4D9FE23486D92B7DC0126D8
:100020004B7095BADF04294E7398BDE2072C5176C8
:040000031000FFE00A
:00000001FF
`;
/** The same at 0x0801FFE0: extended linear addresses, a linear start. */
const linear = `:020000040801F1
:10FFE0000B30557A9FC4E90E33587DA2C7EC113609
:10FFF0005B80A5CAEF14395E83A8CDF2173C6186F9
:020000040802F0
:10000000ABD0F51A3F6489AED3F81D42678CB1D6E8
:10001000FB20456A8FB4D9FE23486D92B7DC0126D8
:100020004B7095BADF04294E7398BDE2072C5176C8
:040000051003FFE005
:00000001FF
`;

describe('a HEX file of GNU objcopy', () => {
  it.each([
    ['with segments', segments, 0x1ffe0, 0x1ffe0],
    ['with linear addresses', linear, 0x0801ffe0, 0x1003ffe0],
    ['in lower case', linear.toLowerCase(), 0x0801ffe0, 0x1003ffe0],
    ['with carriage returns', linear.replaceAll('\n', '\r\n'), 0x0801ffe0, 0x1003ffe0],
    ['with old line ends and blanks', `${linear.replaceAll('\n', ' \r')}\r\r`, 0x0801ffe0, 0x1003ffe0],
  ])('%s is read byte by byte', (_name, text, base, start) => {
    const hex = read(text);
    if (!hex.ok) throw new Error(hex.why);
    expect(hex.data.base).toBe(base);
    expect(hex.data.start).toBe(start);
    expect([...hex.data.bytes]).toEqual([...content]);
    expect(hex.data.lineAt(base + 33)).toBe(5);
  });

  it('may have its lines in any order, and gaps, which are erased flash', () => {
    const lines = linear.trim().split('\n');
    const shuffled = [lines[3], lines[6], lines[4], lines[0], lines[1], lines[8]].join('\n');
    const hex = read(shuffled);
    if (!hex.ok) throw new Error(hex.why);
    expect([...hex.data.bytes.subarray(0, 16)]).toEqual([...content.subarray(0, 16)]);
    expect([...hex.data.bytes.subarray(16, 32)]).toEqual(Array(16).fill(255));
    expect(hex.data.lineAt(0x0801fff0)).toBe(0);
  });
});

describe('what is written', () => {
  it('is read back as it was, from any address', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 400 }),
        fc.integer({ min: 0, max: 0xfff_ffff }),
        (bytes, base) => {
          const hex = read(writeHex(base, bytes));
          expect(hex.ok && [hex.data.base, ...hex.data.bytes]).toEqual([base, ...bytes]);
        },
      ),
    );
  });
});

describe('a HEX file that is wrong', () => {
  const lines = linear.trim().split('\n');
  const withLine = (n: number, text: string) => lines.map((l, i) => (i === n - 1 ? text : l)).join('\n');

  it.each([
    ['a checksum', withLine(3, lines[2]!.replace(/F9$/, 'F8')), 3, 'should be 0xF9'],
    ['a digit', withLine(2, lines[1]!.replace('0B', '0G')), 2, 'hexadecimal'],
    ['a line cut short', withLine(5, lines[4]!.slice(0, 21)), 5, 'says it has 16 bytes'],
    ['half a byte', withLine(5, lines[4]!.slice(0, 20)), 5, 'cut short'],
    ['no colon', withLine(4, lines[3]!.slice(1)), 4, 'colon'],
    ['the end', lines.slice(0, -1).join('\n'), 8, 'without an end record'],
    ['something after the end', `${linear}:00000001FF\n`, 10, 'after the end record in line 9'],
    ['an unknown record', withLine(4, ':00000009F7'), 4, 'type 9'],
    ['an overlap', withLine(6, lines[4]!), 6, 'where line 5 wrote before'],
    ['a long address of one byte', withLine(4, ':0100000408F3'), 4, 'should have 2 bytes'],
    ['nothing', '', 0, 'without an end record'],
    ['only an end', ':00000001FF', 0, 'no data'],
  ])('is refused with its line: %s', (_name, text, line, words) => {
    const hex = read(text);
    expect(hex.ok).toBe(false);
    if (hex.ok) return;
    expect(hex.line).toBe(line);
    expect(hex.why).toContain(words);
    expect(hex.why).toMatch(/\.$/);
  });

  it('never throws, whatever its bytes are, nor when a good one is damaged anywhere', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 300 }), (b) => typeof readHex(b).ok === 'boolean'));
    const whole = bytesOf(linear);
    fc.assert(
      fc.property(fc.nat(whole.length - 2), fc.integer({ min: 1, max: 255 }), (at, flip) => {
        const damaged = whole.slice();
        damaged[at]! ^= flip;
        const hex = readHex(damaged);
        // A changed letter case or line end changes nothing; anything else is found.
        if (hex.ok) expect([...hex.data.bytes]).toEqual([...content]);
      }),
      { numRuns: 400 },
    );
  });
});

describe('a firmware image', () => {
  const random = new Random(4);
  const code = Uint8Array.from({ length: 3000 }, () => Math.floor(random.uniform() * 256));
  const what = { product: 'Pfad', target: 'fell-f7', version: '3.1' };
  const image = writeImage(code, what);
  const inspect = (text: string, target?: string) => inspectImage(bytesOf(text), target);

  it('says what it is', () => {
    expect(inspect(image, 'fell-f7')).toMatchObject({ ok: true, info: { ...what, size: 3000 } });
    expect(inspect(image)).toMatchObject({ ok: true });
  });

  it('for another board is refused, by its revision as well', () => {
    expect(inspect(image, 'cobble-f4-wing')).toMatchObject({
      ok: false,
      why: expect.stringContaining('built for Fell F7 revision A; this is Cobble F4 Wing revision A.'),
    });
    const a = writeImage(code, { ...what, target: 'massif-h7-a' });
    expect(inspect(a, 'massif-h7-b').ok).toBe(false);
  });

  it('of an unknown board, without a descriptor, or for the loader’s place is refused', () => {
    expect(inspect(writeImage(code, { ...what, target: 'pebble' }))).toMatchObject({ ok: false });
    expect(inspect(writeHex(IMAGE_BASE, code))).toMatchObject({
      ok: false,
      why: expect.stringContaining('no descriptor'),
    });
    const low = inspect(writeHex(IMAGE_BASE - 16, code));
    expect(low).toMatchObject({ ok: false, line: 2, why: expect.stringContaining('into the loader') });
  });

  it('larger than the flash is refused with the line that goes beyond', () => {
    const large = new Uint8Array(512 * 1024 + 64);
    const found = inspect(writeImage(large, { ...what, target: 'cobble-f4-wing' }));
    expect(found).toMatchObject({ ok: false, why: expect.stringContaining('beyond 0x00180000') });
    if (!found.ok) expect(found.line).toBeGreaterThan(32_768);
  });

  it('with lines missing at its end or in its middle is refused, though every line is right', () => {
    const lines = image.trim().split('\n');
    const without = (n: number) => [...lines.slice(0, n), ...lines.slice(n + 1)].join('\n');
    expect(inspect(without(lines.length - 2))).toMatchObject({
      ok: false,
      why: expect.stringContaining('lines are missing'),
    });
    expect(inspect(without(60))).toMatchObject({ ok: false, why: expect.stringContaining('was changed') });
  });
});
