import { stateOf } from '#core/proofs/proofs.ts';
import { fromProof, held, type Station, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    reach: true;
  }
}

/** A map that is right less often proves nothing. */
const RIGHT_SHARE = 0.9;

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
    const proof = p.proofs.find((x) => x.id === 'reach');
    const right = proof?.seen.kind === 'reach' && proof.seen.right >= RIGHT_SHARE * proof.seen.flown;
    return proof && right ? fromProof(stateOf(proof, p.world)) : written(p, station);
  },
  view: () => import('./ReachStation.tsx'),
};
export default station;
