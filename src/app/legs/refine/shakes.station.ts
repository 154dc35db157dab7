import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    shakes: true;
  }
}

const station: Station = {
  id: 'shakes',
  place: 30,
  name: 'What shakes it',
  about:
    'The gyro over a flight as a map: to the right faster, upward more throttle, height is how much it shakes. The hills are what the filters leave, and every filter costs a delay.',
  requires: ['gyro.cutoff', 'gyro.notch'],
  settings:
    /^(gyro\.(cutoff2?|poles|kind|yawCutoff|notch.*|track.*)|rate\.d(Cutoff|Poles)|loop\.rate|log\..*)$/,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./ShakesStation.tsx'),
};
export default station;
