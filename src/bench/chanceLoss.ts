import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { Random } from '#core/math/random.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Site } from '#core/site/site.ts';

/** Cruise speed that the starting values give a craft, m/s. */
export function usualCruise(airframe: Airframe): number {
  return isRotorcraft(airframe) ? 12 : 1.8 * stallSpeed(airframe);
}

/** Ground is cleared by this much on the way out, m. */
const OUTBOUND_ROOM_M = 70;

/**
 * What is hard about a lost link by chance: nothing, GNSS dead for 20 s on the way home, or a wind at 10 m of 40 % of
 * the cruise speed with gusts of their true strength.
 */
export type Hardship = 'none' | 'gnss-out' | 'gusts';
const GUSTY_SHARE = 0.4;
/** Gusts along the wind over the wind at 10 m: 0.1 W_20/(0.177 + 0.000823 * 20)^0.4 (MIL-F-8785C, 3.7.3.4). */
const TRUE_GUSTS = 0.177;

/**
 * A lost link somewhere around a site's home, by chance: bearing, distance, height clear of the ground, wind up to
 * 60 % of the cruise speed from anywhere, time of the loss.
 */
export function chanceLoss(airframe: Airframe, site: Site, seed: number, hardship: Hardship): Scenario {
  const random = new Random(seed * 7919 + 17);
  const bearingDeg = 360 * random.uniform();
  const rotors = isRotorcraft(airframe);
  const distanceM = rotors ? 300 + 900 * random.uniform() : 500 + 1900 * random.uniform();
  const { terrain, home } = site;
  const { homeEastM, homeNorthM } = groundAbout(terrain, home);
  let top = 0;
  for (let d = 0; d <= distanceM + 250; d += 30) {
    const east = homeEastM + d * Math.sin(bearingDeg * DEG);
    const north = homeNorthM + d * Math.cos(bearingDeg * DEG);
    top = Math.max(top, groundHeight(terrain, east, north));
  }
  const heightM = Math.max(60, top - home.heightM + OUTBOUND_ROOM_M) + 60 * random.uniform();
  const share = 0.6 * random.uniform();
  const speedMps = (hardship === 'gusts' ? GUSTY_SHARE : share) * usualCruise(airframe);
  const lostAt = 70 + 110 * random.uniform();
  const events: Scenario['events'] = [{ atS: lostAt, do: 'link-lost' }];
  if (hardship === 'gnss-out') {
    const from = lostAt + 40 + 60 * random.uniform();
    events.push({ atS: from, do: 'fault', device: 'gnss', fault: 'dead' });
    events.push({ atS: from + 20, do: 'fault', device: 'gnss', fault: 'none' });
  }
  return {
    seed,
    home,
    wind: {
      speedMps,
      fromDeg: 360 * random.uniform(),
      gustMps: (hardship === 'gusts' ? TRUE_GUSTS : 0.15) * speedMps,
    },
    outbound: { bearingDeg, distanceM, heightM },
    events,
    limitS: 2400,
  };
}
