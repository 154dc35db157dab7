import { describe, expect, it } from 'vitest';
import { plainShape } from '../../testing/plainShape.ts';
import { type RateGains, RateLoop } from '../control/rateLoop.ts';
import { Random } from '../math/random.ts';
import { gainsFromLog, type LoopStretch } from './gainsFromLog.ts';

/** A loop of these gains on something that turns, its gyro noisy. */
function flown(gains: RateGains, noise: number, rateHz: number, seconds = 40): LoopStretch {
  const dt = 1 / rateHz;
  const loop = new RateLoop(gains, plainShape, dt);
  const random = new Random(3);
  const n = seconds * rateHz;
  const [asked, came, given] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  let [rate, demand] = [0, 0];
  for (let k = 0; k < n; k++) {
    if (k % Math.round(0.5 * rateHz) === 0) demand = 3 * (random.uniform() - 0.5);
    loop.demand = demand;
    loop.rate = rate + noise * random.normal();
    loop.step(false);
    asked[k] = demand;
    came[k] = loop.rate;
    given[k] = loop.output;
    // Roll of a wing: 40 rad/s^2 per full command, damped by 10 1/s.
    rate += dt * (40 * loop.output - 10 * rate + 0.5 * Math.sin(k * dt));
  }
  return { asked, came, given };
}

const gains = { feedForward: 0.2, proportional: 0.15, integral: 0.4, derivative: 0 };

describe('gains out of a log', () => {
  it.each([
    [0, 1000],
    [0.02, 500],
    [0.05, 250],
  ])('are those that flew it, with noise of %d rad/s at %d Hz', (noise, rateHz) => {
    const found = gainsFromLog([flown(gains, noise, rateHz)], rateHz)!;
    expect(found.explained).toBeGreaterThan(0.97);
    expect(Math.abs(found.p.value / 0.15 - 1)).toBeLessThan(0.05);
    expect(Math.abs(found.forward.value / 0.2 - 1)).toBeLessThan(0.05);
    expect(Math.abs(found.i.value / 0.4 - 1)).toBeLessThan(0.1);
    expect(Math.abs(found.d.value)).toBeLessThan(0.002);
    expect(found.lateS).toBe(0);
  });

  it('tell D, and a gyro that reaches the loop late', () => {
    const rateHz = 1000;
    const { asked, came, given } = flown({ ...gains, derivative: 0.004 }, 0.02, rateHz);
    const late = 5;
    const log = { asked, given, came: Float64Array.from(came, (_, k) => came[k + late] ?? 0) };
    const found = gainsFromLog(
      [
        {
          ...log,
          asked: log.asked.subarray(0, 39_000),
          given: log.given.subarray(0, 39_000),
          came: log.came.subarray(0, 39_000),
        },
      ],
      rateHz,
    )!;
    expect(found.lateS).toBeCloseTo(0.005, 9);
    expect(Math.abs(found.d.value / 0.004 - 1)).toBeLessThan(0.15);
    expect(Math.abs(found.p.value / 0.15 - 1)).toBeLessThan(0.1);
  });

  it('are none where nothing moved or it was too short, and no loop is told by what it leaves', () => {
    const still = {
      asked: new Float64Array(20_000),
      came: new Float64Array(20_000),
      given: new Float64Array(20_000),
    };
    expect(gainsFromLog([still], 1000)).toBeNull();
    expect(gainsFromLog([flown(gains, 0, 1000, 5)], 1000)).toBeNull();
    const random = new Random(1);
    const other = {
      ...flown(gains, 0, 500),
      given: Float64Array.from({ length: 20_000 }, () => random.uniform() - 0.5),
    };
    expect(gainsFromLog([other], 500)!.explained).toBeLessThan(0.1);
  });
});
