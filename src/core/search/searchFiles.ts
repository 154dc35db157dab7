import { escapeXml, gpxFile } from '../formats/gpx.ts';
import { latitudeAt, longitudeAt, type Place } from '../navigation/earth.ts';
import { BANDS, bandsOf, type Likelihood } from './likelihood.ts';
import type { WalkStep } from './walk.ts';

const DIGITS = 6;
/** Where it may lie and the walk that finds it soonest, as GeoJSON (RFC 7946). Longitude before latitude. */
export function searchGeoJson(map: Likelihood, walk: readonly WalkStep[], seen: Place) {
  const at = (east: number, north: number) => [
    Number(longitudeAt(seen.lat, seen.lon, east).toFixed(DIGITS)),
    Number(latitudeAt(seen.lat, north).toFixed(DIGITS)),
  ];
  const bands = bandsOf(map);
  const squares = BANDS.map((share, band) => {
    // Runs of squares along a row, as one rectangle each.
    const rectangles: number[][][][] = [];
    for (let j = 0; j < map.rows; j++)
      for (let i = 0; i < map.columns; i++) {
        if (bands[j * map.columns + i] !== band) continue;
        let end = i;
        while (end < map.columns && bands[j * map.columns + end] === band) end++;
        const [w, e] = [map.westM + i * map.cellM, map.westM + end * map.cellM];
        const [s, n] = [map.southM + j * map.cellM, map.southM + (j + 1) * map.cellM];
        rectangles.push([[at(w, s), at(e, s), at(e, n), at(w, n), at(w, s)]]);
        i = end - 1;
      }
    const chance = map.order.reduce((sum, cell) => sum + (bands[cell] === band ? map.chance[cell]! : 0), 0);
    return {
      type: 'Feature' as const,
      properties: { what: 'may lie here', firstShareOfArea: share, chance: Number(chance.toFixed(4)) },
      geometry: { type: 'MultiPolygon' as const, coordinates: rectangles },
    };
  });
  return {
    type: 'FeatureCollection' as const,
    features: [
      {
        type: 'Feature' as const,
        properties: { what: 'last seen' },
        geometry: { type: 'Point' as const, coordinates: at(0, 0) },
      },
      ...squares,
      {
        type: 'Feature' as const,
        properties: { what: 'walk', found: Number((walk.at(-1)?.found ?? 0).toFixed(4)) },
        geometry: { type: 'LineString' as const, coordinates: walk.map((s) => at(s.east, s.north)) },
      },
    ],
  };
}

/** The walk as a route of GPX 1.1, its squares in the order in which they are walked. */
export function walkToGpx(name: string, walk: readonly WalkStep[], seen: Place): string {
  const points = walk.map(
    (s, i) =>
      `    <rtept lat="${latitudeAt(seen.lat, s.north).toFixed(7)}" lon="${longitudeAt(seen.lat, seen.lon, s.east).toFixed(7)}"><name>${i + 1}</name></rtept>`,
  );
  return gpxFile([
    `  <wpt lat="${seen.lat.toFixed(7)}" lon="${seen.lon.toFixed(7)}"><name>last seen</name></wpt>`,
    '  <rte>',
    `    <name>${escapeXml(name)}</name>`,
    ...points,
    '  </rte>',
  ]);
}
