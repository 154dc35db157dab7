import { describe, expect, it } from 'vitest';
import { plainShape } from '../../testing/plainShape.ts';
import { DEG } from '../math/scalar.ts';
import { EnergyLoop } from './energyLoop.ts';
import { HoverLoops } from './hoverLoops.ts';
import { LowPass } from './lowPass.ts';
import { Notch } from './notch.ts';
import { RateLoop } from './rateLoop.ts';

function stepped(loop: RateLoop, demand: number, rate: number, speedRatio: number, hold: boolean): number {
  Object.assign(loop, { demand, rate, gainBy: speedRatio ** 2, forwardBy: speedRatio });
  loop.step(hold);
  return loop.output;
}

describe('one-pole low-pass', () => {
  it('reaches 1 - 1/e of a step after its time constant', () => {
    const f = new LowPass(10, 0.0005);
    let y = 0;
    for (let k = 0; k < 0.0159155 / 0.0005; k++) y = f.step(1);
    expect(y).toBeCloseTo(1 - Math.exp(-1), 1);
  });

  it('halves the power of a sine at its cut-off', () => {
    const f = new LowPass(10, 0.0001);
    let most = 0;
    for (let k = 0; k < 20_000; k++) {
      const y = f.step(Math.sin(2 * Math.PI * 10 * k * 0.0001));
      if (k > 10_000) most = Math.max(most, y);
    }
    expect(most).toBeCloseTo(Math.SQRT1_2, 2);
  });

  it('lets everything through with no cut-off', () => {
    expect(new LowPass(0, 0.001).step(3)).toBe(3);
  });
});

describe('rate loop', () => {
  const gains = { feedForward: 0.2, proportional: 0.1, integral: 0.5, derivative: 0 };

  it('brings a craft that rolls as a first-order lag to the rate asked for, with no lasting error', () => {
    const loop = new RateLoop(gains, plainShape, 0.001);
    let p = 0;
    for (let k = 0; k < 5000; k++) {
      const u = stepped(loop, 1, p, 1, false);
      p += ((4 * u - p - 0.2) / 0.12) * 0.001;
    }
    expect(p).toBeCloseTo(1, 2);
  });

  it('scales feed-forward with 1/V and the rest with 1/V^2', () => {
    const still = new RateLoop({ ...gains, integral: 0 }, plainShape, 0.001);
    expect(stepped(still, 1, 1, 0.5, false)).toBeCloseTo(0.1, 9);
    expect(stepped(still, 0, -1, 0.5, false)).toBeCloseTo(0.025, 9);
  });

  it('smooths what is asked for the feed-forward by a time constant, and is ahead of it by a lead', () => {
    const only = { feedForward: 1, proportional: 0, integral: 0, derivative: 0 };
    const smooth = new RateLoop(only, { ...plainShape, forwardLagS: 0.05 }, 0.001);
    for (let k = 0; k < 49; k++) stepped(smooth, 0.5, 0, 1, false);
    expect(stepped(smooth, 0.5, 0, 1, false)).toBeCloseTo(0.5 * (1 - Math.exp(-1)), 2);
    // What grows by a tenth in a second is given as it will be 80 ms later, less the 50 ms that smoothing is behind.
    const ahead = new RateLoop(only, { ...plainShape, forwardLagS: 0.05, forwardLeadS: 0.08 }, 0.001);
    for (let k = 0; k < 1000; k++) stepped(ahead, 0.0001 * k, 0, 1, false);
    expect(stepped(ahead, 0.1, 0, 1, false)).toBeCloseTo(0.1 * (1 + 0.08 - 0.05), 3);
  });

  it('cuts D off twice as steeply with two poles', () => {
    const only = { feedForward: 0, proportional: 0, integral: 0, derivative: 0.001 };
    const swing = (dPoles: number) => {
      const loop = new RateLoop(only, { ...plainShape, dPoles }, 0.001);
      let most = 0;
      for (let k = 0; k < 2000; k++) {
        const y = stepped(loop, 0, Math.sin(2 * Math.PI * 30 * k * 0.001), 1, false);
        if (k > 1000) most = Math.max(most, Math.abs(y));
      }
      return most;
    };
    const plain = 0.001 * 2 * Math.PI * 30;
    // At its cut-off a pole leaves half of the power; a step of a millisecond there is not quite a slope.
    expect(swing(1) / plain).toBeCloseTo(Math.SQRT1_2, 1);
    expect(swing(2) / swing(1)).toBeCloseTo(Math.SQRT1_2, 1);
  });

  it('does not wind up while held or at the stop', () => {
    const loop = new RateLoop(gains, plainShape, 0.001);
    for (let k = 0; k < 5000; k++) stepped(loop, 20, 0, 1, false);
    expect(stepped(loop, 0, 0, 1, false)).toBeLessThan(0.06);
    for (let k = 0; k < 5000; k++) stepped(loop, 0.5, 0, 1, true);
    expect(stepped(loop, 0, 0, 1, true)).toBe(0);
  });
});

