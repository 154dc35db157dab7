import { describe, expect, it } from 'vitest';
import { flyLoss } from '#bench/lossFlown.ts';
import { demoValues, flyableDemo, torvholm } from '../../testing/demoCraft.ts';
import { turnstone } from '../airframe/library.ts';
import { groundAbout, levelGround } from '../flight/terrain.ts';
import { windAtHeight } from '../flight/wind.ts';
import { Random } from '../math/random.ts';
import { GRAVITY } from '../math/scalar.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { EndingFlyer, type endings, type SearchWorld, sharesOf } from './endings.ts';
import { fallingCraft } from './fallingCraft.ts';
import type { LastSeen } from './lastSeen.ts';
import { BANDS, flyEndings, likelihoodOf, searchedBefore, withSearched } from './likelihood.ts';
import { searchGeoJson } from './searchFiles.ts';
import { inSight, searchWalk } from './walk.ts';

const home = { lat: 61.9, lon: -12.43, heightM: 0 };
const flat = levelGround(home, 0);
const ground = { ...groundAbout(flat, home), terrain: { ...flat, known: true } };
const seen: LastSeen = {
  lat: home.lat,
  lon: home.lon,
  heightM: 120,
  accuracyM: 0.5,
  courseRad: 0,
  speedMps: 15,
  climbMps: 0,
  windFromRad: 0,
  windMps: 0,
  returning: false,
};
const craft = fallingCraft(turnstone, demoValues('turnstone'));
const world = (more: Partial<LastSeen> = {}, of: Partial<typeof craft> = {}): SearchWorld => ({
  craft: { ...craft, ...of },
  seen: { ...seen, ...more },
  ground,
  home,
});

/** Many flights of one ending: mean place and spread. */
function flown(w: SearchWorld, ending: (typeof endings)[number], count = 1500) {
  const flyer = new EndingFlyer(w, new Random(3));
  const out = { north: 0, east: 0, seconds: 0 };
  let [north, east, far, seconds] = [0, 0, 0, 0];
  for (let k = 0; k < count; k++) {
    flyer.fly(ending, out);
    north += out.north / count;
    east += out.east / count;
    far += Math.hypot(out.north, out.east) / count;
    seconds += out.seconds / count;
  }
  return { north, east, far, seconds };
}

describe('endings', () => {
  it('glide as far as the height times the ratio, in still air', () => {
    // Closed form: 120 m times the ratio. They lie somewhat nearer, since few glides are quite straight.
    const { far, seconds } = flown(world(), 'glide');
    expect(far / (120 * craft.glideRatio)).toBeGreaterThan(0.8);
    expect(far / (120 * craft.glideRatio)).toBeLessThan(1);
    expect((seconds * craft.glideMps) / far).toBeGreaterThan(0.9);
  });

  it('fall near to where a stone would, and never farther than without drag', () => {
    const { far } = flown(world(), 'fall');
    const vacuum = 15 * Math.sqrt((2 * 120) / GRAVITY);
    // It flies on for what the board waits before it acts, in a part of them.
    const before = craft.beforeS * craft.cruiseMps;
    expect(far).toBeLessThan(vacuum + before);
    expect(far).toBeGreaterThan(0.3 * vacuum);
  });

  it('drift with the wind by its time in the air', () => {
    const round = flown(
      world({ windFromRad: -Math.PI / 2, windMps: 8 }, { action: 'cut', beforeS: 0 }),
      'circling',
    );
    // From the west: to the east, by the profile between 8 m/s at 10 m and more above.
    expect(round.east / round.seconds).toBeGreaterThan(0.9 * windAtHeight(8, 10));
    expect(round.east / round.seconds).toBeLessThan(1.1 * windAtHeight(8, 120));
    expect(Math.abs(round.north)).toBeLessThan(0.2 * round.east);
  });

  it('lie on the way home where it was on its way', () => {
    const away = {
      lat: latitudeAt(home.lat, 2000),
      lon: longitudeAt(home.lat, home.lon, 0),
      returning: true,
    };
    const { north, east } = flown(world(away, { climbsFirst: false }), 'way-home');
    expect(north).toBeLessThan(-300);
    expect(north).toBeGreaterThan(-2000);
    expect(Math.abs(east)).toBeLessThan(100);
  });

  it('come less far on the way home below the height that is climbed to: a nose held up costs glide', () => {
    // Far enough from home that none arrives; there is no wind, so what differs is the glide alone.
    const away = { lat: latitudeAt(home.lat, -6000), lon: home.lon, returning: true };
    const at = (returnHeightM: number) =>
      flown(world(away, { returnHeightM, climbsFirst: false, climbMps: 0.01, cruiseMps: 0.01 }), 'way-home')
        .north;
    const [below, above] = [at(400), at(20)];
    expect(above).toBeGreaterThan(0);
    // By a share from 1 to a quarter, evenly: its mean is five eighths, of those that glide.
    expect(below / above).toBeGreaterThan(0.5);
    expect(below / above).toBeLessThan(0.85);
  });

  it('are weighed by what the board does at a loss, and by what was seen', () => {
    const sum = (s: Readonly<Record<string, number>>) => Object.values(s).reduce((a, b) => a + b, 0);
    for (const action of ['return', 'glide', 'cut', 'nothing'] as const)
      for (const rotors of [false, true])
        expect(sum(sharesOf({ ...craft, action, rotors }, seen))).toBeCloseTo(1, 9);
    const diving = sharesOf(craft, { ...seen, climbMps: -20 });
    expect(diving.fall).toBeGreaterThan(0.5);
    expect(sharesOf(craft, { ...seen, batteryShare: 0.05 })['flown-on']).toBeLessThan(
      sharesOf(craft, seen)['flown-on'],
    );
  });
});

