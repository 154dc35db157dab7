import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    mixing: true;
  }
}

const station: Station = {
  id: 'mixing',
  place: 15,
  name: 'Mixing',
  about:
    'What of each command goes to which output, and what that does to this craft: how hard it turns, and what is lost where commands add up.',
  requires: ['mix.elevonRoll', 'mix.turnRudder', 'mix.differential'],
  settings: /^(mix\.|out\.\d+\.(armRight|armAhead|turns)$)/,
  small: waits,
  progress: written,
  view: () => import('./MixingStation.tsx'),
};
export default station;
