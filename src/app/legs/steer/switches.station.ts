import { type Station, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    switches: true;
  }
}

const station: Station = {
  id: 'switches',
  place: 30,
  name: 'Switches to modes',
  about: 'Each band asks for something while its channel stands inside it; the lower of two wins.',
  needs: ['board'],
  requires: ['arm.channel', 'mode.level.channel'],
  settings: /^(arm|mode)\./,
  progress: written,
  view: () => import('./SwitchesStation.tsx'),
};
export default station;