describe('a map of where it may lie', () => {
  const w = world();
  const map = likelihoodOf(flyEndings(w, 3000, 1), w);

  it('holds all of the chance once, likeliest squares first', () => {
    expect(map.chance.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    for (let k = 1; k < map.order.length; k++)
      expect(map.chance[map.order[k]!]).toBeLessThanOrEqual(map.chance[map.order[k - 1]!]!);
    const first = map.order[0]!;
    const [i, j] = [first % map.columns, Math.floor(first / map.columns)];
    expect(
      searchedBefore(map, map.southM + (j + 0.5) * map.cellM, map.westM + (i + 0.5) * map.cellM),
    ).toBeCloseTo(1 / map.order.length, 9);
    expect(searchedBefore(map, 1e6, 0)).toBe(1);
  });

  it('gives a walk that leaves nothing out twice, and bearings that lead from step to step', () => {
    const walk = searchWalk(map, -100, 50);
    let [north, east] = [-100, 50];
    let found = 0;
    for (const s of walk) {
      expect(north + s.distanceM * Math.cos(s.bearingRad)).toBeCloseTo(s.north, 6);
      expect(east + s.distanceM * Math.sin(s.bearingRad)).toBeCloseTo(s.east, 6);
      expect(s.found - found).toBeCloseTo(s.chance, 9);
      [north, east, found] = [s.north, s.east, s.found];
    }
    expect(new Set(walk.map((s) => `${s.north} ${s.east}`)).size).toBe(walk.length);
    expect(found).toBeGreaterThan(0.3);
  });

  it('takes off what was looked over, by Bayes’ rule', () => {
    const [first] = searchWalk(map, 0, 0);
    const after = withSearched(map, [first!]);
    expect(after.chance.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    const again = searchWalk(after, 0, 0).find((s) => s.north === first!.north && s.east === first!.east);
    // P(there | not found) = 0.15 p / (1 - 0.85 p); the walk’s own chance is of what is searched at all.
    const p = chanceIn(map, first!);
    expect(chanceIn(after, first!)).toBeCloseTo((0.15 * p) / (1 - 0.85 * p), 6);
    expect(again?.chance ?? 0).toBeLessThan(first!.chance);
  });

  it('is told as GeoJSON: nested bands that hold all of it, closed rings, the walk', () => {
    const json = searchGeoJson(map, searchWalk(map, 0, 0), seen);
    const bands = json.features.filter((f) => f.properties.what === 'may lie here');
    expect(bands).toHaveLength(BANDS.length);
    const total = bands.reduce((sum, f) => sum + (f.properties as { chance: number }).chance, 0);
    expect(total).toBeGreaterThan(0.89);
    for (const f of bands)
      if (f.geometry.type === 'MultiPolygon')
        for (const [ring] of f.geometry.coordinates) expect(ring![0]).toEqual(ring!.at(-1));
    expect(json.features.at(-1)!.geometry.type).toBe('LineString');
  });
});

const chanceIn = (
  map: ReturnType<typeof likelihoodOf>,
  s: { north: number; east: number; sideM: number },
) => {
  let sum = 0;
  const i0 = Math.round((s.east - s.sideM / 2 - map.westM) / map.cellM);
  const j0 = Math.round((s.north - s.sideM / 2 - map.southM) / map.cellM);
  const n = Math.round(s.sideM / map.cellM);
  for (let j = j0; j < Math.min(map.rows, j0 + n); j++)
    for (let i = i0; i < Math.min(map.columns, i0 + n); i++) sum += map.chance[j * map.columns + i]!;
  return sum;
};

describe('line of sight', () => {
  const about = groundAbout(torvholm.terrain, torvholm.home);
  const at = (north: number, east: number) => ({
    lat: latitudeAt(torvholm.home.lat, north),
    lon: longitudeAt(torvholm.home.lat, torvholm.home.lon, east),
  });

  it('is there over level ground and near by, and not through a ridge', () => {
    expect(inSight(ground, home, home, { lat: latitudeAt(home.lat, 1500), lon: home.lon })).toBe(true);
    expect(inSight(about, torvholm.home, at(0, 0), at(20, 10))).toBe(true);
    // Aldrygg, 412 m, lies to the west of the strip.
    expect(inSight(about, torvholm.home, at(0, 0), at(4200, -3700))).toBe(false);
  });
});

describe('losses flown in the bench', () => {
  it('lie early in the area that is searched', () => {
    let early = 0;
    let flownLosses = 0;
    for (let seed = 40; flownLosses < 5; seed++) {
      const demo = flyableDemo(seed % 2 === 0 ? 'turnstone' : 'avocet');
      const loss = flyLoss(demo, torvholm, seed);
      if (!loss) continue;
      flownLosses++;
      const w = {
        craft: fallingCraft(demo.airframe, loss.values),
        seen: loss.seen,
        ground: groundAbout(torvholm.terrain, torvholm.home),
        home: torvholm.home,
      };
      if (searchedBefore(likelihoodOf(flyEndings(w, 2000, seed), w), loss.north, loss.east) <= 0.2) early++;
    }
    // Two hundred of them are flown by `npm run bench`.
    expect(early).toBeGreaterThanOrEqual(4);
  });
});
