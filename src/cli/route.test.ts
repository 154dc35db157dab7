import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { planToGeoJson, planToGpx } from '#core/plan/routeFiles.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { heardCommandLine } from '../testing/heard.ts';
import { pointAt, routeOf, squareAt } from '../testing/plans.ts';
import { main } from './main.ts';

const heard = heardCommandLine();

const CRAFT = 'demo/turnstone.wanderweg.json';
const DEMO = 'demo/routes/torvholm-shore.geojson';
const folder = mkdtempSync(join(tmpdir(), 'route-'));
const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

describe('wanderweg route check', () => {
  it('says what stands in the way of a route, point by point in JSON, and ends with 1', async () => {
    expect(await main(['route', 'check', CRAFT, DEMO, '--wind', '3@230', '--json'])).toBe(1);
    const json = JSON.parse(heard.said);
    expect(json.points).toBeGreaterThan(7);
    expect(json.arrivals).toHaveLength(json.points);
    expect(json.leftShare).toBeGreaterThan(0.3);
    // The demo's craft has no switch for it.
    expect(json.problems.map((p: { id: string }) => p.id)).toEqual(['route-no-switch']);
  });

  it('ends with 0 where nothing does, and tells fences that are broken', async () => {
    const fence = squareAt(0, 0, 4000, { keep: 'in', toM: 0 });
    const good = file('fence.geojson', planToGeoJson(routeOf([], 'return', [fence])));
    expect(await main(['route', 'check', CRAFT, good])).toBe(0);
    expect(heard.said).toMatch(/Nothing stands in its way/);
    heard.said = '';
    const small = { ...fence, ...squareAt(0, 0, 200, { keep: 'in', toM: 0 }) };
    const bad = file('bad.geojson', planToGeoJson(routeOf([pointAt(900, 0)], 'return', [small])));
    expect(await main(['route', 'check', CRAFT, bad, '--wind', '2@0'])).toBe(1);
    expect(heard.said).toMatch(/blocks {3}The route breaks a fence before point 1/);
  });

  it('takes GPX with heights above the sea', async () => {
    const gpx = file('a.gpx', planToGpx('a', routeOf([pointAt(900, 0), pointAt(900, 500)]), torvholm));
    expect(await main(['route', 'check', CRAFT, gpx, '--wind', '2@0'])).toBe(1);
    expect(heard.said).toMatch(/^2 points, \d+ m in/);
  });

  it('ends with 2 and a sentence for what it cannot read', async () => {
    for (const [name, text, words] of [
      ['a.gpx', '<gpx><rte>', /damaged.*Nothing was taken/],
      ['b.geojson', '{"type":"FeatureCollection","features":[]}', /no points/],
      ['c.kml', '<kml xmlns="http://www.opengis.net/kml/2.2"/>', /no points/],
      [
        'd.geojson',
        JSON.stringify({
          type: 'LineString',
          coordinates: [
            [1, 2],
            [3, 4],
          ],
        }),
        /another site/,
      ],
    ] as const) {
      heard.complained = '';
      expect(await main(['route', 'check', CRAFT, file(name, text)]), name).toBe(2);
      expect(heard.complained, name).toMatch(words);
    }
    expect(await main(['route', 'check', CRAFT, 'nowhere.gpx'])).toBe(2);
    expect(await main(['route', 'check', CRAFT])).toBe(2);
    expect(await main(['route', 'fly', CRAFT, DEMO])).toBe(2);
  });
});
