import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { torvholm } from '../../testing/demoCraft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { openCircuitV } from '../flight/battery.ts';
import { windAtHeight } from '../flight/wind.ts';
import { Random } from '../math/random.ts';
import { DEG } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { bareSite, makeSite } from '../site/site.ts';
import { checkAt, checkScenario, pairsAlong } from './checks.ts';
import { draftedReturn, levelWatts } from './drafted.ts';
import type { ReachCircumstances, WayPoint } from './homeMarch.ts';
import { limitWords, mendFor, reachPlace } from './place.ts';
import { reachGeoJson } from './reachGeoJson.ts';
import { beyondPiece, borderPieces, borderRings, homeMarch, marginAt, planOf, reachMap } from './reachMap.ts';

const usual: ReachCircumstances = {
  wind: { speedMps: 0, fromDeg: 0, gustMps: 0 },
  batteryShare: 0.9,
  reserveShare: 0.2,
  heightM: 120,
};
const flat = bareSite(torvholm.home, torvholm.year);
const input = (change: Values, c: Partial<ReachCircumstances> = {}, site = flat, airframe = turnstone) => ({
  airframe,
  values: prepared(airframe, { 'return.height': 120, 'return.climb': 'at-least', ...change }),
  site,
  circumstances: { ...usual, ...c },
});