describe('energy loop', () => {
  it('takes a point mass to a height and speed and holds both', () => {
    const loop = new EnergyLoop(
      {
        climbMps: 3,
        sinkMps: 2,
        cruiseThrottle: 0.45,
        maxThrottle: 1,
        throttlePerClimb: 0.07,
        heightTime: 5,
        speedTime: 4,
        pitchUp: 20 * DEG,
        pitchDown: 15 * DEG,
        pitchTrim: 0,
        speedFloor: 10,
      },
      0.02,
    );
    loop.reset(15);
    let h = 0;
    let v = 15;
    for (let k = 0; k < 6000; k++) {
      const climb = v * Math.sin(loop.pitch);
      loop.step(h, climb, v, 60, 18);
      // Thrust less drag as climb at 15 m/s: throttle 0.5 is level flight there, drag grows with V^2.
      const excess = (loop.throttle - 0.5 * (v / 15) ** 2) / 0.07;
      v += ((excess - climb) * 9.81 * 0.02) / v;
      h += climb * 0.02;
    }
    expect(h).toBeCloseTo(60, 0);
    expect(v).toBeCloseTo(18, 0);
  });
});

describe('the notch', () => {
  const gain = (centre: number, hz: number) => {
    const notch = new Notch(centre, 3, 0.001);
    let most = 0;
    for (let k = 0; k < 4000; k++) {
      const y = notch.step(Math.sin(2 * Math.PI * hz * k * 0.001));
      if (k > 2000) most = Math.max(most, Math.abs(y));
    }
    return most;
  };

  it('takes its own frequency out, halves the power at its edges, and lets the rest through', () => {
    expect(gain(150, 150)).toBeLessThan(0.02);
    // Q is the centre over the width between the half-power points (bilinear transform bends the axis a little).
    expect(gain(150, 127)).toBeGreaterThan(0.6);
    expect(gain(150, 127)).toBeLessThan(0.8);
    expect(gain(150, 20)).toBeGreaterThan(0.98);
    expect(gain(0, 150)).toBeGreaterThan(0.99);
  });
});

describe('hover loops', () => {
  const settings = {
    throttle: 0.4,
    tilt: 30 * DEG,
    velocityP: 1,
    velocityI: 0.25,
    positionP: 0.35,
    climbP: 0.08,
    climbI: 0.03,
    heightP: 0.6,
    climbMps: 3,
    sinkMps: 2,
  };

  it('lean towards where they want to go, whichever way the nose points, and never beyond the limit', () => {
    const loops = new HoverLoops(settings, 0.02);
    loops.move(2, 0, 0, 0, 0, settings.tilt);
    // North with the nose north: nose down, wings level.
    expect(loops.pitch).toBeLessThan(-0.1);
    expect(Math.abs(loops.roll)).toBeLessThan(1e-9);
    loops.reset();
    loops.move(2, 0, 0, 0, Math.PI / 2, settings.tilt);
    // North with the nose east is to the left.
    expect(loops.roll).toBeLessThan(-0.1);
    for (let k = 0; k < 2000; k++) loops.move(40, 30, 0, 0, 0.7, settings.tilt);
    const lean = Math.acos(Math.cos(loops.roll) * Math.cos(loops.pitch));
    expect(lean / DEG).toBeLessThan(30.5);
  });

  it('find the throttle that carries an unknown weight, and give a lean its due', () => {
    const loops = new HoverLoops(settings, 0.02);
    // A point mass whose true hover throttle is 0.5, not the 0.4 that was set.
    let climb = 0;
    for (let k = 0; k < 3000; k++) {
      loops.climb(0, climb, 0, 0.05, 1);
      climb += 9.81 * (loops.throttle / 0.5 - 1) * 0.02;
    }
    expect(Math.abs(climb)).toBeLessThan(0.02);
    expect(loops.throttle).toBeCloseTo(0.5, 2);
    const straight = loops.throttle;
    loops.climb(0, 0, 25 * DEG, 0.05, 1);
    expect(loops.throttle - straight).toBeCloseTo(settings.throttle * (1 / Math.cos(25 * DEG) - 1), 2);
  });
});
