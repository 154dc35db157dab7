import { movesProven } from '#core/proofs/proofs.ts';
import { fromProof, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'which-moved': true;
  }
}

const station: Station = {
  id: 'which-moved',
  place: 10,
  name: 'Which one moved?',
  about:
    'The board moves one output at a time. Look at the craft on the bench, click what moved on the drawing, then say which way it went first. Assignment and direction follow from your answers.',
  needs: ['board', 'battery'],
  asks: ['bench-move', 'status'],
  requires: ['out.1.drives', 'out.1.reversed'],
  settings: /^out\.\d+\.reversed/,
  progress: (p) => fromProof(movesProven(p.proofs, p.world)),
  view: () => import('./WhichMovedStation.tsx'),
};
export default station;
