import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { groundHeight } from '#core/flight/terrain.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { pitchOf, rollOf, setEuler, yawOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { FlyingCraft } from './flyingCraft.ts';

/** Shaft speed that a rotor is near to in a hover, rad/s: its loop does the rest within tenths of a second. */
const ROTOR_OMEGA = 500;

/** The fix that is on its way is still of the old place: it is not believed, and the next one is. ms */
const SETTLES_MS = 400;

/**
 * Puts an armed craft from where it stands to the place of its scenario, in the air and under way, its board knowing
 * what it would know after the flight out. What a rehearsal is about then comes without the minutes before it.
 */
export function putAloft(craft: FlyingCraft, airframe: Airframe, s: Scenario, homeHeight: number): void {
  const { plant, field, pfad } = craft;
  const { controller: c } = pfad;
  const b = s.outbound.bearingDeg * DEG;
  const [north, east] = [s.outbound.distanceM * Math.cos(b), s.outbound.distanceM * Math.sin(b)];
  const height = homeHeight + s.outbound.heightM;
  const ground = groundHeight(field.terrain, field.homeEast + east, field.homeNorth + north);
  const mean = windAtHeight(s.wind.speedMps, height - ground);
  const wind = {
    north: -mean * Math.cos(s.wind.fromDeg * DEG),
    east: -mean * Math.sin(s.wind.fromDeg * DEG),
  };
  const p = plant.position;
  const by = { north: north - p[0]!, east: east - p[1]!, up: height - plant.height };
  p[0] = north;
  p[1] = east;
  p[2] = -height;
  plant.ground = ground;
  const rotors = isRotorcraft(airframe);
  const air = rotors ? 0 : Math.max(1.8 * stallSpeed(airframe), c.config.navSpeed);
  const turned = b - yawOf(plant.attitude);
  setEuler(plant.attitude, rollOf(plant.attitude), pitchOf(plant.attitude), b);
  plant.rates.fill(0);
  const now = { north: air * Math.cos(b) + wind.north, east: air * Math.sin(b) + wind.east };
  plant.velocity[0] = now.north;
  plant.velocity[1] = now.east;
  plant.velocity[2] = 0;
  craft.radio.throttle = rotors ? c.config.hover.throttle : c.config.energy.cruiseThrottle;
  if (rotors) for (const m of plant.motors) m.omega = ROTOR_OMEGA;
  // Without a compass the flight out has told it where its nose points.
  c.attitude.setYaw(c.sensing.headingKnown ? c.attitude.yaw + turned : b);
  c.sensing.headingKnown = true;
  c.position.carried(by, now, wind);
  craft.held = false;
  for (let k = 0; k < SETTLES_MS; k++) craft.step();
}
