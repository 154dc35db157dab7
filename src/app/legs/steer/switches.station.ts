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
  name: 'What the switches do',
  about:
    'Each position of each switch asks for something; of all that is asked for, one wins. Flick them once, and give each what it shall do.',
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
