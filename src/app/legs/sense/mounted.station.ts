import { stateOf } from '#core/proofs/proofs.ts';
import { fromProof, held, needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    mounted: true;
  }
}

const station: Station = {
  id: 'mounted',
  place: 10,
  name: 'How it is mounted',
  about:
    'Lay the craft as it stands on the ground, then lift its nose. What gravity feels like in the two says how the board sits: nothing has to be measured or guessed. Needs the craft in your hands, and USB only.',
  needs: ['board'],
  requires: ['mount.roll', 'mount.pitch', 'mount.yaw'],
  settings: /^mount\.(roll|pitch|yaw)$/,
  small: (p) => {
    const proof = held('mounted', p);
    if (proof?.seen.kind === 'mounted')
      return proof.seen.fineDeg >= 8
        ? `${proof.seen.fineDeg.toFixed(0)}° off square`
        : 'confirmed by the wing';
    return needsBoard(p) ?? (held('gesture.nose-up', p) ? 'the wing is next' : 'two gestures');
  },
  progress: (p) =>
    fromProof(
      stateOf(
        p.proofs.find((x) => x.id === 'mounted'),
        p.world,
      ),
    ),
  view: () => import('./MountedStation.tsx'),
};
export default station;
