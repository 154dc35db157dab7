import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    board: true;
  }
}

const station: Station = {
  id: 'board',
  place: 10,
  name: 'Who is there',
  about:
    'Plug the board in and see what it says of itself. Its settings are read over the cable; nothing on it changes until you write.',
  small: (p) => (p.boardName ? `${p.boardName}, read` : 'needs the board'),
  // Being there proves nothing of the craft.
  progress: (p) => (p.boardMet ? 'set' : 'open'),
  view: () => import('./BoardStation.tsx'),
};
export default station;
