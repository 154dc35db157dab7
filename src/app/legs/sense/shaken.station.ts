import { stateOf, together } from '#core/proofs/proofs.ts';
import { fromProof, held, needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    shaken: true;
  }
}

const station: Station = {
  id: 'shaken',
  place: 30,
  name: 'Still and shaken',
  about:
    'First leave the craft alone: what the gyro says then is its own error. Then tie it down with propellers on, arm it by your own transmitter and run it up: what the gyro says then is the shake. This page turns no motor.',
  needs: ['board'],
  settings: /^(imu\.use|gyro\.(?!cutoff|poles|kind|yawCutoff|notch|track).*)$/,
  small: (p) => {
    const shake = held('shake', p);
    if (shake?.seen.kind === 'shake')
      return `${((shake.seen.rms * 180) / Math.PI).toFixed(1)} °/s at its worst`;
    return needsBoard(p) ?? (held('gyro.1', p) ? 'the run-up is next' : 'leave it alone for 10 s');
  },
  progress: (p) =>
    fromProof(
      together(
        ['gyro.1', 'shake'].map((id) =>
          stateOf(
            p.proofs.find((x) => x.id === id),
            p.world,
          ),
        ),
      ),
    ),
  view: () => import('./ShakenStation.tsx'),
};
export default station;
