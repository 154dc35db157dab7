import { switchedModes } from '#core/modes/modes.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { type Station, waits, written } from '../station.ts';

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
  small: (p, station) =>
    waits(p, station) ??
    `${switchedModes.filter((m) => settingsOf(p.world.values).number(`mode.${m}.channel`) > 0).length} modes on switches`,
  progress: written,
  view: () => import('./SwitchesStation.tsx'),
};
export default station;
