import { settingOf } from '#core/settings/typed.ts';
import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    air: true;
  }
}

const station: Station = {
  id: 'air',
  place: 70,
  name: 'Air and height',
  about:
    'Leave the craft alone for ten seconds, then disturb its barometer as flight will: with a fan, a breath, a lamp. Each metre that it is fooled by is a metre the craft flies higher or lower than it believes. Needs a fan or good lungs.',
  needs: ['board'],
  settings: /^(range|flow)\./,
  small: (p) => {
    const rest = held('baro', p);
    if (rest?.seen.kind === 'baro') return `${rest.seen.noiseM.toFixed(2)} m of noise`;
    return needsBoard(p);
  },
  progress: (p) =>
    fromProof(
      togetherOf(
        [
          'baro',
          'slipstream',
          ...(settingOf(p.world.values, 'range.fitted') === true ? ['range'] : []),
          ...(settingOf(p.world.values, 'flow.fitted') === true ? ['flow'] : []),
        ],
        p,
      ),
    ),
  view: () => import('./AirStation.tsx'),
};
export default station;
