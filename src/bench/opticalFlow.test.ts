import { describe, expect, it } from 'vitest';
import { avocet } from '#core/airframe/library.ts';
import { aloft, farSwitch, run } from '../testing/aloft.ts';

/** How far a craft that holds its place three metres up drifts in a minute after its GNSS receiver died. */
function drift(flow: boolean, scale = 1, set = 1): number {
  const f = aloft(avocet, {
    change: { ...farSwitch('position'), 'range.fitted': true, 'flow.fitted': flow, 'flow.scale': set },
    truth: { fitted: { airspeed: false, compass: true, rangefinder: true, flow }, flowScale: scale },
    wind: { speedMps: 4, fromDeg: 250, gustMps: 0.6 },
    heightM: 3,
  });
  // The stick in the middle keeps the height.
  f.radio.throttle = 0.5;
  f.radio.attitude = 2;
  run(f, 25);
  const [north, east] = [f.plant.position[0]!, f.plant.position[1]!];
  f.devices.fail('gnss', 'dead');
  let most = 0;
  run(f, 60, () => {
    most = Math.max(most, Math.hypot(f.plant.position[0]! - north, f.plant.position[1]! - east));
  });
  return most;
}

describe('optical flow', () => {
  it('keeps a craft over its place when the fix is gone, and without it the wind takes it', () => {
    const without = drift(false);
    const held = drift(true);
    expect(held).toBeLessThan(5);
    expect(without).toBeGreaterThan(2 * held);
  }, 60_000);

  it('holds as well with a scale that was taught', () => {
    expect(drift(true, 1.2, 1.2)).toBeLessThan(5);
  }, 60_000);
});
