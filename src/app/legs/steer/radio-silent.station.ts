import { lossWords } from '#core/proofs/proofWords.ts';
import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'radio-silent': true;
  }
}

const station: Station = {
  id: 'radio-silent',
  place: 50,
  name: 'When the radio falls silent',
  about:
    'Receivers differ in what they do when they hear their transmitter no more, and some hide it. Switch yours off here, with the propellers off, and see what the board makes of it.',
  needs: ['board'],
  asks: ['radio', 'receiver', 'status'],
  requires: ['rx.lossBelow', 'rx.quality.channel'],
  settings: /^rx\.lossBelow$/,
  small: (p) => {
    const seen = held('silence', p)?.seen;
    return needsBoard(p) ?? (seen?.kind === 'silence' ? `it ${lossWords[seen.does]}` : 'not tried yet');
  },
  progress: (p) => fromProof(togetherOf(['silence'], p)),
  view: () => import('./RadioSilentStation.tsx'),
};
export default station;
