import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'by-dial': true;
  }
}

const station: Station = {
  id: 'by-dial',
  place: 70,
  name: 'By a dial in flight',
  about:
    'A setting on a dial or a switch of the transmitter, moved while it flies: how far, where it would ring, what it gives now, and what of it is kept.',
  requires: ['dial.1.channel'],
  settings: /^dial\./,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./ByDialStation.tsx'),
};
export default station;
