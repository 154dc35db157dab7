import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { placeAt, pointAt, routeOf, squareAt } from '../../testing/plans.ts';
import { bareSite } from '../site/site.ts';
import { planPrint } from './packPlan.ts';
import {
  guessHeights,
  planOfFile,
  planToGeoJson,
  planToGpx,
  planToKml,
  readRoute,
  tooFar,
} from './routeFiles.ts';

const { home } = torvholm;
const plan = routeOf(
  [
    pointAt(600, 200, { heightM: 120 }),
    pointAt(1200, 300, { heightM: 90, above: 'ground', do: 'circle', turns: 2 }),
    pointAt(900, -400, { heightM: 150, speedMps: 18 }),
  ],
  'circle',
  [squareAt(500, 0, 3000, { keep: 'in', toM: 0, name: 'Common & farm' })],
);
const read = (text: string) => {
  const r = readRoute(text);
  if (!r.ok) throw new Error(r.why);
  return r.route;
};
const why = (text: string) => {
  const r = readRoute(text);
  return r.ok ? '' : r.why;
};

describe('a route in a file', () => {
  it('goes out as GeoJSON and comes back the same plan, with everything', () => {
    const back = read(planToGeoJson(plan));
    expect(planPrint(back.plan!)).toBe(planPrint(plan));
  });

  it('is plain GeoJSON for everybody else: longitude first, rings closed', () => {
    const { features } = JSON.parse(planToGeoJson(plan));
    const line = features.find((f: { geometry: { type: string } }) => f.geometry.type === 'LineString');
    expect(line.geometry.coordinates[0][0]).toBeCloseTo(plan.points[0]!.lon, 6);
    const area = features.find((f: { geometry: { type: string } }) => f.geometry.type === 'Polygon');
    expect(area.geometry.coordinates[0][0]).toEqual(area.geometry.coordinates[0].at(-1));
    const { wanderwegPlan: _, ...foreign } = JSON.parse(planToGeoJson(plan));
    const route = read(JSON.stringify(foreign));
    expect(route.points).toHaveLength(3);
    expect(route.areas).toEqual([expect.objectContaining({ name: 'Common & farm' })]);
    expect(route.areas[0]!.corners).toHaveLength(4);
  });

  it('goes out as GPX and KML with heights above the sea, and comes back where it was', () => {
    for (const text of [planToGpx('A & b', plan, torvholm), planToKml('A & b', plan, torvholm)]) {
      const route = read(text);
      expect(route.points).toHaveLength(3);
      expect(guessHeights(route, torvholm)).toEqual({ meaning: 'sea', why: '' });
      const back = planOfFile(route, 'sea', home);
      expect(back.points[0]!.heightM).toBeCloseTo(120, 0);
      expect(back.points[0]!.lat).toBeCloseTo(plan.points[0]!.lat, 6);
      // What was above the ground comes back as high above home as that was.
      expect(back.points[1]!.heightM).toBeGreaterThan(80);
    }
  });

  it('may be a GPX track or waypoints, and KML with heights above the ground', () => {
    const at = (n: number, e: number) => {
      const { lat, lon } = placeAt(n, e);
      return `lat="${lat}" lon="${lon}"`;
    };
    const gpx = (inner: string) =>
      `<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">${inner}</gpx>`;
    const track = gpx(`<trk><trkseg><trkpt ${at(1, 1)}/><trkpt ${at(900, 1)}/></trkseg></trk>`);
    expect(read(track).points).toHaveLength(2);
    expect(read(gpx(`<wpt ${at(1, 1)}/><wpt ${at(900, 1)}/><wpt ${at(900, 800)}/>`)).points).toHaveLength(3);
  });

  it('without heights gets the usual one; of half of them none is used', () => {
    const { lat, lon } = placeAt(500, 0);
    const line = (coordinates: number[][]) => JSON.stringify({ type: 'LineString', coordinates });
    const none = read(
      line([
        [lon, lat],
        [lon, lat + 0.01],
      ]),
    );
    expect(guessHeights(none, torvholm)).toMatchObject({
      meaning: 'none',
      why: expect.stringMatching(/no heights/),
    });
    expect(planOfFile(none, 'none', home).points.map((p) => p.heightM)).toEqual([100, 100]);
    const half = read(
      line([
        [lon, lat, 200],
        [lon, lat + 0.01],
      ]),
    );
    expect(guessHeights(half, torvholm)).toMatchObject({
      meaning: 'none',
      why: expect.stringMatching(/1 of its 2/),
    });
  });

  it('whose heights lie below the ground is not counted from the sea', () => {
    // On the hill: 60 m would be far below it.
    const { lat, lon } = { lat: torvholm.places[0]!.lat, lon: torvholm.places[0]!.lon };
    const route = read(
      JSON.stringify({
        type: 'LineString',
        coordinates: [
          [home.lon, home.lat, 30],
          [lon, lat, 30],
        ],
      }),
    );
    const guess = guessHeights(route, torvholm);
    expect(guess.meaning).not.toBe('sea');
    expect(guess.why).toMatch(/below the ground.*ellipsoid/);
  });

  it('is refused as a whole with a sentence that says why', () => {
    expect(why('nothing of the kind')).toMatch(/neither GPX nor KML nor GeoJSON. Nothing was taken/);
    expect(why('<svg xmlns="http://www.w3.org/2000/svg"/>')).toMatch(/another kind: svg/);
    expect(why('<gpx><rte><rtept lat="1" lon="2">')).toMatch(/damaged/);
    expect(why('<!DOCTYPE gpx [<!ENTITY a "b">]><gpx/>')).toMatch(/definitions of its own/);
    expect(why('{"type":"FeatureCollection","features":[')).toMatch(/broken off or damaged/);
    expect(why('{"type":"FeatureCollection","features":[]}')).toMatch(/no points, no line and no area/);
    expect(why(JSON.stringify({ type: 'LineString', coordinates: [[400, 95]] }))).toMatch(/none on earth/);
    expect(why(JSON.stringify({ type: 'LineString', coordinates: [['a', 'b']] }))).toMatch(/none on earth/);
    expect(why('x'.repeat(2_000_001))).toMatch(/more than 2 MB/);
    const own = JSON.parse(planToGeoJson(plan));
    own.wanderwegPlan.points[1].heightM = 99_999;
    expect(why(JSON.stringify(own))).toMatch(/points.1.heightM/);
    const bow = JSON.parse(planToGeoJson(plan));
    const { corners } = bow.wanderwegPlan.fences[0].area;
    [corners[1], corners[2]] = [corners[2], corners[1]];
    expect(why(JSON.stringify(bow))).toMatch(/crosses itself/);
  });

  it('of five thousand points is told from a route', () => {
    const coordinates = Array.from({ length: 5000 }, (_, i) => [home.lon + 0.0001 * i, home.lat, 50]);
    expect(why(JSON.stringify({ type: 'LineString', coordinates }))).toMatch(
      /5,000 points; a board keeps 120. It looks like a track/,
    );
  });

  it('of another part of the world is told, and latitude for longitude', () => {
    expect(tooFar(plan.points, home)).toBeNull();
    expect(tooFar([{ lat: 10, lon: 10 }], home)).toMatch(/km from home: it is of another site/);
    expect(tooFar([{ lat: home.lon, lon: home.lat }], home)).toMatch(/exchanged/);
  });

  it('above ground that nobody knows keeps its heights', () => {
    const bare = bareSite(home, 2026);
    const route = read(planToGpx('x', routeOf([pointAt(500, 0, { heightM: 80 })]), bare));
    expect(planOfFile(route, guessHeights(route, bare).meaning, home).points[0]!.heightM).toBeCloseTo(80, 0);
  });
});
