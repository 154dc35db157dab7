import { fromProof, held, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'if-it-fails': true;
  }
}

const station: Station = {
  id: 'if-it-fails',
  place: 80,
  name: 'If it fails',
  about:
    'What may go wrong, against where the flight is when it does. Each pair is flown in the bench, with the link lost: what the board does with what is left, and how it ends.',
  requires: ['out.1.drives', 'return.height', 'lost.action'],
  small: (p) => {
    const seen = held('fails', p)?.seen;
    return seen?.kind === 'fails' ? `${seen.home} of ${seen.home + seen.down + seen.lost} come home` : null;
  },
  // It is looked at and decided upon; nothing in it has to come home.
  progress: (p) => {
    const state = togetherOf(['fails'], p);
    return state === 'none' ? (p.boardMet ? 'set' : 'open') : fromProof(state);
  },
  provable: true,
  view: () => import('./FailsStation.tsx'),
};
export default station;
