import { movesProven } from '#core/proofs/follows.ts';
import { tiltsOf } from '#core/proofs/surfaceAnswers.ts';
import { fromProof, held, needsBoard, type ProgressInput, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    opposes: true;
  }
}

const of = (p: ProgressInput) => tiltsOf(p.world.airframe);

const station: Station = {
  id: 'opposes',
  place: 40,
  name: 'Does it oppose a tilt?',
  about:
    'In Level, tilt the craft by hand, then turn it round. Every surface must move so as to turn it back. Look at the craft itself, not at this screen, before you confirm.',
  needs: ['board', 'battery'],
  asks: ['attitude', 'outputs', 'status'],
  small: (p) =>
    of(p).length === 0
      ? 'nothing to see'
      : (needsBoard(p) ?? `${of(p).filter((t) => held(`opposes.${t}`, p)).length} of ${of(p).length} seen`),
  progress: (p) =>
    of(p).length > 0
      ? fromProof(
          togetherOf(
            of(p).map((t) => `opposes.${t}`),
            p,
          ),
        )
      : fromProof(movesProven(p.proofs, p.world)),
  view: () => import('./OpposesStation.tsx'),
};
export default station;
