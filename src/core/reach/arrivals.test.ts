import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { torvholm } from '../../testing/demoCraft.ts';
import { turnstone } from '../airframe/library.ts';
import { levelGround } from '../flight/terrain.ts';
import { parseScenario } from '../formats/scenario.ts';
import { DEG } from '../math/scalar.ts';
import { latitudeAt } from '../navigation/earth.ts';
import { approachHeight } from '../navigation/landingApproach.ts';
import { makeSite } from '../site/site.ts';
import { ARRIVAL_WINDS_DEG, approachOf, arrivalScenario } from './arrivals.ts';

const values = prepared(turnstone, { 'land.height': 35, 'land.slope': 5, 'loiter.radius': 80 });
const base = {
  seed: 3,
  wind: { speedMps: 6, fromDeg: 230, gustMps: 1 },
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
};

describe('arrivals', () => {
  it('are flights that begin near home at the return height, in each wind', () => {
    for (const fromDeg of ARRIVAL_WINDS_DEG) {
      const s = arrivalScenario(base, values, torvholm, fromDeg);
      expect(parseScenario(s, torvholm).ok).toBe(true);
      expect(s.wind).toEqual({ speedMps: 6, fromDeg, gustMps: 1 });
      expect(s.outbound.heightM).toBe(values['return.height']);
    }
  });

  it('lie downwind of home, as long as slope and circle ask for', () => {
    const a = approachOf(values, torvholm, 270);
    expect(a.gate[0]).toBeCloseTo(35 / Math.tan((5 * Math.PI) / 180) + 160, 6);
    expect(a.gate[1]).toBeCloseTo(0, 6);
  });

  it('come down short of home by what the flare floats, as fast as the craft comes over the ground', () => {
    const slope = Math.tan(5 * DEG);
    // 11 m/s over the ground float 44 m in four seconds: the slope meets the ground there.
    expect(approachHeight(44, 11, slope)).toBeCloseTo(0, 9);
    expect(approachHeight(244, 11, slope)).toBeCloseTo(200 * slope, 9);
    // Against the wind it floats less far.
    expect(approachHeight(244, 5, slope)).toBeGreaterThan(approachHeight(244, 11, slope));
  });

  it('find a mast under the slope, and none beside it', () => {
    const { bare, terrain, ...fields } = torvholm;
    const level = {
      ...levelGround(fields.home, 10),
      known: true,
      columns: 401,
      rows: 401,
      cellM: 10,
      westM: -2000,
      southM: -2000,
      heights: new Float32Array(401 * 401).fill(10),
    };
    const mast = {
      name: 'Mast',
      lat: latitudeAt(fields.home.lat, -200),
      lon: fields.home.lon,
      topM: 40,
      radiusM: 5,
    };
    const site = makeSite({ ...fields, obstacles: [mast] }, level);
    // Wind from the north: the approach comes from the south.
    const under = approachOf(values, site, 0);
    expect(under.clearanceM).toBeLessThan(0);
    expect(under.clearanceAtM).toBeGreaterThan(150);
    expect(approachOf(values, site, 180).clearanceM).toBeGreaterThan(0);
  });

  it('along a strip comes from whichever of its two ends lies downwind', () => {
    const along = { ...values, 'land.along': 'strip', 'land.strip': 60 };
    const bearing = (fromDeg: number) => {
      const [e, n] = approachOf(along, torvholm, fromDeg).gate;
      return Math.round((Math.atan2(e, n) / DEG + 360) % 360);
    };
    // Wind from 60 and all that is more against that way: the gate lies beyond home, at 240.
    expect([60, 0, 120].map(bearing)).toEqual([240, 240, 240]);
    expect([240, 200, 300].map(bearing)).toEqual([60, 60, 60]);
  });
});
