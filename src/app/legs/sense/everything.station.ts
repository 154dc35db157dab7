import { needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    everything: true;
  }
}

const station: Station = {
  id: 'everything',
  place: 90,
  name: 'Everything live',
  about:
    'Any value that the board tells, drawn by the board’s own time. Pick up to twelve; freeze them to look closely, and take them with you as a table.',
  needs: ['board'],
  settings: /^bus\./,
  small: (p) => needsBoard(p) ?? 'to look, nothing to prove',
  progress: (p) => (p.boardMet ? 'set' : 'open'),
  view: () => import('./EverythingStation.tsx'),
};
export default station;
