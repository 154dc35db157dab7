import { movesProven, outputsAsked } from '#core/proofs/follows.ts';
import { fromProof, needsBoard, type Station } from '../station.ts';

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
  small: (p) => {
    const { asked, of } = outputsAsked(p.proofs, p.world);
    return needsBoard(p) ?? (asked > 0 ? `${asked} of ${of} answered` : 'needs the battery');
  },
  progress: (p) => fromProof(movesProven(p.proofs, p.world)),
  view: () => import('./WhichMovedStation.tsx'),
};
export default station;
