import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'when-lost': true;
  }
}

const station: Station = {
  id: 'when-lost',
  place: 80,
  name: 'When it is lost',
  about:
    'Where a craft may lie that did not come back: its plausible endings flown from where it was last seen, and the walk that finds it soonest.',
  // Nothing is to be done here until that day.
  progress: () => 'set',
  small: () => 'for when it is needed',
  view: () => import('./WhenLostStation.tsx'),
};
export default station;
