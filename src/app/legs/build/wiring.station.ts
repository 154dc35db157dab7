import { actuatorsOf } from '#core/airframe/airframe.ts';
import { outputsOf } from '#core/findings/rule.ts';
import { type ProgressInput, type Station, waits } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    wiring: true;
  }
}

/** Motors and surfaces that an output drives. */
function driven({ world }: ProgressInput): number {
  const by = new Set(outputsOf(world.values).map((o) => o.drives));
  return actuatorsOf(world.airframe).filter((id) => by.has(id)).length;
}

const station: Station = {
  id: 'wiring',
  place: 50,
  name: 'Wiring',
  about:
    'Say what is to be connected. It is laid out under the board’s own rules, moving as little as can be of what is soldered already. Draw a wire to another pad to have it there.',
  settings: /^(out\.\d+\.drives|port\.)/,
  small: (p, station) =>
    waits(p, station) ?? `${driven(p)} of ${actuatorsOf(p.world.airframe).length} driven`,
  progress: (p, station) => {
    const whole = driven(p) === actuatorsOf(p.world.airframe).length;
    return whole && waits(p, station) === null ? 'set' : 'open';
  },
  view: () => import('./WiringStation.tsx'),
};
export default station;
