import { kindNames } from '#core/airframe/actuators.ts';
import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    airframe: true;
  }
}

const station: Station = {
  id: 'airframe',
  place: 40,
  name: 'The craft',
  about:
    'Describe the craft from above, drawn to scale. Change a part and everything that follows from it changes with it.',
  settings: /^craft\./,
  small: (p) => kindNames[p.world.airframe.kind],
  progress: () => 'set',
  view: () => import('./AirframeStation.tsx'),
};
export default station;
