import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import { outputSettings } from '../board/usualOutputs.ts';
import { MOSSVIK } from '../formats/scenario.ts';
import { DEG } from '../math/scalar.ts';
import { magneticField } from '../navigation/magneticField.ts';
import type { SettingValue } from './catalogue.ts';
import { type HomeGround, startingValues } from './startingValues.ts';

/** The year for which the field at home is worked out. */
const YEAR = 2026.4;

/** What the earth's field at home asks of the compass settings. */
export function fieldSettings(
  home: { readonly lat: number; readonly lon: number } = MOSSVIK,
): Record<string, number> {
  const f = magneticField(home.lat, home.lon, 0, YEAR);
  return {
    'compass.declination': Math.round((f.declination / DEG) * 10) / 10,
    'compass.strength': Math.round(f.strengthNt / 100) / 10,
  };
}

/** All settings of a craft that a careful builder wired in the usual way and gave its starting values. */
export function preparedSettings(
  airframe: Airframe,
  board: BoardDescription,
  ground?: HomeGround,
): Record<string, SettingValue> {
  return {
    ...outputSettings(airframe, board),
    ...Object.fromEntries(startingValues(airframe, ground).map((s) => [s.key, s.value])),
    ...fieldSettings(),
  };
}
