import { settingOf } from '#core/settings/typed.ts';
import { fromProof, held, type Station, togetherOf, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    home: true;
  }
}

const words = { 'each-arming': 'set at every arming', 'first-arming': 'set at the first arming' } as const;

const station: Station = {
  id: 'home',
  place: 50,
  name: 'Home',
  about:
    'Where it comes back to, when that is set and how well it is known. Outdoors, walk away with it and see the arrow point back.',
  requires: ['home.rule', 'arm.satellites'],
  asks: ['home'],
  settings: /^home\./,
  small: (p, station) => {
    const seen = held('home-arrow', p)?.seen;
    if (seen?.kind === 'home-arrow') return 'the arrow points back';
    return waits(p, station) ?? words[settingOf(p.world.values, 'home.rule') ?? 'each-arming'];
  },
  progress: (p, station) => {
    const state = togetherOf(['home-arrow'], p);
    return state === 'none' ? written(p, station) : fromProof(state);
  },
  provable: true,
  view: () => import('./HomeStation.tsx'),
};
export default station;
