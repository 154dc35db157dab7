import { describe, expect, it } from 'vitest';
import {
  displayOf,
  formatBearing,
  formatClock,
  formatDuration,
  formatNumber,
  formatQuantity,
} from './units.ts';

describe('units', () => {
  it('are shown as the person likes, from their definitions', () => {
    // International foot 0.3048 m, statute mile 1609.344 m, nautical mile 1852 m, pound 0.45359237 kg.
    expect(formatQuantity(100, 'm', 'imperial')).toBe('328 ft');
    expect(formatQuantity(10, 'm/s', 'imperial', 2)).toBe('22.37 mph');
    expect(formatQuantity(10, 'm/s', 'aviation', 2)).toBe('19.44 kt');
    expect(formatQuantity(2.1, 'kg', 'imperial', 2)).toBe('4.63 lb');
    expect(formatQuantity(45, 'deg', 'metric')).toBe('45°');
    expect(displayOf('m2', 'imperial').factor).toBeCloseTo(10.7639, 4);
  });

  it('are written without useless digits', () => {
    expect(formatNumber(120)).toBe('120');
    expect(formatNumber(1.5)).toBe('1.5');
    expect(formatNumber(0.075)).toBe('0.075');
    expect(formatNumber(-0.0001)).toBe('0');
    expect(formatDuration(42.4)).toBe('42 s');
    expect(formatDuration(340)).toBe('5 min 40 s');
    expect(formatDuration(120)).toBe('2 min');
    expect(formatClock(185)).toBe('3:05');
  });

  it('tell bearings with three digits, from whichever side they were counted', () => {
    expect(formatBearing(0)).toBe('000°');
    expect(formatBearing(-Math.PI / 2)).toBe('270°');
    expect(formatBearing(5 * Math.PI)).toBe('180°');
    // Just short of north is north, and never 360.
    expect(formatBearing(-0.001)).toBe('000°');
    expect(formatBearing((359.6 * Math.PI) / 180)).toBe('000°');
  });

  it('tell cells as a person counts them, whatever units are liked', () => {
    expect(formatQuantity(0, 'cell')).toBe('row 1, column 1');
    expect(formatQuantity(2159, 'cell', 'imperial')).toBe('row 22, column 60');
    expect(formatQuantity(-1, 'cell')).toBe('not shown');
    expect(formatQuantity(470_000, 'ohm', 'aviation')).toMatch(/^470000 /);
  });
});
