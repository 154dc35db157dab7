import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'gain-law': true;
  }
}

const station: Station = {
  id: 'gain-law',
  place: 40,
  name: 'Speed and throttle',
  about:
    'What a surface or a rotor turns grows with speed, throttle and voltage. How gains make up for that, and how the craft answers at the ends of what it flies.',
  requires: ['rate.reference'],
  settings: /^rate\.(reference|by|power|forwardPower|lowest|highest|throttleLag|voltPower|volts)$/,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./GainLawStation.tsx'),
};
export default station;
