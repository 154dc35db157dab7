import { movesProven } from '#core/proofs/follows.ts';
import { tilts } from '#core/proofs/proofs.ts';
import { answersTilt } from '#core/proofs/surfaceAnswers.ts';
import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    opposes: true;
  }
}

const station: Station = {
  id: 'opposes',
  place: 40,
  name: 'Does it oppose a tilt?',
  about:
    'In Level, tilt the craft by hand. Every surface must move so as to turn it back. Look at the craft itself, not at this screen, before you confirm.',
  needs: ['board', 'battery'],
  asks: ['attitude', 'outputs', 'status'],
  small: (p) =>
    !answersTilt(p.world.airframe)
      ? 'by its rotors'
      : (needsBoard(p) ??
        `${tilts.filter((t) => held(`opposes.${t}`, p)).length} of ${tilts.length} tilts seen`),
  progress: (p) =>
    answersTilt(p.world.airframe)
      ? fromProof(
          togetherOf(
            tilts.map((t) => `opposes.${t}`),
            p,
          ),
        )
      : fromProof(movesProven(p.proofs, p.world)),
  view: () => import('./OpposesStation.tsx'),
};
export default station;
