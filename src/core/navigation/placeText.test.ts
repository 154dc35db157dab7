import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placeOfText, placeText } from './placeText.ts';

describe('a place that is typed', () => {
  it.each([
    ['61.905, -12.43', 61.905, -12.43],
    ['  61.905   -12.43 ', 61.905, -12.43],
    ['N 61.905 W 12.43', 61.905, -12.43],
    ['61.905° n; 12.43° w', 61.905, -12.43],
    ['s33.1, e 5', -33.1, 5],
    ['0 0', 0, 0],
    ['-90,180', -90, 180],
  ])('%s is read', (text, lat, lon) => {
    const place = placeOfText(text)!;
    expect(place.lat).toBeCloseTo(lat, 12);
    expect(place.lon).toBeCloseTo(lon, 12);
  });

  it.each([
    '',
    '61.905',
    '91, 0',
    '0, 181',
    'north, west',
    // A sign and a letter say it twice, and perhaps not the same.
    'S -33.1, 5',
    // Longitude first is not guessed at.
    'W 12.43 N 61.905',
    '61,905 12,43',
    '1 2 3',
  ])('%s is none', (text) => {
    expect(placeOfText(text)).toBeNull();
  });

  it('is read as it was written, to a metre', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        (lat, lon) => {
          const place = placeOfText(placeText({ lat, lon }))!;
          // Half of the last digit, 1e-5 degrees, is half a metre on the ground.
          expect(Math.abs(place.lat - lat)).toBeLessThan(0.51e-5);
          expect(Math.abs(place.lon - lon)).toBeLessThan(0.51e-5);
        },
      ),
    );
  });
});
