import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'after-flight': true;
  }
}

const station: Station = {
  id: 'after-flight',
  place: 60,
  name: 'After the flight',
  about:
    'The flight read from the board and looked at: where it went, what the board decided, what surprised, and how it was other than its rehearsal.',
  small: () => 'once it is back',
  // A flight may always be read; nothing waits for it.
  progress: () => 'set',
  view: () => import('./AfterFlightStation.tsx'),
};
export default station;
