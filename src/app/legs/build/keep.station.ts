import { needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    keep: true;
  }
}

const station: Station = {
  id: 'keep',
  place: 20,
  name: 'What was kept',
  about:
    'Every board that is met and every write leaves its settings here, in this browser. Pick one to see what differs, and take back any part of it.',
  small: (p) => (p.kept ? 'kept as it is' : needsBoard(p)),
  progress: (p) => (p.kept ? 'set' : 'open'),
  view: () => import('./KeepStation.tsx'),
};
export default station;
