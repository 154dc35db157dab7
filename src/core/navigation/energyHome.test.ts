import { describe, expect, it } from 'vitest';
import { EnergyHome, type HomeCharges, type HomeWhere } from './energyHome.ts';
import { groundSpeedAlong } from './windTriangle.ts';

const wing: HomeCharges = {
  rotors: false,
  speedMps: 18,
  climb: 'climb-first',
  heightM: 120,
  currentA: 9,
  climbMah: 120,
  beforeS: 2.3,
};
const at = (more: Partial<HomeWhere> = {}): HomeWhere => ({
  north: 3000,
  east: 0,
  up: 120,
  windNorth: 0,
  windEast: 0,
  windDoubt: 0,
  ...more,
});
const need = (c: HomeCharges, w: HomeWhere) => {
  const e = new EnergyHome(c);
  e.look(w);
  return e;
};

describe('what the way home takes, as a board reckons it', () => {
  it('in still air is distance over speed times current', () => {
    const seconds = 3000 / 18 + 2.3 + 12;
    expect(need(wing, at()).needMah).toBeCloseTo((1.03 * 9 * seconds) / 3.6, 6);
  });

  it('goes by the wind triangle', () => {
    for (const [windNorth, windEast] of [
      [6, 0],
      [-6, 0],
      [0, 7],
      [4, -5],
    ] as const) {
      const e = need(wing, at({ windNorth, windEast }));
      // Home lies to the south.
      expect(e.wayMps).toBeCloseTo(groundSpeedAlong(18, -windNorth, windEast), 9);
    }
  });

  it('adds the climb, and the stronger wind higher up', () => {
    const low = at({ up: 20 });
    expect(need(wing, low).needMah - need(wing, at()).needMah).toBeCloseTo(1.03 * 120, 6);
    expect(need({ ...wing, climb: 'keep-height' }, low).needMah).toBeCloseTo(need(wing, at()).needMah, 6);
    const windy = need(wing, at({ up: 20, windNorth: 5 }));
    expect(windy.wayMps).toBeCloseTo(18 - (5 * Math.log(120 / 0.03)) / Math.log(20 / 0.03), 6);
  });

  it('says where no way is made, and stays finite', () => {
    const e = need(wing, at({ windNorth: 25 }));
    expect(e.makesWay).toBe(false);
    expect(Number.isFinite(e.needMah)).toBe(true);
    expect(need(wing, at({ windEast: 40 })).makesWay).toBe(false);
    expect(need(wing, at({ north: 0 })).needMah).toBeLessThan(50);
  });

  it('takes more against doubt', () => {
    expect(need(wing, at({ windDoubt: 2 })).needMah).toBeGreaterThan(need(wing, at()).needMah);
  });

  it('of rotors flies no faster over ground than asked, and takes more through faster air', () => {
    const rotors = { ...wing, rotors: true, speedMps: 12 };
    const tail = need(rotors, at({ windNorth: -6 }));
    const head = need(rotors, at({ windNorth: 6 }));
    expect(tail.wayMps).toBe(12);
    expect(head.wayMps).toBe(12);
    expect(head.needMah).toBeGreaterThan(tail.needMah);
  });
});
