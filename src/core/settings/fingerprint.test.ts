import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { crc32 } from '../wire/crc32.ts';
import { sameValue } from './catalogue.ts';
import { fingerprintOf } from './fingerprint.ts';

const value = fc.oneof(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.string(), fc.boolean());
const values = fc.dictionary(fc.stringMatching(/^[a-z][a-z.]{0,8}$/), value, { maxKeys: 12 });

describe('the fingerprint of settings', () => {
  it('is as docs/link.md says: CRC-32 of key=value lines in the order of keys, eight hex digits', () => {
    const text = 'a.x=1.5\nb=yes\nc=true';
    const expected = crc32(new TextEncoder().encode(text)).toString(16).padStart(8, '0');
    expect(fingerprintOf({ c: true, 'a.x': 1.5, b: 'yes' })).toBe(expected);
  });

  it('does not depend on the order in which settings were put', () => {
    fc.assert(
      fc.property(values, (v) => {
        const turned = Object.fromEntries(Object.entries(v).reverse());
        expect(fingerprintOf(turned)).toBe(fingerprintOf(v));
      }),
    );
  });

  it('changes when a value does', () => {
    expect(fingerprintOf({ a: 1 })).not.toBe(fingerprintOf({ a: 2 }));
    expect(fingerprintOf({ a: true })).not.toBe(fingerprintOf({ a: false }));
    expect(fingerprintOf({ a: 1, b: 2 }, ['a'])).toBe(fingerprintOf({ a: 1, b: 9 }, ['a']));
  });

  it('allows for the rounding of a board that keeps 32-bit floats, as comparing does', () => {
    const kept = Math.fround(0.075);
    expect(sameValue(0.075, kept)).toBe(true);
    expect(sameValue(0.075, 0.0751)).toBe(false);
    expect(fingerprintOf({ a: 0.075 })).toBe(fingerprintOf({ a: kept }));
  });
});
