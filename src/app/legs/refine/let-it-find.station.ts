import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'let-it-find': true;
  }
}

const station: Station = {
  id: 'let-it-find',
  place: 60,
  name: 'Let it find out',
  about:
    'The board finds gains in flight: it turns the craft to and fro, tells from what it commands and what comes what a command turns and how late, and works P, I and feed-forward out of that.',
  requires: ['tune.channel'],
  settings: /^tune\./,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./LetItFindStation.tsx'),
};
export default station;
