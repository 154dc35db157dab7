import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import { outputSettings } from '../board/usualOutputs.ts';
import { DEG } from '../math/scalar.ts';
import { magneticField } from '../navigation/magneticField.ts';
import { groundOf, type Site } from '../site/site.ts';
import type { SettingValue } from './catalogue.ts';
import { startingValues } from './startingValues.ts';

/** What the earth's field at home asks of the compass settings. */
export function fieldSettings({ home, year }: Pick<Site, 'home' | 'year'>): Record<string, number> {
  const f = magneticField(home.lat, home.lon, 0, year);
  return {
    'compass.declination': Math.round((f.declination / DEG) * 10) / 10,
    'compass.strength': Math.round(f.strengthNt / 100) / 10,
  };
}

/**
 * All settings of a craft that a careful builder wired in the usual way and gave its starting values.
 * @param whereIsKnown false where the site only stands in for one that nobody named: nothing follows from its place
 */
export function preparedSettings(
  airframe: Airframe,
  board: BoardDescription,
  site: Site,
  whereIsKnown = true,
): Record<string, SettingValue> {
  return {
    ...outputSettings(airframe, board),
    ...Object.fromEntries(startingValues(airframe, groundOf(site)).map((s) => [s.key, s.value])),
    ...(whereIsKnown ? fieldSettings(site) : {}),
  };
}
