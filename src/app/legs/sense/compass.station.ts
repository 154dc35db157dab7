import { isRotorcraft } from '#core/airframe/airframe.ts';
import { settingOf } from '#core/settings/typed.ts';
import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    compass: true;
  }
}

const station: Station = {
  id: 'compass',
  place: 60,
  name: 'Compass',
  about:
    'Carry the craft away from metal and turn it until the needle, the field of the earth as the craft feels it, has stood in every facet. Then run it up, tied down: what the current bends is taken out.',
  needs: ['board', 'battery'],
  requires: ['compass.xx'],
  settings: /^compass\.(?!declination|strength)/,
  small: (p) => {
    if (settingOf(p.world.values, 'compass.fitted') !== true)
      return isRotorcraft(p.world.airframe) ? 'none, and it needs one' : 'none, and it needs none';
    const proof = held('compass', p);
    if (proof?.seen.kind === 'compass') return `heading within ${proof.seen.headingErrorDeg.toFixed(1)}°`;
    return needsBoard(p) ?? 'away from metal';
  },
  progress: (p) => {
    if (settingOf(p.world.values, 'compass.fitted') !== true)
      return isRotorcraft(p.world.airframe) || !p.boardMet ? 'open' : 'set';
    return fromProof(togetherOf(['compass', 'compass-current'], p));
  },
  view: () => import('./CompassStation.tsx'),
};
export default station;
