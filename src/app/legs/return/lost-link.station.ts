import { settingsOf } from '#core/settings/typed.ts';
import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    'lost-link': true;
  }
}

const station: Station = {
  id: 'lost-link',
  place: 10,
  name: 'When the link is lost',
  about:
    'From the first silent moment to the board acting by itself. Drag the marks or type the numbers; they are the settings.',
  requires: ['lost.notice', 'lost.guard', 'lost.action'],
  settings: /^lost\./,
  small: (p, station) => {
    const s = settingsOf(p.world.values);
    const afterS = s.number('lost.notice') + s.number('lost.guard');
    return waits(p, station) ?? `acts after ${afterS.toFixed(1)} s`;
  },
  progress: written,
  view: () => import('./LostLinkStation.tsx'),
};
export default station;
