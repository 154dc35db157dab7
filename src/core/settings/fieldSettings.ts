import { DEG } from '../math/scalar.ts';
import { magneticField } from '../navigation/magneticField.ts';
import type { Site } from '../site/site.ts';

/** What the earth's field at home asks of the compass settings. */
export function fieldSettings({ home, year }: Pick<Site, 'home' | 'year'>): Record<string, number> {
  const f = magneticField(home.lat, home.lon, 0, year);
  return {
    'compass.declination': Math.round((f.declination / DEG) * 10) / 10,
    'compass.strength': Math.round(f.strengthNt / 100) / 10,
  };
}
