import { walkLines, wanting } from '#core/field/walk.ts';
import type { ProgressInput, Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'before-throw': true;
  }
}

/** The walk as it is now: what blocks it besides, and what waits, is known to the shell. */
const linesOf = (p: ProgressInput) =>
  walkLines({
    world: p.world,
    proofs: p.proofs,
    blocking: p.findings.filter((f) => f.severity === 'blocks').map((f) => `${f.title}.`),
    waiting: p.boardMet ? p.pendingKeys.length : null,
    units: p.units,
    now: new Date(),
  });

const station: Station = {
  id: 'before-throw',
  place: 50,
  name: 'Before you throw',
  about:
    'The walk from the bench to the strip: what of this craft is proven, what has changed since, and what is looked at now, in the order in which it is done.',
  small: (p) => {
    const lines = linesOf(p);
    const left = wanting(lines).length;
    const of = lines.filter((l) => l.place !== 'landed').length;
    return left === 0 ? null : `${of - left} of ${of}`;
  },
  progress: (p) => {
    const left = wanting(linesOf(p));
    if (left.length === 0) return 'proven';
    if (left.some((l) => l.state === 'blocked' && l.station === null && l.id !== 'nothing-blocks'))
      return 'blocked';
    return left.some((l) => l.state === 'stale') ? 'stale' : 'open';
  },
  view: () => import('./BeforeThrowStation.tsx'),
};
export default station;