describe('the march home', () => {
  it('takes the way over the speed, and its charge as the pack gives it', () => {
    const asked = input({ 'return.arrival': 'land' });
    const plan = planOf(asked);
    const march = homeMarch(asked, plan);
    const way: WayPoint[] = [];
    march.from(5000, 0, way);
    const pace = plan.paces[0];
    const last = way.at(-1)!;
    expect(last.seconds).toBeCloseTo(plan.beforeS + 5000 / pace.speedMps, 0);
    // By hand: constant power out of a pack whose rested voltage is taken at the middle of the way.
    const b = turnstone.battery;
    const mid = (0.9 + last.batteryShare) / 2;
    const open = b.cells * openCircuitV(b.chemistry, mid);
    const watts = levelWatts(pace, pace.speedMps);
    const volts = (open + Math.sqrt(open ** 2 - 4 * watts * b.cells * b.cellResistanceOhm)) / 2;
    const used = (watts / volts) * (last.seconds / (b.capacityMah * 3.6));
    expect(0.9 - last.batteryShare).toBeCloseTo(used, 3);
  });

  it('goes by the wind triangle, at the height it flies at', () => {
    const speedMps = 7;
    for (const [fromDeg, along] of [
      [0, 1],
      [180, -1],
      [90, 0],
    ] as const) {
      const asked = input({}, { wind: { speedMps, fromDeg, gustMps: 0 } });
      const plan = planOf(asked);
      const way: WayPoint[] = [];
      homeMarch(asked, plan).from(3000, 0, way);
      const wind = windAtHeight(speedMps, 120);
      const air = plan.paces[0].speedMps;
      // From the north: home lies downwind.
      const expected = along === 0 ? Math.sqrt(air ** 2 - wind ** 2) : air + along * wind;
      expect(way[5]!.wayMps).toBeCloseTo(expected, 1);
    }
  });

  it('stands still where the wind is stronger, and says where', () => {
    const asked = input(
      { 'return.speed': 14, 'return.faster': 0 },
      { wind: { speedMps: 11, fromDeg: 180, gustMps: 0 } },
    );
    const march = homeMarch(asked);
    expect(march.from(3000, 0)).toBeLessThan(-0.1);
    expect(march.limit).toBe('wind');
    expect(march.from(-3000, 0)).toBeLessThan(0.1);
    const place = reachPlace(march, 0, 3000);
    expect(limitWords(place, 'metric')).toMatch(/^stands still against 1\d m\/s/);
  });

  it('finds the hill on the way, and none once it flies over it', () => {
    const low = homeMarch(input({ 'return.height': 120, 'return.climb': 'climb-on-the-way' }, {}, torvholm));
    // Behind Aldrygg, 412 m, as the scenario of that name has it.
    const [north, east] = [5600 * Math.cos(318 * DEG), 5600 * Math.sin(318 * DEG)];
    expect(low.from(north, east)).toBeLessThan(-0.1);
    expect(low.limit).toBe('ground');
    expect(low.clearanceM).toBeLessThan(0);
    const high = homeMarch(input({ 'return.height': 430, 'return.climb': 'climb-first' }, {}, torvholm));
    expect(high.from(north, east)).toBeGreaterThan(0);
    expect(high.clearanceM).toBeGreaterThan(30);
  });

  it('over the ground under it, it rises with the hill as fast as it climbs', () => {
    const from = (above: string) => {
      const march = homeMarch(
        input({ 'return.above': above, 'return.height': 80 }, { heightM: 80 }, torvholm),
      );
      march.from(4500 * Math.cos(25 * DEG), 4500 * Math.sin(25 * DEG));
      return march.clearanceM;
    };
    expect(from('ground')).toBeGreaterThan(from('home'));
    expect(from('ground')).toBeGreaterThan(55);
  });

  it('begins over high ground as high as it has to fly there', () => {
    const march = homeMarch(input({}, { heightM: 50 }, torvholm));
    const way: WayPoint[] = [];
    march.from(4200 * Math.cos(318 * DEG), 4200 * Math.sin(318 * DEG), way);
    expect(way[0]!.heightM - way[0]!.groundM).toBeGreaterThan(59);
  });

  it('knows its fence and how long it may take', () => {
    const fenced = homeMarch(input({ 'fence.radius': 2000 }));
    expect(fenced.from(2500, 0)).toBeLessThan(0);
    expect(fenced.limit).toBe('fence');
    expect(fenced.from(1500, 0)).toBeGreaterThan(0);
    const short = homeMarch(input({ 'return.timeout': 120 }));
    expect(short.from(5000, 0)).toBeLessThan(0);
    expect(short.limit).toBe('time');
  });

  it('comes home from nowhere that less charge, more wind or more reserve leaves nothing for', () => {
    const margin = (c: Partial<ReachCircumstances>) => homeMarch(input({}, c)).from(4000, 1000);
    expect(margin({ batteryShare: 0.5 })).toBeLessThan(margin({ batteryShare: 0.8 }));
    expect(margin({ reserveShare: 0.6 })).toBeLessThan(margin({ reserveShare: 0.5 }));
    expect(margin({ wind: { speedMps: 8, fromDeg: 190, gustMps: 1.6 } })).toBeLessThan(margin({}));
  });

  it('asks ten minutes of circling of a craft that nobody lands', () => {
    const circles = homeMarch(input({ 'return.arrival': 'circle' }));
    circles.from(2000, 0);
    expect(circles.needFor).toBe('circling');
    const lands = homeMarch(input({ 'return.arrival': 'land' }));
    lands.from(2000, 0);
    expect(lands.needFor).toBe('reserve');
    expect(lands.needShare).toBeLessThan(circles.needShare);
  });

  it('is bounded for rotors by what their lean gives', () => {
    const c = { wind: { speedMps: 9, fromDeg: 180, gustMps: 0 } };
    const steep = homeMarch(input({ 'hover.tilt': 40 }, c, flat, avocet));
    const level = homeMarch(input({ 'hover.tilt': 8 }, c, flat, avocet));
    expect(steep.from(2000, 0)).toBeGreaterThan(level.from(2000, 0));
    expect(level.from(2000, 0)).toBeLessThan(-0.1);
    expect(level.limit).toBe('wind');
  });

  it('says of rotors that lean too little that they do, and mends it by more', () => {
    const wind = { speedMps: 9, fromDeg: 0, gustMps: 0 };
    const asked = input({ 'hover.tilt': 10 }, { wind, batteryShare: 1, heightM: 40 }, flat, avocet);
    const place = reachPlace(homeMarch(asked), 0, 600 * -1);
    expect(place.limit).toBe('wind');
    expect(limitWords(place, 'metric')).toMatch(/too little tilt: leaning 10° at most it makes \d+ m\/s/);
    const mend = mendFor(asked, 0, -600, 'metric');
    expect(mend!.label).toMatch(/Let it lean up to/);
    expect(
      homeMarch({ ...asked, values: { ...asked.values, ...mend!.edits } }).from(-600, 0),
    ).toBeGreaterThanOrEqual(0);
    expect(homeMarch(input({})).lean).toBeNull();
  });

  it('comes home from nowhere where it cannot fly at all', () => {
    const heavy = homeMarch(input({}, {}, flat, { ...turnstone, massKg: 40 }));
    expect(heavy.from(1000, 0)).toBeLessThan(-0.1);
    expect(limitWords(reachPlace(heavy, 0, 1000), 'metric')).toMatch(/cannot hold its height/);
    const rotors = homeMarch(input({}, {}, flat, { ...avocet, massKg: 30 }));
    expect(rotors.from(1000, 0)).toBeLessThan(-0.1);
  });

  it('refuses a board without a return', () => {
    expect(() => draftedReturn(turnstone, {}, 0)).toThrow(RangeError);
  });
});

