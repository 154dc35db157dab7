import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    trust: true;
  }
}

const station: Station = {
  id: 'trust',
  place: 30,
  name: 'How far to trust it',
  about:
    'A rehearsal is a computation. It finds what is set wrongly, and what cannot work in this wind from that place. It does not replace a first flight within easy sight.',
  small: () => 'what is behind a verdict',
  progress: () => 'set',
  view: () => import('./TrustStation.tsx'),
};
export default station;
