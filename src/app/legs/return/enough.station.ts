import { settingOf } from '#core/settings/typed.ts';
import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    enough: true;
  }
}

const words = {
  volts: 'watched by voltage',
  charge: 'watched by charge',
  home: 'watched by the way home',
} as const;

const station: Station = {
  id: 'enough',
  place: 40,
  name: 'Enough to come home',
  about:
    'A battery is empty by energy, not by volts. What is left while it flies out, what would be left above home if it turned then, and when the board says so.',
  requires: ['battery.watch', 'battery.reserve', 'battery.lowAction'],
  settings: /^battery\.(watch|reserve|lowAction|emptyAction|homeCurrent|climbCharge|chemistry)$/,
  small: (p, station) => waits(p, station) ?? words[settingOf(p.world.values, 'battery.watch') ?? 'volts'],
  progress: written,
  view: () => import('./EnoughStation.tsx'),
};
export default station;
