import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'level-turns': true;
  }
}

const station: Station = {
  id: 'level-turns',
  place: 50,
  name: 'Level, turns and heights',
  about:
    'What stands around the rate loops: level, height and speed, paths and places. Each is asked for something, promised by the craft’s model and flown in the bench.',
  requires: ['level.time'],
  settings:
    /^(nav\.(period|damping|heightTime|speedTime)|hover\.(velocityP|velocityI|positionP|climbP|climbI|heightP))$/,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./LevelTurnsStation.tsx'),
};
export default station;
