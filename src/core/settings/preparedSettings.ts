import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import { outputSettings } from '../board/usualOutputs.ts';
import { groundOf, type Site } from '../site/site.ts';
import type { SettingValue } from './catalogue.ts';
import { fieldSettings } from './fieldSettings.ts';
import { startingValues } from './startingValues.ts';

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
