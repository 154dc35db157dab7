import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { hoverOf, stallSpeed } from '#core/airframe/performance.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'starting-values': true;
  }
}

const station: Station = {
  id: 'starting-values',
  place: 60,
  name: 'Starting values',
  about:
    'Computed from the craft as described, not from a table for all: gains from its panels, speeds from its stall, throttle from its propellers.',
  settings: /^(rate\.sumLimit$|level\.(?!(bank|up|down|time)$)|nav\.|motor\.)/,
  small: waits,
  progress: (p, station) => (startedFor(p.world.airframe, p.world.values) ? written(p, station) : 'open'),
  view: () => import('./StartingValuesStation.tsx'),
};
export default station;

/** Whether the gains look as if they were computed for this craft, or tuned on it. */
function startedFor(airframe: Airframe, values: Values): boolean {
  const near = (key: string, wanted: number) => Math.abs((values[key] as number) / wanted - 1) < 0.15;
  if (settingOf(values, 'craft.kind') !== airframe.kind) return false;
  return isRotorcraft(airframe)
    ? near('hover.throttle', hoverOf(airframe).throttle)
    : near('rate.reference', 1.8 * stallSpeed(airframe));
}
