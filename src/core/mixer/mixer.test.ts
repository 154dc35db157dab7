import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import { commandedBy } from './commanded.ts';
import { deflectionOfPulse, motorPulse, servoPulse } from './pulse.ts';

const shape = { lowUs: 1000, centreUs: 1480, highUs: 2000, reversed: false };

describe('pulses', () => {
  it('stay between the ends, whatever is asked for', () => {
    fc.assert(
      fc.property(fc.double({ min: -5, max: 5, noNaN: true }), fc.boolean(), (d, reversed) => {
        const us = servoPulse({ ...shape, reversed }, d);
        expect(us).toBeGreaterThanOrEqual(1000);
        expect(us).toBeLessThanOrEqual(2000);
      }),
    );
  });

  it('read back give the deflection', () => {
    fc.assert(
      fc.property(fc.double({ min: -1, max: 1, noNaN: true }), fc.boolean(), (d, reversed) => {
        const s = { ...shape, reversed };
        expect(deflectionOfPulse(s, servoPulse(s, d))).toBeCloseTo(d, 9);
      }),
    );
  });

  it('stop a motor at the low end', () => {
    expect(motorPulse(shape, 0)).toBe(1000);
    expect(motorPulse(shape, 1)).toBe(2000);
    expect(motorPulse(shape, 7)).toBe(2000);
  });
});

describe('what the board commands', () => {
  it('is read from its pulses by its own settings', () => {
    const values = demoValues('turnstone');
    const got = commandedBy(values, [1000, 1500, 1500, 1000, 1500, 2000, 0, 0, 0]);
    expect(got['right-motor']).toBe(0);
    expect(got['left-motor']).toBe(0.5);
    // Output 4 is reversed: the short pulse is trailing edge down.
    expect(got.elevator).toBe(1);
    expect(got['right-aileron']).toBe(1);
    expect(got.motor).toBeUndefined();
  });
});
