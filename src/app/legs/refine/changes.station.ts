import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    changes: true;
  }
}

const station: Station = {
  id: 'changes',
  place: 90,
  name: 'Sets and changes',
  about:
    'Flights beside the settings that flew them: how each answered, what changed from one to the next, what that did, and what the craft’s model says it should have done.',
  requires: ['rate.roll.p'],
  small: waits,
  progress: written,
  view: () => import('./ChangesStation.tsx'),
};
export default station;
