import { verdictWords } from '#core/formats/rehearsalResult.ts';
import { homeProven } from '#core/proofs/follows.ts';
import { fromProof, held, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'one-flight': true;
  }
}

const station: Station = {
  id: 'one-flight',
  place: 10,
  name: 'One flight',
  about:
    'The settings fly in the bench, faster than time. What happens on the way stands on the line of time.',
  requires: ['out.1.drives', 'return.height', 'lost.action'],
  small: (p) => {
    const flown = held('flight', p)?.seen;
    return flown?.kind === 'flight' ? verdictWords[flown.verdict].toLowerCase() : null;
  },
  progress: (p) => fromProof(homeProven('flight', p.proofs, p.world)),
  view: () => import('./OneFlightStation.tsx'),
};
export default station;
