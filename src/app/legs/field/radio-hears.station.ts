import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'radio-hears': true;
  }
}

const station: Station = {
  id: 'radio-hears',
  place: 20,
  name: 'What the radio hears',
  about:
    'What the craft tells your transmitter in flight, how often, and whether there is room for it on the way back. The last place that came is where a search begins.',
  settings: /^tell\./,
  requires: ['tell.room'],
  small: waits,
  progress: written,
  view: () => import('./RadioHearsStation.tsx'),
};
export default station;
