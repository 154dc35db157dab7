import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type FigureShape, figure, figureColumns, LARGER_LENGTHS, outgrownWays } from './figure.ts';

const distance: FigureShape = { unit: 'm', whole: 4, decimals: 0, larger: LARGER_LENGTHS };
const volts: FigureShape = { unit: 'v', whole: 2, decimals: 1 };

describe('a figure in its cells', () => {
  it('stands at the right of them with its unit behind it', () => {
    expect(figure(37.4, distance, 'metric', 'coarser')).toBe('  37m');
    expect(figure(16.04, volts, 'metric', 'coarser')).toBe('16.0V');
    expect(figure(9, volts, 'metric', 'coarser')).toBe(' 9.0V');
  });

  it('turns to dashes where nobody knows it', () => {
    expect(figure(Number.NaN, distance, 'metric', 'coarser')).toBe('----m');
    expect(figure(Number.POSITIVE_INFINITY, volts, 'metric', 'most')).toBe('----V');
  });

  it('goes to a larger unit, its greatest or dashes when it outgrows them', () => {
    expect(figure(12_345, distance, 'metric', 'coarser')).toBe('12.3k');
    expect(figure(123_456, distance, 'metric', 'coarser')).toBe(' 123k');
    expect(figure(12_345, distance, 'metric', 'most')).toBe('9999m');
    expect(figure(12_345, distance, 'metric', 'dashes')).toBe('----m');
    expect(figure(1234, volts, 'metric', 'coarser')).toBe('1234V');
    expect(figure(12_345, volts, 'metric', 'coarser')).toBe('----V');
  });

  it('drops decimals before it goes to another unit', () => {
    expect(figure(123.4, volts, 'metric', 'coarser')).toBe(' 123V');
    expect(figure(-3.26, { unit: 'm/s', whole: 3, decimals: 1 }, 'metric', 'coarser')).toBe(' -3.3m/s');
  });

  it('tells feet, miles and nautical miles by their definitions', () => {
    // 0.3048 m a foot, 5280 ft a mile, 1852 m a nautical mile.
    expect(figure(100, distance, 'imperial', 'coarser')).toBe(' 328ft');
    expect(figure(16_093.44, distance, 'imperial', 'coarser')).toBe('10.0M ');
    expect(figure(18_520, distance, 'aviation', 'coarser')).toBe('10.0N ');
  });

  it('never shows minus nought', () => {
    expect(figure(-0.2, distance, 'metric', 'coarser')).toBe('   0m');
    expect(figure(-0.02, volts, 'metric', 'coarser')).toBe(' 0.0V');
  });

  it('takes the same cells whatever the number', () => {
    fc.assert(
      fc.property(
        fc.double(),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 0, max: 2 }),
        fc.constantFrom('metric' as const, 'imperial' as const, 'aviation' as const),
        fc.constantFrom(...outgrownWays),
        (value, whole, decimals, units, outgrown) => {
          const shape = { ...distance, whole, decimals };
          expect(figure(value, shape, units, outgrown)).toHaveLength(figureColumns(shape, units));
        },
      ),
    );
  });
});
