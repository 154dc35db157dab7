import { stickNames } from '#core/proofs/seen.ts';
import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    sticks: true;
  }
}

const station: Station = {
  id: 'sticks',
  place: 20,
  name: 'Sticks',
  about:
    'Receivers put the sticks in different orders. Move each stick once when asked; the channel that follows is the right one. Then watch the craft pane: every stick moves its surfaces.',
  needs: ['board'],
  asks: ['procedure-start', 'receiver'],
  requires: ['rx.roll.channel', 'rx.pitch.channel', 'rx.throttle.channel', 'rx.yaw.channel'],
  settings: /^rx\.(?!protocol|levels|wires|quality|lossBelow|expo)/,
  small: (p) =>
    needsBoard(p) ?? `${stickNames.filter((s) => held(`stick.${s}`, p)).length} of ${stickNames.length} seen`,
  progress: (p) =>
    fromProof(
      togetherOf(
        stickNames.map((s) => `stick.${s}`),
        p,
      ),
    ),
  view: () => import('./SticksStation.tsx'),
};
export default station;
