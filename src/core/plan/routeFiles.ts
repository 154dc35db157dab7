import { groundAbout, groundHeight } from '../flight/terrain.ts';
import { featuresOfXml } from '../formats/geoXml.ts';
import { escapeXml, gpxFile } from '../formats/gpx.ts';
import { eastOf, northOf, type Place } from '../navigation/earth.ts';
import { parsed } from '../parsed.ts';
import type { Site } from '../site/site.ts';
import {
  EMPTY_PLAN,
  type Fence,
  type FlightPlan,
  MOST_CORNERS,
  MOST_FENCES,
  MOST_POINTS,
  planFaults,
  planSchema,
  type RoutePoint,
  USUAL_POINT,
} from './plan.ts';

/** Routes and fences as files: GPX 1.1 (topografix.com/GPX/1/1), KML 2.2 (OGC 07-147r2), GeoJSON (RFC 7946). */

export const MAX_ROUTE_BYTES = 2_000_000;
/** A route farther from home than this is of somewhere else, m. */
const FAR_M = 60_000;
/** A place of a file so near to the one before it is the same one, m. */
const SAME_M = 0.5;
/** Lower than the ground by more than this, heights are not above the sea, m. */
const BELOW_M = 5;

export const routeFormats = ['geojson', 'gpx', 'kml'] as const;
export type RouteFormat = (typeof routeFormats)[number];

/** What a file holds before it is known what its heights mean. */
export interface ReadRoute {
  /** Of one of ours, complete; else null. */
  readonly plan: FlightPlan | null;
  readonly points: readonly (Place & { readonly elevM: number | null })[];
  readonly areas: readonly { readonly name: string; readonly corners: readonly Place[] }[];
}
export type RouteRead =
  | { readonly ok: true; readonly route: ReadRoute }
  | { readonly ok: false; readonly why: string };

const NOTHING = 'Nothing was taken.';
const fail = (why: string): RouteRead => ({ ok: false, why: `${why} ${NOTHING}` });

/** Reads a route from a file's text by what it is, whatever its name. All of it or nothing. */
export function readRoute(text: string): RouteRead {
  if (text.length > MAX_ROUTE_BYTES)
    return fail(`The file has more than ${MAX_ROUTE_BYTES / 1e6} MB; a route has a few kB.`);
  const trimmed = text.replace(/^\uFEFF/, '').trimStart();
  if (trimmed.startsWith('{')) return fromJson(trimmed);
  if (trimmed.startsWith('<')) return fromXml(trimmed);
  return fail('The file is neither GPX nor KML nor GeoJSON.');
}

function fromJson(text: string): RouteRead {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return fail('The file begins like GeoJSON and is broken off or damaged.');
  }
  const own = (raw as { wanderwegPlan?: unknown }).wanderwegPlan;
  if (own !== undefined) {
    const plan = parsed(planSchema, own);
    if (!plan.success) {
      const [issue] = plan.error.issues;
      return fail(`In the plan of the file, ${issue!.path.join('.') || 'the whole'}: ${issue!.message}.`);
    }
    const [fault] = planFaults(plan.data);
    if (fault) return fail(fault);
    return { ok: true, route: { plan: plan.data, points: [], areas: [] } };
  }
  return fromFeatures(raw);
}

function fromXml(text: string): RouteRead {
  const read = featuresOfXml(text);
  return 'why' in read ? fail(read.why) : fromFeatures(read.features);
}

type Position = readonly unknown[];

