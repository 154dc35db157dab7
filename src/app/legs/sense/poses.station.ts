import { poseIds } from '#core/calibration/poses.ts';
import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    poses: true;
  }
}

const station: Station = {
  id: 'poses',
  place: 20,
  name: 'Six still poses',
  about:
    'Hold the craft still in six poses, in any order: it is taken as soon as it is still. Offsets and scales of the accelerometer follow, and a seventh attitude proves them. Needs the craft in your hands or a table to lean it on.',
  needs: ['board'],
  requires: ['accel.1.offset.x', 'accel.1.scale.x'],
  settings: /^accel\./,
  small: (p) => {
    const proof = held('accel.1', p);
    if (proof?.seen.kind === 'accel') return `${proof.seen.left.toFixed(3)} m/s² left`;
    return needsBoard(p) ?? `${poseIds.filter((id) => held(`pose.${id}`, p)).length} of 6 taken`;
  },
  progress: (p) => {
    const two = p.proofs.some((x) => x.id === 'accel.2');
    return fromProof(togetherOf(two ? ['accel.1', 'accel.2'] : ['accel.1'], p));
  },
  view: () => import('./PosesStation.tsx'),
};
export default station;
