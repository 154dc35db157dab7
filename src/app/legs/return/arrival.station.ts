import { settingOf } from '#core/settings/typed.ts';
import { fromProof, held, type Station, togetherOf, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    arrival: true;
  }
}

const words = { circle: 'circles up there', 'circle-low': 'sinks, then circles', land: 'lands' } as const;

const station: Station = {
  id: 'arrival',
  place: 60,
  name: 'Arrival',
  about:
    'What it does above home: circle, or land. The site from above with the circle and the approaches, and where it comes down in eight winds.',
  requires: ['return.arrival', 'return.arrivalHeight', 'loiter.radius'],
  settings: /^(land\.|return\.arrival|loiter\.)/,
  small: (p, station) => {
    const seen = held('arrival', p)?.seen;
    if (seen?.kind === 'arrival') return `home in ${seen.home} of ${seen.total} winds`;
    return waits(p, station) ?? words[settingOf(p.world.values, 'return.arrival') ?? 'circle'];
  },
  progress: (p, station) => {
    const state = togetherOf(['arrival'], p);
    return state === 'none' ? written(p, station) : fromProof(state);
  },
  provable: true,
  view: () => import('./ArrivalStation.tsx'),
};
export default station;
