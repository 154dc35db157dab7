import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    feels: true;
  }
}

const station: Station = {
  id: 'feels',
  place: 10,
  name: 'How it feels',
  about:
    'How fast it turns for how much stick, how far it leans, and what that is in the air: seconds, metres, and how near its limits.',
  requires: ['rate.roll.max', 'level.bank'],
  settings: /^(rx\.expo|set\..*|rate\.(roll|pitch|yaw)\.max|level\.(bank|up|down|time))$/,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./FeelsStation.tsx'),
};
export default station;
