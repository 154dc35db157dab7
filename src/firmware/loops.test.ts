import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { DEG, GRAVITY } from '#core/math/scalar.ts';
import { prepared } from '../testing/aloft.ts';
import { compileConfig } from './config.ts';
import { Loops, newDemand } from './loops.ts';
import type { Sensing } from './sensing.ts';

/** The loops on a made-up attitude. */
function loops(airframe = turnstone, change = {}) {
  const c = compileConfig(prepared(airframe, change));
  const l = new Loops(c, c.sets[0]!, 0.001);
  const attitude = { roll: 0, pitch: 0, rates: new Float64Array(3) };
  const sensing = { attitude, airspeed: c.reference } as unknown as Sensing;
  const out = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0 };
  const demand = newDemand();
  const step = (flying = true, hold = false) => {
    l.step(demand, sensing, hold, flying, out);
    return out;
  };
  return { c, l, attitude, demand, sensing: sensing as { airspeed: number }, out, step };
}

describe('the level loop', () => {
  it('asks for the rate that takes the error out in the level time, and no faster than the limit', () => {
    const { c, l, attitude, demand, step } = loops();
    const set = c.sets[0]!;
    demand.roll = 0.02;
    step(false);
    expect(l.wanted[0]).toBeCloseTo(0.02 / set.levelTime, 9);
    demand.roll = 3;
    step(false);
    expect(l.wanted[0]).toBe(set.rollMax);
    demand.roll = 0;
    attitude.roll = 3;
    step(false);
    expect(l.wanted[0]).toBe(-set.rollMax);
  });

  it('lets the sticks turn freely in Rate, at the greatest rate at their ends', () => {
    const { c, l, attitude, demand, step } = loops();
    Object.assign(demand, { freeRoll: 1, freePitch: 1, stickRoll: -1, stickPitch: 0.5, stickYaw: 1 });
    attitude.roll = 2;
    attitude.pitch = -1;
    step(false);
    const set = c.sets[0]!;
    expect([...l.wanted]).toEqual([-set.rollMax, 0.5 * set.pitchMax, set.yawMax]);
  });
});

describe('a coordinated turn', () => {
  it('yaws by g tan(bank)/V about the vertical, in body axes', () => {
    const { c, l, attitude, demand, sensing, step } = loops();
    for (const bank of [-40, -15, 15, 30, 45]) {
      attitude.roll = bank * DEG;
      attitude.pitch = 0;
      demand.roll = attitude.roll;
      demand.pitch = 0;
      sensing.airspeed = c.reference;
      for (let k = 0; k < 4; k++) step();
      const turn = (GRAVITY / c.reference) * Math.tan(attitude.roll);
      expect(l.wanted[2]).toBeCloseTo(turn * Math.cos(attitude.roll), 9);
      expect(l.wanted[1]).toBeCloseTo(turn * Math.sin(attitude.roll), 9);
      // Pitching up in either turn, since it pulls the nose round.
      expect(l.wanted[1]!).toBeGreaterThan(0);
    }
  });

  it('is not flown on the ground, nor by rotors', () => {
    for (const rig of [loops(), loops(avocet)]) {
      rig.attitude.roll = rig.demand.roll = 30 * DEG;
      for (let k = 0; k < 5; k++) rig.step(rig.c.rotorcraft);
      expect(rig.l.wanted[1]).toBe(0);
      expect(rig.l.wanted[2]).toBe(0);
    }
  });
});

describe('scaling by speed', () => {
  it('moves surfaces more when slow and less when fast, within bounds', () => {
    const at = (share: number) => {
      const rig = loops(turnstone, { 'rate.roll.i': 0, 'rate.roll.p': 0 });
      Object.assign(rig.demand, { freeRoll: 1, freePitch: 1, stickRoll: 0.2 });
      rig.sensing.airspeed = share * rig.c.reference;
      return rig.step().roll;
    };
    const full = at(1);
    expect(at(2) / full).toBeCloseTo(0.5, 6);
    expect(at(0.8) / full).toBeCloseTo(1.25, 6);
    expect(at(0.3)).toBeCloseTo(at(0.6), 9);
    expect(at(5)).toBeCloseTo(at(2), 9);
  });

  it('does not touch rotors', () => {
    const rig = loops(avocet);
    Object.assign(rig.demand, { freeRoll: 1, freePitch: 1, stickRoll: 0.2 });
    rig.sensing.airspeed = 0;
    const slow = rig.step().roll;
    const fast = loops(avocet);
    Object.assign(fast.demand, { freeRoll: 1, freePitch: 1, stickRoll: 0.2 });
    fast.sensing.airspeed = 25;
    expect(fast.step().roll).toBe(slow);
  });
});

describe('sums', () => {
  it('grow in flight under a lasting error, rest on the ground, and are gone after a reset', () => {
    const rig = loops();
    Object.assign(rig.demand, { freeRoll: 1, freePitch: 1, stickRoll: 0.3 });
    const first = rig.step(true, true).roll;
    for (let k = 0; k < 500; k++) rig.step(true, true);
    expect(rig.out.roll).toBeCloseTo(first, 9);
    for (let k = 0; k < 500; k++) rig.step(true, false);
    expect(rig.out.roll).toBeGreaterThan(first + 0.01);
    rig.l.reset();
    expect(rig.step(true, true).roll).toBeCloseTo(first, 9);
  });
});
