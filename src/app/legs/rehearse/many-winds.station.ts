import { homeProven } from '#core/proofs/follows.ts';
import { fromProof, held, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'many-winds': true;
  }
}

const station: Station = {
  id: 'many-winds',
  place: 20,
  name: 'In many winds',
  about:
    'The flight of the station before, again and again, with wind from all sides and of all strengths. The rose shows which winds it comes home in.',
  requires: ['out.1.drives', 'return.height', 'lost.action'],
  small: (p) => {
    const flown = held('winds', p)?.seen;
    return flown?.kind === 'winds' ? `${flown.home} of ${flown.total} come home` : null;
  },
  progress: (p) => fromProof(homeProven('winds', p.proofs, p.world)),
  view: () => import('./ManyWindsStation.tsx'),
};
export default station;
