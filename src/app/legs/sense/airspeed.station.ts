import { isRotorcraft } from '#core/airframe/airframe.ts';
import { settingOf } from '#core/settings/typed.ts';
import { fromProof, held, needsBoard, type ProgressInput, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    airspeed: true;
  }
}

const fitted = (p: ProgressInput) =>
  !isRotorcraft(p.world.airframe) && settingOf(p.world.values, 'pitot.fitted') === true;

const station: Station = {
  id: 'airspeed',
  place: 75,
  name: 'Airspeed',
  about:
    'Cover the tube: what it says then is taken off. Breathe into it: a leak or an insect shows. Its scale comes from circles flown in wind. The board keeps above the stall by it, and scales its gains. Needs the cover of the tube, and your breath.',
  needs: ['board'],
  requires: ['pitot.zero'],
  settings: /^pitot\./,
  small: (p) => {
    if (!fitted(p)) return 'none fitted';
    const tube = held('tube', p);
    return tube
      ? held('tube-scale', p)
        ? 'zero, tube and scale'
        : 'zero and tube; not the scale'
      : needsBoard(p);
  },
  progress: (p) => (!fitted(p) ? (p.boardMet ? 'set' : 'open') : fromProof(togetherOf(['tube'], p))),
  view: () => import('./AirspeedStation.tsx'),
};
export default station;
