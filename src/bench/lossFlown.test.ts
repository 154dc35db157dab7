import { describe, expect, it } from 'vitest';
import { usualScenario } from '#core/formats/scenario.ts';
import { fallingCraft } from '#core/search/fallingCraft.ts';
import { type DemoName, flyableDemo, torvholm } from '../testing/demoCraft.ts';
import { flyLoss } from './lossFlown.ts';
import { Rehearsal } from './rehearsal.ts';

const STEPS = 1000;
/** Over so much of its height it is watched; none of them is at the ground by then. */
const SUNK_M = 180;

/** How far a craft comes for its height, hands off, propellers standing, in still air, from 400 m. */
function glides(name: DemoName): { flown: number; said: number } {
  const craft = flyableDemo(name);
  const values = { ...craft.values, 'lost.action': 'cut' as const };
  const usual = usualScenario(torvholm.home);
  const flight = new Rehearsal({
    ...{ ...craft, values, site: torvholm },
    scenario: {
      ...usual,
      wind: { speedMps: 0, fromDeg: 0, gustMps: 0 },
      outbound: { ...usual.outbound, heightM: 400, begins: 'there' },
      events: [],
    },
  });
  const { craft: flying } = flight;
  const { plant } = flying;
  flying.radio.on = false;
  for (const m of plant.motors) m.failed = true;
  for (let k = 0; k < 8 * STEPS; k++) flying.step();
  const from = plant.height;
  let way = 0;
  for (let k = 0; k < 200 * STEPS && plant.height > from - SUNK_M; k++) {
    flying.step();
    way += Math.hypot(plant.velocity[0]!, plant.velocity[1]!) / STEPS;
  }
  return {
    flown: way / (from - plant.height),
    said: fallingCraft(craft.airframe, values).glideRatio,
  };
}

describe('a craft that was lost', () => {
  // The bench flies six degrees of freedom and each surface by itself; what is said is one polar times one number.
  it.each([
    ['turnstone', 1.1],
    ['dunlin', 1.24],
    ['sandpiper', 0.92],
    // A delta stands steeper in the air than its best.
    ['knot', 0.72],
  ] as const)('%s glides by itself %f times as far as is said of it', (name, share) => {
    const { flown, said } = glides(name);
    expect(Math.abs(flown / said - share)).toBeLessThan(0.05);
  });

  it('lies where it fell, and is what was last heard of it', () => {
    const craft = flyableDemo('turnstone');
    const seeds = Array.from({ length: 6 }, (_, i) => i + 1);
    const losses = seeds.map((seed) => flyLoss(craft, torvholm, seed)).filter((l) => l !== null);
    expect(losses.length).toBeGreaterThan(1);
    for (const l of losses) {
      expect(l.seconds).toBeGreaterThan(1);
      // No farther than it could have flown in that time with the wind behind it.
      expect(Math.hypot(l.north, l.east)).toBeLessThan(l.seconds * 45);
      expect(l.seen.batteryShare).toBeGreaterThan(0);
      expect(l.seen.batteryShare).toBeLessThanOrEqual(1);
      expect(l.seen.heightM).toBeGreaterThan(torvholm.home.heightM - 20);
    }
    // The same loss again is the same to the last bit.
    expect(flyLoss(craft, torvholm, seeds[0]!)).toEqual(flyLoss(craft, torvholm, seeds[0]!));
  });
});
