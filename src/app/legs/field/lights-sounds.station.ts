import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'lights-sounds': true;
  }
}

const station: Station = {
  id: 'lights-sounds',
  place: 30,
  name: 'Lights and sounds',
  about:
    'What lamps, buzzer and motors tell on the strip and in the air, one moment at a time; and how a craft that lies somewhere calls until it is found.',
  settings: /^(light|sound|find)\./,
  requires: ['light.lamps'],
  small: waits,
  progress: written,
  view: () => import('./LightsSoundsStation.tsx'),
};
export default station;