/** The first line, or all single points where there is none; and every area. */
function fromFeatures(raw: unknown): RouteRead {
  const all = (raw as { features?: unknown }).features;
  const features = Array.isArray(all) ? (all as unknown[]) : [raw];
  let line: Position[] = [];
  const single: Position[] = [];
  const areas: { name: string; positions: Position[] }[] = [];
  const take = (geometry: unknown, name: string): void => {
    const { type, coordinates, geometries } = (geometry ?? {}) as {
      type?: unknown;
      coordinates?: unknown;
      geometries?: unknown;
    };
    const c = coordinates as Position[];
    if (type === 'GeometryCollection' && Array.isArray(geometries)) for (const g of geometries) take(g, name);
    if (!Array.isArray(coordinates)) return;
    if (type === 'Point') single.push(coordinates);
    else if (type === 'MultiPoint') single.push(...c);
    else if (type === 'LineString' && line.length === 0) line = c;
    else if (type === 'MultiLineString' && line.length === 0) line = (c as unknown as Position[][]).flat();
    else if (type === 'Polygon') areas.push({ name, positions: (c[0] ?? []) as Position[] });
    else if (type === 'MultiPolygon')
      for (const p of c as unknown as Position[][][]) areas.push({ name, positions: p[0] ?? [] });
  };
  for (const f of features) {
    const { geometry, type, properties } = (f ?? {}) as {
      geometry?: unknown;
      type?: unknown;
      properties?: { name?: unknown } | null;
    };
    const name = properties?.name;
    take(type === 'Feature' ? geometry : f, typeof name === 'string' ? name.trim().slice(0, 40) : '');
  }
  const positions = line.length > 0 ? line : single;
  if (positions.length + areas.length === 0) return fail('The file holds no points, no line and no area.');
  const points: (Place & { elevM: number | null })[] = [];
  for (const p of positions) {
    const place = placeOf(p);
    if (!place) return fail(`A place of the file is none on earth: ${JSON.stringify(p).slice(0, 60)}.`);
    const last = points.at(-1);
    if (last && apart(last, place) < SAME_M) continue;
    points.push(place);
  }
  if (points.length > MOST_POINTS)
    return fail(
      `The route has ${points.length.toLocaleString('en')} points; a board keeps ${MOST_POINTS}. It looks like a track that was flown: draw the route with the points where it turns.`,
    );
  if (areas.length > MOST_FENCES)
    return fail(`The file holds ${areas.length} areas; a board keeps ${MOST_FENCES}.`);
  const named: { name: string; corners: Place[] }[] = [];
  for (const [i, area] of areas.entries()) {
    const corners: Place[] = [];
    for (const p of area.positions) {
      const place = placeOf(p);
      if (!place) return fail(`A corner of an area is no place on earth: ${JSON.stringify(p).slice(0, 60)}.`);
      corners.push({ lat: place.lat, lon: place.lon });
    }
    // A ring ends where it began.
    if (corners.length > 1 && apart(corners[0]!, corners.at(-1)!) < SAME_M) corners.pop();
    if (corners.length < 3 || corners.length > MOST_CORNERS)
      return fail(`An area of the file has ${corners.length} corners; a board keeps 3 to ${MOST_CORNERS}.`);
    named.push({ name: area.name || `Area ${i + 1}`, corners });
  }
  return { ok: true, route: { plan: null, points, areas: named } };
}

/** Longitude before latitude, and a height where there is one. */
function placeOf(p: unknown): (Place & { elevM: number | null }) | null {
  if (!Array.isArray(p)) return null;
  const [lon, lat, elev] = p as unknown[];
  if (typeof lon !== 'number' || typeof lat !== 'number') return null;
  if (!(Math.abs(lat) <= 90 && Math.abs(lon) <= 180)) return null;
  return { lat, lon, elevM: typeof elev === 'number' && Number.isFinite(elev) ? elev : null };
}

const apart = (a: Place, b: Place) => Math.hypot(northOf(a.lat, b.lat), eastOf(a.lat, a.lon, b.lon));

/** What the heights of a file are counted from; `none` where it has none, or they are not to be used. */
export const heightMeanings = ['sea', 'home', 'none'] as const;
export type HeightMeaning = (typeof heightMeanings)[number];

/** What the heights of a file seem to be, with the reason in a sentence; empty where there is nothing to say. */
export function guessHeights({ points }: ReadRoute, site: Site): { meaning: HeightMeaning; why: string } {
  const told = points.flatMap((p) => (p.elevM === null ? [] : [{ ...p, elevM: p.elevM }]));
  const { heightM: home } = site.home;
  if (told.length === 0) return { meaning: 'none', why: 'The file tells no heights.' };
  if (told.length < points.length)
    return {
      meaning: 'none',
      why: `The file tells heights of ${told.length} of its ${points.length} points only.`,
    };
  if (told.every((p) => p.elevM === 0))
    return { meaning: 'none', why: 'All heights of the file are nought, which tells none.' };
  const about = groundAbout(site.terrain, site.home);
  const room = told.map((p) => {
    const n = northOf(site.home.lat, p.lat);
    const e = eastOf(site.home.lat, site.home.lon, p.lon);
    return p.elevM - groundHeight(about.terrain, about.homeEastM + e, about.homeNorthM + n);
  });
  const below = room.filter((r) => r < -BELOW_M).length;
  if (below === 0) return { meaning: 'sea', why: '' };
  const aboveHome = room.every((r) => r + home >= -BELOW_M);
  return {
    meaning: aboveHome ? 'home' : 'none',
    why: `Counted from the sea, ${below} of ${told.length} points would lie below the ground, as when heights are counted from the launch or from the ellipsoid of the satellites, which lies elsewhere than the sea.`,
  };
}

/** Why a route cannot be flown from this home, as a sentence; null where it can be. */
export function tooFar(places: readonly Place[], home: Place): string | null {
  const far = Math.max(0, ...places.map((p) => apart(home, p)));
  if (far <= FAR_M) return null;
  const turned = places.every(
    (p) => Math.abs(p.lon) <= 90 && apart(home, { lat: p.lon, lon: p.lat }) <= FAR_M,
  );
  return turned
    ? 'Latitude and longitude of the file are exchanged: the other way round it would lie here. Have it written anew.'
    : `It lies up to ${Math.round(far / 1000).toLocaleString('en')} km from home: it is of another site.`;
}

