import { describe, expect, it } from 'vitest';
import { fittingIds } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { turnstone } from '#core/airframe/library.ts';
import { Plant } from '#core/flight/plant.ts';
import { demoCraft } from '../testing/demoCraft.ts';
import { Wiring } from './wiring.ts';

describe('what a craft carries, on the bench', () => {
  const carrying: Airframe = { ...turnstone, fittings: [...fittingIds] };
  const truth = demoCraft('turnstone').bench!;
  const built = {
    ...truth,
    pads: [...truth.pads, { output: 8, actuator: 'pan' as const, direction: -1 as const }],
  };
  const after = (us: number, seconds: number, powered = true) => {
    const wiring = new Wiring(carrying, built);
    const plant = new Plant(carrying);
    const pulses = new Float64Array(9);
    pulses[7] = us;
    for (let k = 0; k < seconds * 1000; k++) wiring.step(pulses, plant, powered, 0.001);
    return wiring.fittings[fittingIds.indexOf('pan')]!;
  };

  it('goes where its pulse says, as fast as it can and as its rod is turned', () => {
    expect(after(2000, 1)).toBe(-1);
    expect(after(1750, 1)).toBeCloseTo(-0.5, 9);
    // A sixth of a second from its middle to an end.
    expect(after(2000, 0.1)).toBeCloseTo(-0.6, 6);
  });

  it('stands still without power, without a pulse, and where nothing is soldered', () => {
    expect(after(2000, 1, false)).toBe(0);
    expect(after(0, 1)).toBe(0);
    const wiring = new Wiring(carrying, truth);
    wiring.step(new Float64Array(9).fill(2000), new Plant(carrying), true, 0.5);
    expect([...wiring.fittings]).toEqual([0, 0, 0, 0, 0, 0]);
  });
});
