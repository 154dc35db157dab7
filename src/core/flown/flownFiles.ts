import { escapeXml, trackToGpx } from '../formats/gpx.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { type Flown, modeRuns, toldNames } from './flown.ts';
import type { FlownFormat } from './flownFormats.ts';

/** A flight as files for other programs: GPX 1.1 (topografix.com/GPX/1/1), KML 2.2 (OGC 07-147r2), GeoJSON (RFC 7946), CSV (RFC 4180). */

/** Its moments that tell a place, degrees, m above the sea (nought where no height is told) and s. */
function points(flown: Flown, from = 0, to = flown.seconds.length) {
  const { north, east, height } = flown.told;
  if (!north || !east) return [];
  const { lat, lon } = flown.origin;
  const out: { lat: number; lon: number; heightM: number; atS: number }[] = [];
  for (let i = from; i < to; i++) {
    if (!Number.isFinite(north[i]! + east[i]!)) continue;
    const h = height?.[i] ?? Number.NaN;
    out.push({
      lat: latitudeAt(lat, north[i]!),
      lon: longitudeAt(lat, lon, east[i]!),
      heightM: Number.isFinite(h) ? h : 0,
      atS: flown.seconds[i]!,
    });
  }
  return out;
}

type FilePoint = ReturnType<typeof points>[number];

const timeOf = (p: FilePoint, startMs: number) => new Date(startMs + Math.round(1000 * p.atS)).toISOString();
const coordinates = (p: FilePoint) => [
  Number(p.lon.toFixed(7)),
  Number(p.lat.toFixed(7)),
  Number(p.heightM.toFixed(1)),
];

/**
 * The text of a file.
 * @param startMs Unix time of its first moment; boards keep no date, so that it is said by whoever knows
 */
export function flownFile(flown: Flown, title: string, format: FlownFormat, startMs: number): string {
  if (format === 'csv') return csv(flown);
  if (format === 'gpx') return trackToGpx(title, points(flown), startMs);
  if (format === 'kml') return kml(flown, title, startMs);
  return `${JSON.stringify(geoJson(flown, title, startMs))}\n`;
}

/** One line for each run of a mode, in the air as it was. */
function kml(flown: Flown, title: string, startMs: number): string {
  const runs = modeRuns(flown).flatMap(({ mode, from, to }) => {
    const line = points(flown, from, Math.min(to + 1, flown.seconds.length));
    if (line.length < 2) return [];
    return [
      `<Placemark><name>${escapeXml(mode || title)}</name><TimeSpan><begin>${timeOf(line[0]!, startMs)}</begin><end>${timeOf(line.at(-1)!, startMs)}</end></TimeSpan>` +
        `<LineString><altitudeMode>absolute</altitudeMode><coordinates>${line.map((p) => coordinates(p).join(',')).join(' ')}</coordinates></LineString></Placemark>`,
    ];
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<kml xmlns="http://www.opengis.net/kml/2.2">',
    `<Document><name>${escapeXml(title)}</name>`,
    ...runs,
    '</Document>',
    '</kml>',
    '',
  ].join('\n');
}

function geoJson(flown: Flown, title: string, startMs: number) {
  const all = points(flown);
  return {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        properties: { name: title, coordinateProperties: { times: all.map((p) => timeOf(p, startMs)) } },
        geometry: {
          type: 'LineString',
          coordinates: all.map(coordinates),
        },
      },
      ...flown.decisions.flatMap(({ atS, text }) => {
        const i = flown.seconds.findIndex((s) => s >= atS);
        const [p] = points(flown, Math.max(0, i), Math.max(0, i) + 1);
        return p
          ? [
              {
                type: 'Feature',
                properties: { name: text, time: timeOf(p, startMs) },
                geometry: { type: 'Point', coordinates: coordinates(p) },
              },
            ]
          : [];
      }),
    ],
  };
}

/** Everything it tells, a row a moment; SI and radians, places in metres and in degrees. */
function csv(flown: Flown): string {
  const names = toldNames.filter((n) => flown.told[n]);
  const columns = names.map((n) => flown.told[n]!);
  const { north, east } = flown.told;
  const { lat, lon } = flown.origin;
  const head = ['seconds', 'mode', 'lat', 'lon', ...names].join(',');
  const number = (v: number) => (Number.isFinite(v) ? String(Number(v.toPrecision(9))) : '');
  const rows = Array.from(flown.seconds, (s, i) =>
    [
      number(s),
      flown.modes[flown.mode[i]!] ?? '',
      north ? latitudeAt(lat, north[i]!).toFixed(7) : '',
      east ? longitudeAt(lat, lon, east[i]!).toFixed(7) : '',
      ...columns.map((c) => number(c[i]!)),
    ].join(','),
  );
  return `${[head, ...rows].join('\r\n')}\r\n`;
}
