import { describe, expect, it } from 'vitest';
import { Noise, Random } from '../math/random.ts';
import { type Stretch, stepFromLog } from './stepResponse.ts';

/** A log of a craft that answers as a damped swing of 2.2 Hz, damping 0.5: closed form below. */
const OMEGA = 2 * Math.PI * 2.2;
const ZETA = 0.5;
const truth = (t: number) => {
  const damped = OMEGA * Math.sqrt(1 - ZETA ** 2);
  return (
    1 -
    Math.exp(-ZETA * OMEGA * t) * (Math.cos(damped * t) + ((ZETA * OMEGA) / damped) * Math.sin(damped * t))
  );
};

function log(seconds: number, rateHz: number, moves: number, noise: number): Stretch {
  const [random, noisy] = [new Random(4), new Noise(9)];
  const fine = 10;
  const n = Math.round(seconds * rateHz);
  const [asked, came] = [new Float64Array(n), new Float64Array(n)];
  let [wish, w, v] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    if (random.uniform() < moves / rateHz) wish = 2 * (random.uniform() - 0.5) * 1.5;
    asked[k] = wish;
    came[k] = w + noise * noisy.next();
    const dt = 1 / rateHz / fine;
    for (let j = 0; j < fine; j++) {
      v += dt * (OMEGA * OMEGA * (wish - w) - 2 * ZETA * OMEGA * v);
      w += dt * v;
    }
  }
  return { asked, came };
}

describe('a step out of a log', () => {
  it.each([
    ['every moment', 1000, 0.08],
    ['fifty times a second', 50, 0.05],
  ])('is the one that the craft truly has, logged %s', (_name, rateHz, noise) => {
    const told = stepFromLog([log(90, rateHz, 1.5, noise)], rateHz, 0.1);
    if (!told.ok) throw new Error(told.why);
    const { mean, spread, stepS, upToHz, windows } = told.step;
    expect(windows).toBeGreaterThan(20);
    expect(upToHz).toBeGreaterThan(2.2);
    let worst = 0;
    for (let k = 0; k < mean.length; k++) worst = Math.max(worst, Math.abs(mean[k]! - truth(k * stepS)));
    expect(worst).toBeLessThan(0.1);
    const most = Math.max(...mean);
    expect(most).toBeCloseTo(1 + Math.exp((-Math.PI * ZETA) / Math.sqrt(1 - ZETA ** 2)), 1);
    // It says how sure it is: wrong by more than four of its errors nowhere but by what the taper takes.
    for (let k = 0; k < mean.length; k++)
      expect(Math.abs(mean[k]! - truth(k * stepS))).toBeLessThan(4 * spread[k]! + 0.08);
  });

  it('is surer the less noise there is', () => {
    const of = (noise: number) => {
      const told = stepFromLog([log(60, 200, 1.5, noise)], 200, 0.1);
      return told.ok ? Math.max(...told.step.spread) : Number.NaN;
    };
    expect(of(0.4)).toBeGreaterThan(of(0.05));
  });

  it.each([
    ['sticks that rest', [log(60, 100, 0, 0.1)], /sticks that rest/],
    ['a log of a second', [log(1, 100, 2, 0.1)], /no stretch of it lasts/],
    [
      'a gyro that says anything',
      [{ asked: log(60, 100, 2, 0).asked, came: log(60, 100, 0, 1).came }],
      /nothing to do with what was asked/,
    ],
  ])('is refused of %s', (_name, stretches, why) => {
    const told = stepFromLog(stretches, 100, 0.1);
    expect(told).toMatchObject({ ok: false, why: expect.stringMatching(why) });
  });

  it('joins stretches between gaps', () => {
    const whole = log(90, 100, 1.5, 0.05);
    const cut = (from: number, to: number) => ({
      asked: whole.asked.slice(from, to),
      came: whole.came.slice(from, to),
    });
    const told = stepFromLog([cut(0, 4000), cut(4100, 9000)], 100, 0.1);
    expect(told.ok).toBe(true);
  });
});
