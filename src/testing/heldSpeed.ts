import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { type aloft, run } from './aloft.ts';

/** For tests: Course hold on the middle of the attitude switch brings a wing to a speed, at one height. */
export const heldSpeed = (speedMps: number): Values => ({
  'mode.course.channel': 6,
  'mode.course.from': 1300,
  'mode.course.to': 1700,
  'nav.speed': speedMps,
  'nav.speedFloor': speedMps - 1.5,
  // What follows the throttle is as it is at cruise.
  'gyro.notchFollows': false,
});

/** For tests: a craft that is aloft flies steadily, a wing at its held speed, and is left to its sticks in Rate. @returns m/s, 0 in a hover */
export function steadied(airframe: Airframe, f: ReturnType<typeof aloft>): number {
  const rotors = isRotorcraft(airframe);
  if (!rotors) {
    // The height to be held is the one where the mode begins.
    f.radio.attitude = 2;
    run(f, 0.3);
    f.radio.attitude = 1;
  }
  run(f, rotors ? 6 : 20);
  if (!rotors) f.radio.throttle = f.pfad.controller.command.throttle;
  return rotors ? 0 : f.pfad.controller.airspeed;
}
