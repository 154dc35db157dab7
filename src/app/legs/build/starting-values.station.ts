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
  settings:
    /^(rate\.sumLimit$|level\.(?!(bank|up|down|time)$)|nav\.(?!(period|damping|heightTime|speedTime)$)|motor\.)/,
  small: waits,
  progress: (p, station) => (p.started ? written(p, station) : 'open'),
  view: () => import('./StartingValuesStation.tsx'),
};
export default station;
