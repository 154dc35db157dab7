import { armTries } from '#core/arming/drill.ts';
import { held, needsBoard, type Station, togetherOf, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'ready-to-arm': true;
  }
}

const ids = armTries.map((t) => `arming.${t}`);

const station: Station = {
  id: 'ready-to-arm',
  place: 60,
  name: 'Ready to arm',
  about:
    'What stands in the way of arming, and where each is put right. Then the arming switch is tried in peace, and in all the ways in which it must not arm: propellers off.',
  needs: ['board', 'battery'],
  asks: ['status', 'receiver', 'attitude'],
  requires: ['arm.tilt', 'arm.needStill'],
  settings: /^launch\./,
  small: (p, station) => {
    const n = ids.filter((id) => held(id, p)).length;
    return needsBoard(p) ?? waits(p, station) ?? (n > 0 ? `${n} of ${ids.length} tried` : null);
  },
  progress: (p, station) => {
    const state = togetherOf(ids, p);
    return state === 'none' ? written(p, station) : state;
  },
  view: () => import('./ReadyToArmStation.tsx'),
};
export default station;
