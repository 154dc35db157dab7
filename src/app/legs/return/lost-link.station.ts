import { settingsOf } from '#core/settings/typed.ts';
import { fromProof, held, type Station, togetherOf, waits, written } from '../station.ts';

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
    'From the first silent moment to the board acting by itself. Drag the marks or type the numbers; they are the settings. Then switch the transmitter off and see that it is so.',
  asks: ['status', 'receiver'],
  requires: ['lost.notice', 'lost.guard', 'lost.action'],
  settings: /^lost\./,
  small: (p, station) => {
    const drill = held('lost-drill', p)?.seen;
    if (drill?.kind === 'lost-drill') return `acted after ${drill.actsS.toFixed(1)} s`;
    const s = settingsOf(p.world.values);
    const afterS = s.number('lost.notice') + s.number('lost.guard');
    return waits(p, station) ?? `acts after ${afterS.toFixed(1)} s`;
  },
  progress: (p, station) => {
    const state = togetherOf(['lost-drill'], p);
    return state === 'none' ? written(p, station) : fromProof(state);
  },
  provable: true,
  view: () => import('./LostLinkStation.tsx'),
};
export default station;
