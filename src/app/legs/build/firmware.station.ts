import { needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    firmware: true;
  }
}

const station: Station = {
  id: 'firmware',
  place: 30,
  name: 'Firmware',
  about:
    'Put another firmware on the board and have its settings back afterwards, carried over by what they mean. What is on the board is kept before anything is erased.',
  small: needsBoard,
  progress: (p) => (p.boardMet ? 'set' : 'open'),
  view: () => import('./FirmwareStation.tsx'),
};
export default station;
