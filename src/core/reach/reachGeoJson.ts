import { latitudeAt, longitudeAt, type Place } from '../navigation/earth.ts';
import type { HomeMarch, ReachCircumstances } from './homeMarch.ts';
import { limitNames, limitWords, reachPlace } from './place.ts';
import { borderPieces, borderRings, type ReachMap } from './reachMap.ts';

/** Digits of degrees: a tenth of a metre. */
const DIGITS = 6;
/** So far beyond the border it is asked what is short, m. */
const BEYOND_M = 150;

/**
 * The reach as GeoJSON (RFC 7946): one feature of all that it comes home from, and one for each piece of its border with
 * the reason beyond it. Longitude before latitude.
 */
export function reachGeoJson(map: ReachMap, march: HomeMarch, home: Place, c: ReachCircumstances) {
  const at = ([e, n]: readonly [number, number]) => [
    Number(longitudeAt(home.lat, home.lon, e).toFixed(DIGITS)),
    Number(latitudeAt(home.lat, n).toFixed(DIGITS)),
  ];
  return {
    type: 'FeatureCollection' as const,
    features: [
      {
        type: 'Feature' as const,
        properties: {
          what: 'comes home from',
          share: Number(map.share.toFixed(4)),
          cellM: map.cellM,
          ...c,
        },
        // Rings of even and odd depth: whoever fills them takes every second one as a hole.
        geometry: {
          type: 'MultiLineString' as const,
          coordinates: borderRings(map).map((ring) => ring.map(at)),
        },
      },
      ...borderPieces(map).map((piece) => {
        const [e, n] = piece.points[Math.floor(piece.points.length / 2)]!;
        const k = 1 + BEYOND_M / Math.max(1, Math.hypot(e, n));
        const beyond = reachPlace(march, k * e, k * n);
        return {
          type: 'Feature' as const,
          properties: {
            what: 'border',
            limit: limitNames[piece.limit].name,
            reason: limitWords({ ...beyond, limit: piece.limit }, 'metric'),
          },
          geometry: { type: 'LineString' as const, coordinates: piece.points.map(at) },
        };
      }),
    ],
  };
}
