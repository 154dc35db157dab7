import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { boardOf } from '#core/board/boards.ts';
import { COVERAGE_LEAST } from '#core/calibration/compassFit.ts';
import { FACETS, facetOf } from '#core/calibration/coverage.ts';
import { attitudeOf } from '#core/calibration/poses.ts';
import { Plant } from '#core/flight/plant.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { toBody } from '#core/math/quaternion.ts';
import type { Triple } from '#core/math/triple.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { Around, LOAD_A, putAround, toolsAway } from './around.ts';
import { Devices } from './devices.ts';
import { atRest, Handling } from './handling.ts';

const values = pfadCatalogue.defaults();

/** Devices of a craft that stands, and the mean of what one of them says in some seconds. */
function bench(truth: Partial<BenchTruth>, airframe = turnstone) {
  const plant = new Plant(airframe);
  const around = new Around();
  const built = { ...truthFromSettings(airframe, values), ...truth };
  const devices = new Devices(plant, built, values, torvholm, 5, boardOf('fell-f7')!, around);
  const mean = (of: () => number, seconds = 2) => {
    let sum = 0;
    for (let k = 0; k < seconds * 1000; k++) {
      devices.step(true, 0.001);
      sum += of();
    }
    return sum / (seconds * 1000);
  };
  return { around, devices, mean, r: devices.readings };
}

describe('tools on the bench', () => {
  it('a fan, a breath and a lamp move an open barometer, and hardly one under foam', () => {
    for (const [shielded, least, most] of [
      [false, 15, 600],
      [true, 0, 25],
    ] as const) {
      const { around, mean, r } = bench({ baroShielded: shielded });
      const still = mean(() => r.baro.value);
      for (const tool of [{ fan: true }, { lamp: true }, { tube: 'breathed into' as const }]) {
        putAround(around, { ...toolsAway, ...tool }, true, 0);
        const shift = Math.abs(mean(() => r.baro.value) - still);
        expect(shift, JSON.stringify(tool)).toBeGreaterThanOrEqual(least);
        expect(shift, JSON.stringify(tool)).toBeLessThan(most);
      }
    }
  });

  it('the tube feels fan and breath, nothing under its cover, little with a leak, nothing when blocked', () => {
    const felt = (tube: 'whole' | 'leaks' | 'blocked', tool: object) => {
      const { around, mean, r } = bench({ pitotTube: tube });
      putAround(around, { ...toolsAway, ...tool }, true, 0);
      return mean(() => r.pitot.value);
    };
    // Half the density times the square of 11 m/s.
    expect(felt('whole', { fan: true })).toBeCloseTo(0.5 * 1.22 * 121, -1);
    expect(felt('whole', { fan: true, tube: 'covered' })).toBeLessThan(1);
    expect(felt('whole', { tube: 'breathed into' })).toBeGreaterThan(400);
    expect(felt('leaks', { tube: 'breathed into' })).toBeLessThan(200);
    expect(felt('blocked', { tube: 'breathed into' })).toBeLessThan(1);
  });

  it('a load draws what is printed on it, and only from a battery that is in', () => {
    const around = new Around();
    putAround(around, { ...toolsAway, load: true }, true, 0);
    expect(around.loadA).toBe(LOAD_A);
    putAround(around, { ...toolsAway, load: true }, false, 0);
    expect(around.loadA).toBe(0);
  });

  it('a magnetic screwdriver moves the field, and leaves it as it was', () => {
    const { around, devices, r } = bench(
      { fitted: { airspeed: false, compass: true, rangefinder: false, flow: false } },
      avocet,
    );
    const spread = () => {
      let [least, most] = [Infinity, -Infinity];
      for (let k = 0; k < 3000; k++) {
        devices.step(true, 0.001);
        least = Math.min(least, r.compass.field[0]!);
        most = Math.max(most, r.compass.field[0]!);
      }
      return most - least;
    };
    expect(spread()).toBeLessThan(4);
    putAround(around, { ...toolsAway, screwdriver: true }, true, 0);
    expect(spread()).toBeGreaterThan(20);
    putAround(around, toolsAway, true, 0);
    expect(spread()).toBeLessThan(4);
  });
});

describe('hands that turn a craft through all directions', () => {
  it('show a compass nearly every facet of the globe within a minute', () => {
    const plant = new Plant(avocet);
    const handling = new Handling(plant);
    const seen = new Set<number>();
    const how = { ...atRest, support: 'hands' as const, pose: attitudeOf(0, 0, 0), turning: 'all' as const };
    const field: Triple = [0.26, 0.02, 0.97];
    const body = new Float64Array(3);
    for (let k = 0; k < 60_000; k++) {
      handling.step(how, 0.001);
      if (k % 20 !== 0) continue;
      toBody(body, plant.attitude, Float64Array.from(field));
      seen.add(facetOf([body[0]!, body[1]!, body[2]!]));
    }
    expect(seen.size / FACETS).toBeGreaterThan(COVERAGE_LEAST + 0.25);
  });

  it('lift it at the pace of a hand, and put it back', () => {
    const plant = new Plant(turnstone);
    const handling = new Handling(plant);
    const from = plant.position[2]!;
    const run = (liftM: number, seconds: number) => {
      for (let k = 0; k < seconds * 1000; k++) handling.step({ ...atRest, liftM }, 0.001);
    };
    run(1, 1);
    expect(from - plant.position[2]!).toBeCloseTo(0.5, 2);
    run(1, 2);
    expect(from - plant.position[2]!).toBeCloseTo(1, 3);
    run(0, 3);
    expect(from - plant.position[2]!).toBeCloseTo(0, 3);
  });
});
