import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'from-elsewhere': true;
  }
}

const station: Station = {
  id: 'from-elsewhere',
  place: 80,
  name: 'From elsewhere',
  about:
    'Gains and filters that were written for another scale, taken over by what they mean: what a number multiplies and what comes of it; or measured from a log that they flew.',
  requires: ['rate.roll.p'],
  small: (p) => waits(p, gains),
  progress: (p) => written(p, gains),
  view: () => import('./FromElsewhereStation.tsx'),
};
/** What is taken over here is set at other stations: it stands as they do. */
const gains: Station = {
  ...station,
  settings: /^(rate\.(roll|pitch|yaw)\.(p|i|d|forward)|level\.time|gyro\.cutoff)$/,
};
export default station;
