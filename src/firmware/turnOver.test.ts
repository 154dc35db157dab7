import { describe, expect, it } from 'vitest';
import { avocet } from '#core/airframe/library.ts';
import { setEuler } from '#core/math/quaternion.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { onGround, run } from '../testing/aloft.ts';

const asked: Values = { 'timer.1.sends': 'dshot600', 'timer.2.sends': 'dshot600', 'flip.channel': 9 };

/** A quad on its back in the grass, with the switch of turning over on; the pilot arms and holds his stick. */
function onItsBack(change: Values = {}, tiltDeg = 172) {
  const flying = onGround(avocet, { ...asked, ...change });
  const { plant, pfad, radio } = flying;
  const settle = (seconds: number) => run(flying, seconds);
  setEuler(plant.attitude, (tiltDeg * Math.PI) / 180, 0, 0);
  plant.position[2] = plant.position[2]! - 0.05;
  flying.held = false;
  radio.switchChannel = 9;
  radio.switchUs = 2000;
  // Put there without a turn, the board finds it out by gravity alone, and takes its time.
  settle(30);
  const tilt = () => (Math.acos(Math.max(-1, Math.min(1, topUp(plant.attitude)))) * 180) / Math.PI;
  return { plant, pfad, radio, run: settle, tilt, height: () => plant.height - plant.ground };
}

/** How far its top points up: -1 on its back. */
const topUp = (q: Float64Array) => 1 - 2 * (q[1]! * q[1]! + q[2]! * q[2]!);

describe('a rotorcraft on its back', () => {
  it('turns itself over by its stick, and flies only once it is armed anew', () => {
    const { pfad, radio, run, tilt, plant, height } = onItsBack();
    expect(tilt()).toBeGreaterThan(150);
    radio.arm = true;
    run(0.2);
    expect(pfad.controller.armed).toBe(true);
    run(0.5);
    // Nothing turns before the stick says so.
    expect(Math.max(...plant.motors.map((m) => m.omega))).toBeLessThan(20);
    radio.roll = 1;
    for (let s = 0; s < 4 && tilt() > 85; s += 0.02) run(0.02);
    radio.roll = 0;
    run(1.5);
    expect(tilt()).toBeLessThan(30);
    // Throttle does nothing until then.
    radio.throttle = 1;
    run(0.5);
    expect(height()).toBeLessThan(1);
    radio.throttle = 0;
    radio.arm = false;
    run(0.3);
    expect(pfad.controller.armed).toBe(false);
  });

  it('does not arm at all without its switch, or on motors that pulses drive', () => {
    for (const [change, tiltDeg, switchUs] of [
      [{}, 172, 1000],
      [{ 'timer.1.sends': 'pulses', 'timer.2.sends': 'pulses' }, 172, 2000],
    ] as const) {
      const { pfad, radio, run } = onItsBack(change, tiltDeg);
      radio.switchUs = switchUs;
      run(0.1);
      radio.arm = true;
      run(0.3);
      expect(pfad.controller.armed).toBe(false);
    }
  });

  it('stops within the time that the link is missed for when the radio falls silent', () => {
    const { pfad, radio, run, plant } = onItsBack();
    radio.arm = true;
    run(0.3);
    radio.pitch = 1;
    run(0.15);
    expect(Math.max(...plant.duties)).toBeGreaterThan(0.1);
    radio.on = false;
    run(0.25);
    expect(pfad.controller.armed).toBe(false);
    expect(Math.max(...plant.duties)).toBe(0);
  });
});
