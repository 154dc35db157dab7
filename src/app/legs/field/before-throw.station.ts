import { beforeFlight, wanting } from '#core/field/walk.ts';
import type { Station } from '../station.ts';
import { linesOf } from './walk/linesOf.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'before-throw': true;
  }
}

const station: Station = {
  id: 'before-throw',
  place: 50,
  name: 'Before you throw',
  about:
    'The walk from the bench to the strip: what of this craft is proven, what has changed since, and what is looked at now, in the order in which it is done.',
  small: (p) => {
    const lines = linesOf(p, new Date());
    const left = wanting(lines).length;
    const of = beforeFlight(lines).length;
    return left === 0 ? null : `${of - left} of ${of}`;
  },
  progress: (p) => {
    const left = wanting(linesOf(p, new Date()));
    if (left.length === 0) return 'proven';
    if (left.some((l) => l.state === 'blocked' && l.station === null && l.id !== 'nothing-blocks'))
      return 'blocked';
    return left.some((l) => l.state === 'stale') ? 'stale' : 'open';
  },
  view: () => import('./BeforeThrowStation.tsx'),
};
export default station;
