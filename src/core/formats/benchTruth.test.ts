import { describe, expect, it } from 'vitest';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import { turnstone } from '../airframe/library.ts';
import { benchTruthSchema, truthFromSettings } from './benchTruth.ts';

describe('how a craft is really built', () => {
  it('is, in the demo, the mistakes of the scenario', () => {
    const { pads, channels } = demoCraft('turnstone-as-found').bench!;
    const on = (actuator: string) => pads.find((p) => p.actuator === actuator)!;
    expect(on('elevator').direction).toBe(-1);
    expect([on('left-motor').output, on('right-motor').output]).toEqual([2, 1]);
    expect(channels.throttle).toBe(1);
  });

  it('is taken from the settings when nothing is known, so that everything answers rightly', () => {
    const truth = truthFromSettings(turnstone, demoValues('turnstone'));
    expect(benchTruthSchema.parse(truth)).toEqual(truth);
    expect(truth.pads.find((p) => p.actuator === 'elevator')).toEqual({
      output: 4,
      actuator: 'elevator',
      direction: -1,
    });
    expect(truth.channels).toMatchObject({ throttle: 1, roll: 2, pitch: 3, yaw: 4 });
  });

  it('leaves out what the craft does not have', () => {
    const truth = truthFromSettings(turnstone, { ...demoValues('turnstone'), 'out.8.drives': 'motor' });
    expect(truth.pads.some((p) => p.output === 8)).toBe(false);
  });
});