describe('the map of the reach', () => {
  const calm = input({ 'return.arrival': 'land' }, { batteryShare: 0.42 });

  it('is a circle in calm air over level ground, where the charge ends', () => {
    const march = homeMarch(calm);
    const map = reachMap(march, 200);
    const rings = borderRings(map);
    expect(rings).toHaveLength(1);
    const radii = rings[0]!.map(([e, n]) => Math.hypot(e, n));
    expect(Math.max(...radii) - Math.min(...radii)).toBeLessThan(200);
    // Where the march itself turns bad.
    let far = 1000;
    while (march.from(far, 0) >= 0) far += 10;
    expect(Math.abs(far - radii[0]!)).toBeLessThan(150);
    expect(map.share).toBeCloseTo((Math.PI * far ** 2) / 12_200 ** 2, 1);
  });

  it('is drawn out against the wind', () => {
    const wind = { speedMps: 6, fromDeg: 270, gustMps: 0 };
    const map = reachMap(homeMarch({ ...calm, circumstances: { ...calm.circumstances, wind } }), 200);
    const east = borderRings(map)[0]!.map(([e]) => e);
    // From upwind, the west, it is blown home.
    expect(-Math.min(...east)).toBeGreaterThan(1.3 * Math.max(...east));
  });

  it('has a border in pieces, each with its reason and its bad side', () => {
    const asked = input(
      { 'return.height': 150, 'return.climb': 'climb-on-the-way', 'return.arrival': 'land' },
      { batteryShare: 0.5, wind: { speedMps: 5, fromDeg: 230, gustMps: 1 } },
      torvholm,
    );
    const map = reachMap(homeMarch(asked), 200);
    const pieces = borderPieces(map);
    expect(new Set(pieces.map((p) => p.limit))).toContain('ground');
    for (const p of pieces.filter((x) => x.points.length > 6)) {
      const i = Math.floor(p.points.length / 2);
      const [a, b] = [p.points[i - 1]!, p.points[i]!];
      const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
      const beside = (side: number) =>
        marginAt(map, a[0] + (side * 250 * (b[1] - a[1])) / l, a[1] - (side * 250 * (b[0] - a[0])) / l);
      expect(beside(p.badSide)).toBeLessThanOrEqual(beside(-p.badSide));
    }
  });

  it('tells of what lies beyond it, also where the line runs round a hill and home is on its other side', () => {
    const wind = { speedMps: 8, fromDeg: 230, gustMps: 1.6 };
    const asked = input(
      { 'return.height': 405, 'return.climb': 'climb-first' },
      { batteryShare: 0.75, wind },
      torvholm,
    );
    const march = homeMarch(asked);
    const long = borderPieces(reachMap(march, 100)).filter((p) => p.points.length > 30);
    expect(long.length).toBeGreaterThan(0);
    for (const piece of long) {
      const [east, north] = beyondPiece(piece, 150);
      expect(reachPlace(march, east, north).margin).toBeLessThan(0);
    }
  });

  it('is told as GeoJSON, longitude first, with the reasons in words', () => {
    const march = homeMarch(calm);
    const json = reachGeoJson(reachMap(march, 400), march, flat.home, calm.circumstances);
    const [area, ...border] = json.features;
    expect(area!.geometry.coordinates.length).toBeGreaterThan(0);
    expect(border[0]!.properties).toMatchObject({ what: 'border', limit: 'energy' });
    const [lon, lat] = (border[0]!.geometry.coordinates as number[][])[0]!;
    expect(Math.abs(lon! - flat.home.lon)).toBeLessThan(0.2);
    expect(Math.abs(lat! - flat.home.lat)).toBeLessThan(0.1);
  });

  it('has no border where it comes home from everywhere, or from nowhere', () => {
    const all = reachMap(homeMarch(input({}, { batteryShare: 1 })), 400, 2000);
    expect(all.share).toBe(1);
    expect(borderPieces(all)).toEqual([]);
    const none = reachMap(homeMarch(input({}, { batteryShare: 0.1 })), 400, 2000);
    expect(none.share).toBe(0);
    expect(borderPieces(none)).toEqual([]);
  });
});

