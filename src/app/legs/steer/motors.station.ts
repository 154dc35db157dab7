import { isMotor } from '#core/airframe/actuators.ts';
import { held, type Station, togetherOf, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    motors: true;
  }
}

const ids = (values: Readonly<Record<string, unknown>>) =>
  Object.keys(values).flatMap((k) => {
    const n = /^out\.(\d+)\.drives$/.exec(k)?.[1];
    return n && isMotor(String(values[k])) ? [`controller.${n}`] : [];
  });

const station: Station = {
  id: 'motors',
  place: 11,
  name: 'Motors',
  about:
    'What each motor should pull, which way it turns, and what stands in its controller’s own memory: read, written and read back through the board.',
  needs: ['board', 'battery'],
  asks: ['procedure-start', 'bench-allow'],
  requires: ['motor.idle'],
  settings: /^flip\./,
  small: (p) => {
    const all = ids(p.world.values);
    const n = all.filter((id) => held(id, p)).length;
    return n > 0 ? `${n} of ${all.length} read` : null;
  },
  progress: (p, station) => {
    const state = togetherOf(ids(p.world.values), p);
    return state === 'none' ? written(p, station) : state;
  },
  view: () => import('./MotorsStation.tsx'),
};
export default station;
