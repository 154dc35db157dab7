import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { DEG } from '#core/math/scalar.ts';
import { switchedModes } from '#core/modes/modes.ts';
import { writeCrsfChannels, writeSbus } from '#core/sensors/receiverFrames.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { compileConfig } from './config.ts';
import { newDemand } from './loops.ts';
import { PilotInput } from './pilotInput.ts';
import { Readings } from './readings.ts';
import { demandBySticks, limitedThrottle } from './stickDemand.ts';

const plain: Values = {
  'rx.roll.channel': 1,
  'rx.pitch.channel': 2,
  'rx.throttle.channel': 3,
  'rx.yaw.channel': 4,
  'rx.pitch.pullHigh': true,
  'rx.deadband': 5,
  'rx.expo': 0,
};

function setUp(change: Values = {}) {
  const c = compileConfig(prepared(turnstone, { ...plain, ...change }));
  const input = new PilotInput(c);
  const readings = new Readings();
  const channels = new Float64Array(16).fill(1500);
  channels[2] = 1000;
  channels[4] = 1000;
  channels[5] = 1000;
  channels[6] = 1000;
  const step = (seconds = 0.001) => {
    for (let t = 0; t < seconds - 1e-9; t += 0.001) input.step(readings, 0.001);
  };
  const hear = () => {
    if (c.rx.protocol === 'sbus') writeSbus(readings.receiver, channels, false, false);
    else writeCrsfChannels(readings.receiver, channels);
    step();
  };
  return { c, input, readings, channels, step, hear };
}

describe('the pilot by the receiver', () => {
  it('is there with the first frame, and gone 150 ms after the last', () => {
    const { input, hear, step } = setUp();
    step(1);
    expect(input.linkAlive).toBe(false);
    hear();
    expect(input.linkAlive).toBe(true);
    step(0.147);
    expect(input.linkAlive).toBe(true);
    step(0.005);
    expect(input.linkAlive).toBe(false);
    expect(input.quality).toBe(0);
  });

  it('is not there when an SBUS frame says that the transmitter is lost, or the throttle says so', () => {
    const sbus = setUp({ 'rx.protocol': 'sbus' });
    writeSbus(sbus.readings.receiver, sbus.channels, false, true);
    sbus.step();
    expect(sbus.input.linkAlive).toBe(false);
    sbus.hear();
    expect(sbus.input.linkAlive).toBe(true);
    const preset = setUp({ 'rx.lossBelow': 970 });
    preset.channels[2] = 950;
    preset.hear();
    expect(preset.input.linkAlive).toBe(false);
  });

  it('keeps the sticks of the last good frame while nothing comes', () => {
    const { input, channels, hear, step } = setUp();
    channels[0] = 1750;
    hear();
    const held = input.sticks.roll;
    expect(held).toBeGreaterThan(0.45);
    step(5);
    expect(input.sticks.roll).toBe(held);
  });

  it('knows whether arming has been seen off since the start', () => {
    const { input, channels, hear } = setUp();
    channels[4] = 2000;
    hear();
    expect(input.armSeenOff).toBe(false);
    channels[4] = 1000;
    hear();
    channels[4] = 2000;
    hear();
    expect(input.armSeenOff).toBe(true);
    expect(input.armWanted).toBe(true);
  });

  it('asks for each mode by its own switch', () => {
    for (const mode of switchedModes) {
      const { input, channels, hear } = setUp({
        [`mode.${mode}.channel`]: 12,
        [`mode.${mode}.from`]: 1700,
        [`mode.${mode}.to`]: 2200,
      });
      hear();
      expect(input.wants(mode)).toBe(false);
      channels[11] = 1900;
      hear();
      expect(input.wants(mode)).toBe(true);
    }
  });

  it('sets flaps and the control set by their levers', () => {
    const { input, channels, hear } = setUp({ 'flap.channel': 9, 'set.channel': 10 });
    for (const [us, flap, set] of [
      [1000, 0, 0],
      [1500, 0.5, 1],
      [2000, 1, 2],
    ] as const) {
      channels[8] = us;
      channels[9] = us;
      hear();
      expect(input.flap).toBeCloseTo(flap, 2);
      expect(input.set).toBe(set);
    }
    expect(setUp().input.set).toBe(-1);
  });
});