describe('places to fly from', () => {
  it('lie in pairs beside the border, one good and one not', () => {
    const asked = input({ 'return.arrival': 'land' }, { batteryShare: 0.42 });
    const march = homeMarch(asked);
    const pairs = pairsAlong(reachMap(march, 200), march, 6, new Random(4));
    expect(pairs).toHaveLength(12);
    for (let k = 0; k < 12; k += 2) {
      expect(pairs[k]!.margin).toBeGreaterThanOrEqual(0);
      expect(pairs[k + 1]!.margin).toBeLessThan(0);
    }
  });

  it('lie anywhere where there is no border', () => {
    const march = homeMarch(input({}, { batteryShare: 0.1 }));
    const pairs = pairsAlong(reachMap(march, 400), march, 3, new Random(4));
    expect(pairs).toHaveLength(6);
    for (const p of pairs) expect(Math.hypot(p.eastM, p.northM)).toBeGreaterThan(199);
  });

  it('become flights that begin there in the air', () => {
    const march = homeMarch(input({}, {}, torvholm));
    const s = checkScenario(checkAt(march, 1500, -1500), usual, torvholm, 3);
    expect(s.outbound).toMatchObject({ bearingDeg: 135, begins: 'there' });
    expect(s.batteryShare).toBe(0.9);
  });
});

describe('what would bring it home', () => {
  const behind = [5600 * Math.sin(318 * DEG), 5600 * Math.cos(318 * DEG)] as const;

  it('is a height that clears the hill, and holds', () => {
    const asked = input({ 'return.climb': 'climb-on-the-way' }, {}, torvholm);
    const mend = mendFor(asked, ...behind, 'metric')!;
    expect(Object.keys(mend.edits)).toContain('return.height');
    const mended = { ...asked, values: { ...asked.values, ...mend.edits } };
    expect(homeMarch(mended).from(behind[1], behind[0])).toBeGreaterThanOrEqual(0);
  });

  it('is a speed against a wind', () => {
    const asked = input(
      { 'return.speed': 14, 'return.faster': 0 },
      { wind: { speedMps: 10, fromDeg: 180, gustMps: 0.5 } },
    );
    const mend = mendFor(asked, 0, 2500, 'metric')!;
    expect(mend.edits['return.speed']).toBeGreaterThan(14);
  });

  it('is nothing where it comes home, or where nothing helps', () => {
    expect(mendFor(input({}), 0, 1000, 'metric')).toBeNull();
    expect(mendFor(input({}, { batteryShare: 0.05 }), 0, 5000, 'metric')).toBeNull();
  });

  it('is not asked of the ground where nobody knows it', () => {
    const unknown = makeSite({ ...flat, name: 'Nowhere' }, null);
    const march = homeMarch(input({ 'return.height': 20 }, { heightM: 20 }, unknown));
    march.from(3000, 0);
    expect(march.limit).not.toBe('ground');
  });
});
