import { settingsOf } from '#core/settings/typed.ts';
import { formatQuantity } from '#core/units/units.ts';
import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'way-home': true;
  }
}

const station: Station = {
  id: 'way-home',
  place: 20,
  name: 'The way home',
  about:
    'Seen from the side over the ground that lies there: the climb, the line home, the circle or the landing at its end.',
  requires: ['return.height', 'return.climb', 'return.speed', 'return.arrival', 'nav.climb', 'loiter.radius'],
  settings: /^return\.(?!arrival)/,
  small: (p, station) =>
    waits(p, station) ??
    `${formatQuantity(settingsOf(p.world.values).number('return.height'), 'm', p.units, 0)} above home`,
  progress: written,
  view: () => import('./WayHomeStation.tsx'),
};
export default station;
