import { fromProof, held, needsBoard, type Station, togetherOf, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    receiver: true;
  }
}

const station: Station = {
  id: 'receiver',
  place: 18,
  name: 'Receiver',
  about:
    'What comes to the receiver’s port: which protocol, how many whole frames a second, and where it tells how well it hears.',
  needs: ['board'],
  asks: ['procedure-start', 'radio', 'receiver'],
  requires: ['rx.protocol', 'rx.quality.channel'],
  settings: /^rx\.(protocol|levels|wires|quality\.)/,
  small: (p) => {
    const seen = held('receiver', p)?.seen;
    return needsBoard(p) ?? (seen?.kind === 'receiver' ? `${seen.hz.toFixed(0)} frames a second` : null);
  },
  progress: (p, station) => {
    const state = togetherOf(['receiver'], p);
    // Sticks that were learnt show as well that it is heard.
    return state === 'none' ? written(p, station) : fromProof(state);
  },
  view: () => import('./ReceiverStation.tsx'),
};
export default station;
