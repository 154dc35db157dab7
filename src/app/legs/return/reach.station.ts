import { fromProof, held, type Station, togetherOf, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    reach: true;
  }
}

const station: Station = {
  id: 'reach',
  place: 30,
  name: 'How far it comes home from',
  about:
    'Inside the line the return works as it is drafted: with the charge that is left, against the wind on the dial, over the ground that lies there.',
  requires: ['return.height', 'return.speed', 'return.climb', 'return.arrival', 'nav.climb', 'lost.action'],
  small: (p) => {
    const seen = held('reach', p)?.seen;
    return seen?.kind === 'reach' ? `right in ${seen.right} of ${seen.flown}` : null;
  },
  progress: (p, station) => {
    const state = togetherOf(['reach'], p);
    return state === 'none' ? written(p, station) : fromProof(state);
  },
  provable: true,
  view: () => import('./ReachStation.tsx'),
};
export default station;
