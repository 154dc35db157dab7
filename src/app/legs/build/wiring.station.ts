import { actuatorsOf } from '#core/airframe/airframe.ts';
import { outputsOf } from '#core/findings/rule.ts';
import type { Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    wiring: true;
  }
}

const station: Station = {
  id: 'wiring',
  place: 50,
  name: 'Wiring',
  about:
    'Say what is to be connected. It is laid out under the board’s own rules, moving as little as can be of what is soldered already. Draw a wire to another pad to have it there.',
  settings: /^(out\.\d+\.drives|port\.)/,
  progress: (p) => {
    const driven = new Set(outputsOf(p.world.values).map((o) => o.drives));
    return actuatorsOf(p.world.airframe).every((id) => driven.has(id)) ? 'set' : 'open';
  },
  view: () => import('./WiringStation.tsx'),
};
export default station;
