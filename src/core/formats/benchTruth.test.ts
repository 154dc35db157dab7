import { describe, expect, it } from 'vitest';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import type { FittingId } from '../airframe/actuators.ts';
import { turnstone } from '../airframe/library.ts';
import type { Assignment } from '../board/solve.ts';
import { benchTruthSchema, solderedAs, truthFromSettings } from './benchTruth.ts';

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

  it('gets what the craft carries soldered on, and comes off what it carries no more', () => {
    const truth = demoCraft('turnstone').bench!;
    const carrying = { ...turnstone, fittings: ['pan', 'lights'] as FittingId[] };
    const wish = (name: string, output: number) => ({ wish: { name, kind: 'servo-pwm' as const }, output });
    const assignment = {
      outputs: [wish('pan', 7), wish('lights', 8)],
      serial: [],
      buses: [],
    } as unknown as Assignment;
    const next = solderedAs(carrying, truth, assignment);
    expect(next.pads.filter((p) => p.output > 6)).toEqual([
      { output: 7, actuator: 'pan', direction: 1 },
      { output: 8, actuator: 'lights', direction: 1 },
    ]);
    expect(solderedAs(carrying, next, assignment)).toEqual(next);
    expect(solderedAs(turnstone, next, assignment).pads).toEqual(truth.pads);
  });
});
