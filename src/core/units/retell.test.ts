import { describe, expect, it } from 'vitest';
import { retold } from './retell.ts';

describe('sentences in the units that a person likes', () => {
  it.each([
    [
      'It flies 12 m/s and is 405 m up.',
      'It flies 27 mph and is 1329 ft up.',
      'It flies 23 kt and is 1329 ft up.',
    ],
    ['5.5 km from home', '3.4 mi from home', '3 NM from home'],
    [
      'the wing of 1600 mm weighs 2.1 kg',
      'the wing of 63 in weighs 4.6 lb',
      'the wing of 1600 mm weighs 2.1 kg',
    ],
    ['goes from 5 to 60 m/s', 'goes from 11 to 134 mph', 'goes from 9.7 to 117 kt'],
    ['between 20 and 30 m', 'between 66 and 98 ft', 'between 66 and 98 ft'],
    ['It takes 5 min, 3 s at 14.8 V with 5000 mAh', null, null],
    ['Fell F7, gust 3, mode m, 9 motors, 2 more', null, null],
    ['acceleration of 4 m/s^2, 3 m/s²', null, null],
  ])('%s', (said, imperial, aviation) => {
    expect(retold(said, 'metric')).toBe(said);
    expect(retold(said, 'imperial')).toBe(imperial ?? said);
    expect(retold(said, 'aviation')).toBe(aviation ?? said);
  });

  it('writes the micro sign, which boards spell with a u', () => {
    for (const system of ['metric', 'imperial'] as const)
      expect(retold('at least 20 us before us', system)).toBe('at least 20 µs before us');
  });

  it('leaves what is told already, and converts once', () => {
    const once = retold('405 m above home', 'imperial');
    expect(retold(once, 'imperial')).toBe(once);
  });
});