describe('sticks', () => {
  it('go from end to end, symmetric about the middle, whatever the ends are', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 950, max: 1100 }),
        fc.integer({ min: 1900, max: 2050 }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        (low, high, expo) => {
          const { input, channels, hear } = setUp({
            'rx.roll.low': low,
            'rx.roll.high': high,
            'rx.expo': expo,
          });
          const at = (us: number) => {
            channels[0] = us;
            hear();
            return input.sticks.roll;
          };
          // The wire carries steps of 5/8 us, so the ends come to within a step.
          expect(at(high)).toBeCloseTo(1, 2);
          expect(at(low)).toBeCloseTo(-1, 2);
          expect(at(1500)).toBe(0);
          expect(at(1500 + 0.5 * (high - 1500))).toBeLessThanOrEqual(0.505);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('never turn back while the stick moves on', () => {
    const { input, channels, hear } = setUp({ 'rx.expo': 0.6, 'rx.deadband': 20 });
    let last = -1;
    for (let us = 1000; us <= 2000; us += 5) {
      channels[0] = us;
      hear();
      expect(input.sticks.roll).toBeGreaterThanOrEqual(last);
      last = input.sticks.roll;
    }
  });

  it('tell how far they moved since they were marked', () => {
    const { input, channels, hear } = setUp();
    hear();
    input.sticks.mark();
    channels[3] = 1700;
    channels[2] = 1100;
    hear();
    expect(input.sticks.shift()).toBeCloseTo(195 / 495, 2);
  });
});

describe('what sticks ask of the attitude', () => {
  const c = compileConfig(prepared(turnstone, { ...plain, 'horizon.blend': 0.4 }));
  const set = c.sets[0]!;
  const asked = (mode: 'rate' | 'level' | 'horizon', roll: number, pitch: number, config = c) => {
    const d = newDemand();
    demandBySticks(mode, { roll, pitch } as never, config, set, d);
    return d;
  };

  it('is rates in Rate and angles within the limits in Level', () => {
    expect(asked('rate', 1, 0)).toMatchObject({ freeRoll: 1, freePitch: 1 });
    const level = asked('level', -1, 1);
    expect(level).toMatchObject({ freeRoll: 0, freePitch: 0 });
    expect(level.roll).toBeCloseTo(-set.bank, 12);
    expect(level.pitch).toBeCloseTo(c.energy.pitchTrim + set.up, 12);
    expect(asked('level', 0, -1).pitch).toBeCloseTo(c.energy.pitchTrim - set.down, 12);
  });

  it('is a blend in Horizon: angles in the middle, rates at the ends, rising between', () => {
    expect(asked('horizon', 0.39, 0).freeRoll).toBe(0);
    expect(asked('horizon', 1, 1)).toMatchObject({ freeRoll: expect.closeTo(1, 1) });
    let last = 0;
    for (let x = 0.4; x <= 1; x += 0.05) {
      const free = asked('horizon', -x, 0).freeRoll;
      expect(free).toBeGreaterThanOrEqual(last);
      last = free;
    }
  });

  it('knows no trim on a craft that hovers', () => {
    const rotors = compileConfig(prepared(avocet, { 'level.pitch': 5 }));
    expect(asked('level', 0, 0, rotors).pitch).toBe(0);
    expect(c.energy.pitchTrim / DEG).not.toBe(0);
  });
});

describe('the throttle', () => {
  const c = compileConfig(prepared(turnstone, { 'motor.idle': 0.05, 'motor.max': 0.8, 'motor.ramp': 2 }));

  it('is none unless armed, and between idle and its limit when armed', () => {
    expect(limitedThrottle(1, 0.5, false, c, 0.001)).toBe(0);
    expect(limitedThrottle(0, 0.5, true, c, 0.001)).toBe(0.05);
    expect(limitedThrottle(1, 0.7999, true, c, 0.001)).toBe(0.8);
  });

  it('rises no faster than the ramp and falls at once', () => {
    let t = 0;
    for (let k = 0; k < 1000; k++) t = limitedThrottle(1, t, true, c, 0.001);
    expect(t).toBeCloseTo(0.5, 6);
    expect(limitedThrottle(0.1, t, true, c, 0.001)).toBe(0.1);
  });
});
