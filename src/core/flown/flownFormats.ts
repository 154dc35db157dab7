/** Files that a flight is written as (`flownFiles.ts`). */
export const flownFormats = ['gpx', 'kml', 'geojson', 'csv'] as const;
export type FlownFormat = (typeof flownFormats)[number];
export const flownMimes: Readonly<Record<FlownFormat, string>> = {
  gpx: 'application/gpx+xml',
  kml: 'application/vnd.google-earth.kml+xml',
  geojson: 'application/geo+json',
  csv: 'text/csv',
};
