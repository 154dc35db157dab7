import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'whole-set-up': true;
  }
}

const station: Station = {
  id: 'whole-set-up',
  place: 90,
  name: 'The whole set-up',
  about:
    'Everything of this craft on one sheet, to print or to keep: what it is, how it is wired, what is set otherwise than delivered and why, what is proven and what is found.',
  // To be read, not done.
  progress: () => 'set',
  small: () => 'to print or keep',
  view: () => import('./WholeSetUpStation.tsx'),
};
export default station;
