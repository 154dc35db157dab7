import { stateOf } from '#core/proofs/proofs.ts';
import { fromProof, held, needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    level: true;
  }
}

const station: Station = {
  id: 'level',
  place: 40,
  name: 'What level means',
  about:
    'Prop the craft up in the attitude in which it cruises, usually a little nose-up, and say that this is level. No sign has to be guessed, whichever way the board sits. Needs something to put under its nose.',
  needs: ['board'],
  requires: ['mount.levelRoll', 'mount.levelPitch'],
  settings: /^mount\.level(Roll|Pitch)$/,
  small: (p) => {
    const proof = held('levelled', p);
    if (proof?.seen.kind === 'levelled') return `nose ${proof.seen.pitchDeg.toFixed(1)}° up is level`;
    return needsBoard(p);
  },
  progress: (p) =>
    fromProof(
      stateOf(
        p.proofs.find((x) => x.id === 'levelled'),
        p.world,
      ),
    ),
  view: () => import('./LevelStation.tsx'),
};
export default station;
