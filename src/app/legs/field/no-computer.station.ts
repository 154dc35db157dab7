import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'no-computer': true;
  }
}

const station: Station = {
  id: 'no-computer',
  place: 40,
  name: 'Without a computer',
  about:
    'What can be changed at the strip with the transmitter alone, what cannot be in the air, and a card of this very set-up for the pocket.',
  settings: /^hand\./,
  requires: ['hand.gestures'],
  small: waits,
  progress: written,
  view: () => import('./NoComputerStation.tsx'),
};
export default station;
