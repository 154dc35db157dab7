import type { MigrationStep } from './rules.ts';

/** Settings of Pfad 3.1 as 3.2-rc1 has them. The candidate was withdrawn: what 3.2 became goes out from 3.1 again. */
export const pfad31to32rc: MigrationStep = {
  from: '3.1',
  to: '3.2-rc1',
  rules: [
    { kind: 'rename', old: 'return.floor', new: 'return.lowest' },
    {
      kind: 'split',
      old: 'nav.climb',
      new: ['nav.climb', 'return.climbRate'],
      why: 'The way home may climb faster than navigation does, from 3.2.',
    },
    {
      kind: 'scale',
      old: 'pitot.scale',
      new: 'pitot.correction',
      factor: 100,
      formula: 'scale × 100',
      why: 'Sensor scales are written in percent from 3.2.',
      kept: { unit: 'percent', step: 1 },
    },
    {
      kind: 'introduced',
      entry: {
        key: 'return.reserve',
        group: 'Way home',
        label: 'Battery kept for landing',
        meaning: 'Turns for home while this much will be left on arrival.',
        type: 'number',
        unit: 'share',
        min: 0,
        max: 0.5,
        step: 0.05,
        default: 0.2,
        effect: 'now',
      },
      why: 'From 3.2 the board turns for home by itself while the battery still reaches.',
    },
    {
      kind: 'redefault',
      key: 'lost.action',
      was: 'cut',
      now: 'return',
      why: 'From 3.2 a craft comes home when nothing else is set.',
    },
  ],
};
