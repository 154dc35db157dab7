import type { TrackPoint } from './rehearsalResult.ts';

// What XML 1.0 has no way to write is left out.
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is taken out
const UNWRITABLE = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\ufffe\uffff]|\p{Surrogate}/gu;

export const escapeXml = (text: string) =>
  text
    .replace(UNWRITABLE, '')
    .replace(
      /[&<>"']/g,
      (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' })[c]!,
    );

/**
 * A track as GPX 1.1 (topografix.com/GPX/1/1). Neither rehearsals nor boards know a date, so times count from a given start.
 * @param startMs Unix time of the first second
 */
export function trackToGpx(
  name: string,
  track: readonly Pick<TrackPoint, 'atS' | 'lat' | 'lon' | 'heightM'>[],
  startMs: number,
): string {
  const points = track.map((p) => {
    const time = new Date(startMs + Math.round(p.atS * 1000)).toISOString();
    return `      <trkpt lat="${p.lat.toFixed(7)}" lon="${p.lon.toFixed(7)}"><ele>${p.heightM.toFixed(1)}</ele><time>${time}</time></trkpt>`;
  });
  return gpxFile([
    '  <trk>',
    `    <name>${escapeXml(name)}</name>`,
    '    <trkseg>',
    ...points,
    '    </trkseg>',
    '  </trk>',
  ]);
}

/** A whole file of GPX 1.1 from the lines in it. */
export const gpxFile = (lines: readonly string[]): string =>
  [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<gpx version="1.1" creator="Wanderweg" xmlns="http://www.topografix.com/GPX/1/1">',
    ...lines,
    '</gpx>',
    '',
  ].join('\n');

/** Rehearsals take place on this day, so that equal rehearsals give equal files. */
export const REHEARSAL_START_MS = Date.UTC(2026, 5, 1, 9, 0, 0);