/**
 * What a file holds, as it would be flown from a site's home.
 * @param usual of every point, where the file says nothing else; its height where heights are not used
 */
export function planOfFile(
  route: ReadRoute,
  meaning: HeightMeaning,
  home: Site['home'],
  usual: Omit<RoutePoint, 'lat' | 'lon'> = USUAL_POINT,
): FlightPlan {
  if (route.plan) return route.plan;
  const points = route.points.map(({ lat, lon, elevM }): RoutePoint => {
    if (meaning === 'none' || elevM === null) return { ...usual, lat, lon };
    const heightM = Math.round(10 * (meaning === 'sea' ? elevM - home.heightM : elevM)) / 10;
    return { ...usual, lat, lon, heightM: Math.min(3000, Math.max(-500, heightM)), above: 'home' };
  });
  const fences = route.areas.map(
    ({ name, corners }): Fence => ({ name, keep: 'in', area: { corners: [...corners] }, fromM: 0, toM: 0 }),
  );
  return { ...EMPTY_PLAN, points, fences };
}

const at = ({ lat, lon }: Place) => [Number(lon.toFixed(7)), Number(lat.toFixed(7))] as const;

/** Corners of a fence; a circle as 48 of them, for whoever knows none. */
function ring({ area }: Fence): (readonly [number, number])[] {
  if ('corners' in area) return [...area.corners, area.corners[0]!].map(at);
  const k = 1 / 6_378_137 / (Math.PI / 180);
  return Array.from({ length: 49 }, (_, i) => {
    const a = (2 * Math.PI * (i % 48)) / 48;
    const lat = area.lat + k * area.radiusM * Math.cos(a);
    const lon = area.lon + (k * area.radiusM * Math.sin(a)) / Math.cos((area.lat * Math.PI) / 180);
    return at({ lat, lon });
  });
}

/** As GeoJSON: the whole plan for us, its geometry for everybody else. */
export function planToGeoJson(plan: FlightPlan): string {
  const line = plan.points.map(at);
  const features = [
    ...(line.length > 1
      ? [
          {
            type: 'Feature',
            properties: { name: 'Route' },
            geometry: { type: 'LineString', coordinates: line },
          },
        ]
      : []),
    ...plan.fences.map((f) => ({
      type: 'Feature',
      properties: { name: f.name, keep: f.keep },
      geometry: { type: 'Polygon', coordinates: [ring(f)] },
    })),
  ];
  return `${JSON.stringify({ type: 'FeatureCollection', wanderwegPlan: plan, features }, null, 1)}\n`;
}

/** Height of a point above the sea, m; above unknown ground it is taken from home. */
function aboveSea(p: RoutePoint, site: Site): number {
  if (p.above === 'home') return site.home.heightM + p.heightM;
  const about = groundAbout(site.terrain, site.home);
  const n = northOf(site.home.lat, p.lat);
  const e = eastOf(site.home.lat, site.home.lon, p.lon);
  return groundHeight(about.terrain, about.homeEastM + e, about.homeNorthM + n) + p.heightM;
}

/** The route as GPX; fences have no form in it. */
export function planToGpx(name: string, plan: FlightPlan, site: Site): string {
  // A way of a single point is none: that is a place.
  const alone = plan.points.length === 1;
  const tag = alone ? 'wpt' : 'rtept';
  const points = plan.points.map(
    (p, i) =>
      `    <${tag} lat="${p.lat.toFixed(7)}" lon="${p.lon.toFixed(7)}"><ele>${aboveSea(p, site).toFixed(1)}</ele><name>${i + 1}</name></${tag}>`,
  );
  return gpxFile(alone ? points : ['  <rte>', `    <name>${escapeXml(name)}</name>`, ...points, '  </rte>']);
}

/** Route and fences as KML. */
export function planToKml(name: string, plan: FlightPlan, site: Site): string {
  const ground = plan.points.every((p) => p.above === 'ground');
  const line = plan.points.map(
    (p) => `${at(p).join(',')},${(ground ? p.heightM : aboveSea(p, site)).toFixed(1)}`,
  );
  const fences = plan.fences.map(
    (f) =>
      `    <Placemark><name>${escapeXml(f.name)}</name><Polygon><outerBoundaryIs><LinearRing><coordinates>${ring(
        f,
      )
        .map((c) => c.join(','))
        .join(' ')}</coordinates></LinearRing></outerBoundaryIs></Polygon></Placemark>`,
  );
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<kml xmlns="http://www.opengis.net/kml/2.2">',
    '  <Document>',
    `    <name>${escapeXml(name)}</name>`,
    ...(line.length > 0
      ? [
          `    <Placemark><name>Route</name><LineString><altitudeMode>${ground ? 'relativeToGround' : 'absolute'}</altitudeMode><coordinates>${line.join(' ')}</coordinates></LineString></Placemark>`,
        ]
      : []),
    ...fences,
    '  </Document>',
    '</kml>',
    '',
  ].join('\n');
}
