import { tilts } from '#core/proofs/proofs.ts';
import { answersTilt } from '#core/proofs/surfaceAnswers.ts';
import { fromProof, type Station, togetherOf } from '../station.ts';

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
  progress: (p) =>
    answersTilt(p.world.airframe)
      ? fromProof(
          togetherOf(
            tilts.map((t) => `opposes.${t}`),
            p,
          ),
        )
      : 'set',
  view: () => import('./OpposesStation.tsx'),
};
export default station;
