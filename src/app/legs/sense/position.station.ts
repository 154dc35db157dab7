import { stateOf } from '#core/proofs/proofs.ts';
import { fromProof, held, needsBoard, type Station } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    position: true;
  }
}

const station: Station = {
  id: 'position',
  place: 50,
  name: 'Position',
  about:
    'Lie down beside the craft, feet to the south: this is the sky as its receiver has it. Letters are satellites by system, larger when louder, filled when used. Needs the open sky and some minutes.',
  needs: ['board'],
  requires: ['gnss.baud'],
  asks: ['sky', 'procedure-start'],
  settings: /^gnss\./,
  small: (p) => {
    const proof = held('fix', p);
    if (proof?.seen.kind === 'fix')
      return `${proof.seen.used} used, fix after ${proof.seen.seconds.toFixed(0)} s`;
    return needsBoard(p);
  },
  progress: (p) =>
    fromProof(
      stateOf(
        p.proofs.find((x) => x.id === 'fix'),
        p.world,
      ),
    ),
  view: () => import('./PositionStation.tsx'),
};
export default station;
