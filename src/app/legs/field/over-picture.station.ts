import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'over-picture': true;
  }
}

const station: Station = {
  id: 'over-picture',
  place: 10,
  name: 'Over the picture',
  about: 'What the pilot reads in flight. Drag items over the picture; each group answers one question.',
  settings: /^(overlay|video)\./,
  requires: ['overlay.system'],
  small: waits,
  progress: written,
  view: () => import('./OverPictureStation.tsx'),
};
export default station;
