import { type Station, waits, written } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    answers: true;
  }
}

const station: Station = {
  id: 'answers',
  place: 20,
  name: 'How it answers',
  about:
    'A rate that is asked for suddenly, as the craft will answer it by its gains, filters, servos and air, before it flies; and how much delay it bears until it rings.',
  requires: ['rate.roll.p', 'rate.roll.i', 'rate.roll.forward'],
  settings: /^rate\.((roll|pitch|yaw)\.(p|i|d|forward)|forwardLag|forwardLead)$/,
  small: (p, station) => waits(p, station),
  progress: written,
  view: () => import('./AnswersStation.tsx'),
};
export default station;
