import { describe, expect, it } from 'vitest';
import { avocet, sandpiper, turnstone } from '#core/airframe/library.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { compileConfig } from './config.ts';
import type { ControllerOnWire } from './readings.ts';
import { TwinTrim } from './twinTrim.ts';

const frames = { 'timer.1.sends': 'dshot600' };

/** A trim over controllers made by hand: their outputs are those of the config. */
function setUp(airframe = turnstone, change: Values = frames, tells = true) {
  const pads = [1, 2, 3, 4, 5, 6].map((output) => ({ output, pad: `S${output}`, timer: 1 }));
  const c = compileConfig(prepared(airframe, change), pads);
  const said: string[] = [];
  const twin = new TwinTrim(c, (text) => said.push(text));
  twin.reset();
  const wire = (role: string) => ({
    output: c.outputs.findIndex((o) => o.role === role) + 1,
    tells,
    told: { rpm: 8000, degC: 40, amps: 8 },
  });
  const [left, right] = [wire('left-motor'), wire('right-motor')];
  const wires = [left, right] as unknown as readonly ControllerOnWire[];
  const run = (seconds: number, yaw = 0, throttle = 0.6) => {
    for (let t = 0; t < seconds - 1e-9; t += 0.02) twin.step(wires, yaw, throttle, 0.02);
  };
  return { twin, said, left, right, run };
}

describe('a twin’s missing motor', () => {
  it('is known within two seconds by the speed that its controller tells', () => {
    const { twin, said, left, run } = setUp();
    run(10);
    expect(twin.out).toBeNull();
    left.told.rpm = 300;
    run(2);
    expect(twin.out).toBe('left-motor');
    expect(said).toEqual(['The left motor stands: flies on by the other, trimmed for that.']);
    run(60);
    expect(said).toHaveLength(1);
  });

  it('is not a dip of a moment, nor two that stand together with little thrust', () => {
    const { twin, left, right, run } = setUp();
    run(5);
    left.told.rpm = 300;
    run(0.6);
    left.told.rpm = 8000;
    run(5);
    expect(twin.out).toBeNull();
    [left.told.rpm, right.told.rpm] = [0, 0];
    run(10, 0, 0.05);
    expect(twin.out).toBeNull();
  });

  it('is trimmed for by what it takes more rudder than before, in proportion to the throttle', () => {
    const { twin, right, run } = setUp();
    run(20, 0.02);
    expect(twin.yawAt(1)).toBe(0);
    right.told.rpm = 0;
    run(40, -0.16);
    // From +0.02 to -0.16 at 60 % throttle.
    expect(twin.yawAt(0.6)).toBeCloseTo(-0.18, 1);
    expect(twin.yawAt(0.3)).toBeCloseTo(twin.yawAt(0.6) / 2, 6);
    // No more than the rudder can be trusted with, however much it takes.
    const worse = setUp();
    worse.run(20);
    worse.right.told.rpm = 0;
    worse.run(60, -1, 0.4);
    expect(worse.twin.yawAt(1)).toBeCloseTo(-0.6, 2);
  });

  it('that turns again ends the trim, and so does a new flight', () => {
    const { twin, said, left, run } = setUp();
    run(5);
    left.told.rpm = 0;
    run(30, 0.15);
    expect(twin.yawAt(1)).toBeGreaterThan(0.1);
    left.told.rpm = 7000;
    run(3);
    expect([twin.out, twin.yawAt(1)]).toEqual([null, 0]);
    expect(said.at(-1)).toBe('Both motors turn again.');
    left.told.rpm = 0;
    run(30, 0.15);
    twin.reset();
    expect([twin.out, twin.yawAt(1)]).toEqual([null, 0]);
  });

  it('is none of a craft with one motor, with rotors, on plain pulses, or whose controllers tell nothing', () => {
    for (const [airframe, change, tells] of [
      [sandpiper, frames, true],
      [avocet, frames, true],
      [turnstone, {}, true],
      [turnstone, frames, false],
    ] as const) {
      const { twin, left, run } = setUp(airframe, change, tells);
      left.told.rpm = 0;
      run(20, 0.2);
      expect(twin.out, airframe.name).toBeNull();
    }
  });
});
