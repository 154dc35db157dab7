import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import { outputSettings } from '../board/usualOutputs.ts';
import type { HomeGround } from '../flight/terrain.ts';
import { FIELD_YEAR, MOSSVIK } from '../formats/scenario.ts';
import { DEG } from '../math/scalar.ts';
import { magneticField } from '../navigation/magneticField.ts';
import type { SettingValue } from './catalogue.ts';
import { startingValues } from './startingValues.ts';

/** What the earth's field at home asks of the compass settings. */
function fieldSettings(
  home: { readonly lat: number; readonly lon: number } = MOSSVIK,
): Record<string, number> {
  const f = magneticField(home.lat, home.lon, 0, FIELD_YEAR);
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
