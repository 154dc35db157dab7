import type { Airframe } from '#core/airframe/airframe.ts';
import type { BoardModel } from '#core/board/model.ts';
import { chargeAtRest } from '#core/flight/battery.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { Random } from '#core/math/random.ts';
import { latitudeAt, longitudeAt } from '#core/navigation/earth.ts';
import type { LastSeen } from '#core/search/lastSeen.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { chanceLoss } from './chanceLoss.ts';
import { Rehearsal } from './rehearsal.ts';

/** What ended a flight that was lost. */
const causes = ['motors', 'power', 'link', 'surface', 'gyro', 'empty'] as const;
type LossCause = (typeof causes)[number];

/** A craft that was lost, what was last known of it, and where it truly lies. */
export interface Loss {
  readonly cause: LossCause;
  readonly values: Values;
  readonly seen: LastSeen;
  /** From the place where it was last seen, m. */
  readonly north: number;
  readonly east: number;
  /** From the loss to the ground, s. */
  readonly seconds: number;
}

const LONGEST_S = 1500;
/** Lies still for so long, s. */
const STILL_S = 3;
/** Nearer to home than this nobody has to search, m. */
const AT_HOME_M = 120;
const STEPS = 1000;

/**
 * A loss by chance, flown in the bench: out by its pilot, then the link and something else goes, and it is let fly to where it ends.
 * @returns null where it came home by itself, or never flew
 */
export function flyLoss(
  craft: {
    readonly airframe: Airframe;
    readonly board: BoardModel;
    readonly values: Values;
    readonly truth: BenchTruth;
  },
  site: Site,
  seed: number,
): Loss | null {
  const random = new Random(seed * 31 + 5);
  const pick = random.uniform();
  const action = pick < 0.6 ? 'return' : pick < 0.8 ? 'glide' : pick < 0.9 ? 'cut' : 'nothing';
  const values: Values = { ...craft.values, 'lost.action': action };
  const cause = causes[Math.floor(random.uniform() * causes.length)]!;
  const scenario = chanceLoss(craft.airframe, site, seed, 'none');
  const flight = new Rehearsal({
    ...craft,
    values,
    site,
    scenario: {
      ...scenario,
      outbound: { ...scenario.outbound, begins: 'there' },
      events: [],
      ...(cause === 'empty' ? { batteryShare: 0.05 + 0.05 * random.uniform() } : {}),
      limitS: 7200,
    },
  });
  if (flight.result) return null;
  flight.advance((8 + 50 * random.uniform()) * STEPS);
  const { craft: flying } = flight;
  const { plant, pfad } = flying;
  if (plant.contact.touching) return null;
  const c = pfad.controller;
  const p = c.position;
  const { home, wind } = scenario;
  const { battery } = craft.airframe;
  // The board's own place: metres from where its first fix was, which is home.
  const seen: LastSeen = {
    lat: latitudeAt(home.lat, p.north),
    lon: longitudeAt(home.lat, home.lon, p.east),
    heightM: p.height,
    accuracyM: Math.max(2, p.place.accuracy),
    courseRad: Math.atan2(p.velocityEast, p.velocityNorth),
    speedMps: Math.hypot(p.velocityNorth, p.velocityEast),
    climbMps: p.climb,
    // As a forecast tells it, within what forecasts are good for.
    windFromRad: (wind.fromDeg * Math.PI) / 180 + 0.15 * random.normal(),
    windMps: Math.max(0, wind.speedMps * (1 + 0.15 * random.normal())),
    throttle: c.command.throttle,
    returning: false,
    // As its voltage under load tells it, and never more than by the charge that was counted.
    batteryShare: Math.min(
      chargeAtRest(battery.chemistry, c.supplyV / battery.cells),
      Math.max(0, 1 - c.usedMah / battery.capacityMah),
    ),
  };
  const [north0, east0] = [p.north, p.east];
  flying.radio.on = false;
  const motorsOff = () => {
    for (const m of plant.motors) m.failed = true;
  };
  let laterS = Number.POSITIVE_INFINITY;
  switch (cause) {
    case 'motors':
      motorsOff();
      break;
    case 'power':
      motorsOff();
      for (const i of craft.airframe.surfaces.keys()) flying.wiring.stick(i, true);
      break;
    case 'surface':
      flying.fail('surface', 'stuck');
      break;
    case 'gyro':
      flying.fail('gyro', 'dead');
      break;
    case 'link':
      // The link alone is no loss where it comes home: its motors go on the way.
      if (action === 'return') laterS = 4 + 100 * random.uniform();
      break;
    case 'empty':
      break;
  }
  let still = 0;
  for (let k = 0; k < LONGEST_S * STEPS; k++) {
    flying.step();
    if (k === Math.round(laterS * STEPS)) motorsOff();
    const resting = plant.contact.touching && Math.hypot(plant.velocity[0]!, plant.velocity[1]!) < 0.5;
    still = resting ? still + 1 : 0;
    if (still > STILL_S * STEPS || plant.height < -5) {
      const [north, east] = [plant.position[0]!, plant.position[1]!];
      if (Math.hypot(north, east) < AT_HOME_M) return null;
      return { cause, values, seen, north: north - north0, east: east - east0, seconds: k / STEPS };
    }
  }
  return null;
}
