import { type ClimbRule, returnHeights } from './returnPlan.ts';

/**
 * Charge that the way home takes, as a board works it out in the air from what it knows there: distance over ground speed
 * against the wind that it has learnt, the climb, what is to be left (HANDBOOK, section 3, Coming home).
 */

/** What a board is told of the craft and of the return. SI but for charges, mAh. */
export interface HomeCharges {
  readonly rotors: boolean;
  /** On the way home: through the air for wings, over ground for rotors, m/s. */
  readonly speedMps: number;
  readonly climb: ClimbRule;
  readonly heightM: number;
  /** Level at that speed, A; and for each 100 m of climb with all that goes with it, mAh. */
  readonly currentA: number;
  readonly climbMah: number;
  /** Before it turns for home: noticing, guarding, turning, s. */
  readonly beforeS: number;
}

/** Where it is, and the wind there as it is known: where it blows to, m/s. */
export interface HomeWhere {
  north: number;
  east: number;
  /** Above home. */
  up: number;
  windNorth: number;
  windEast: number;
  /** How much stronger it may blow against the way home than is known, m/s. */
  windDoubt: number;
}

/** Less than this over ground is no way home, m/s: the charge is worked out as if it made that. */
const LEAST_WAY_MPS = 1.5;
/** Wind grows with the logarithm of the height over this roughness, m, and is not learnt nearer to the ground than that, m. */
const ROUGHNESS_M = 0.03;
const LOWEST_M = 10;
const HIGHEST_M = 300;
/** Share of a rotor's current that goes with the square of its airspeed, at the return speed. */
const DRAG_SHARE = 0.25;
/** The same power takes more current as the voltage falls towards the end. */
const SAGS = 1.03;
/** Time for the turn towards home, s. */
const TURN_S = 12;
/** A lean of 30 degrees and more is kept for the wind: what speed through the air that is counted to give, over the return speed. */
const LEAN_MOST = 1.8;

/** The last answer. A class, so that a board may ask again and again without allocating. */
export class EnergyHome {
  /** mAh */
  needMah = 0;
  /** Over ground at the return height, m/s; below nought it is blown away. */
  wayMps = 0;
  /** It makes way towards home at all. */
  makesWay = true;

  constructor(private readonly c: HomeCharges) {}

  look(w: HomeWhere): void {
    const { c } = this;
    const distance = Math.hypot(w.north, w.east);
    const plan = returnHeights(c.climb, w.up, c.heightM);
    const climb = Math.max(0, plan.heightM - w.up);
    const scale = layer(plan.heightM) / layer(w.up);
    const k = distance > 1 ? -1 / distance : 0;
    const along = scale * k * (w.windNorth * w.north + w.windEast * w.east) - w.windDoubt;
    const across = scale * k * (w.windEast * w.north - w.windNorth * w.east);
    const most = c.rotors ? LEAN_MOST * c.speedMps : c.speedMps;
    const left = most * most - across * across;
    let way = (left > 0 ? Math.sqrt(left) : 0) + along;
    let current = c.currentA;
    if (c.rotors) {
      if (way > c.speedMps) way = c.speedMps;
      const air = Math.hypot(way - along, across) / c.speedMps;
      current *= 1 - DRAG_SHARE + DRAG_SHARE * air * air;
    }
    this.wayMps = way;
    this.makesWay = way > LEAST_WAY_MPS;
    const seconds = distance / Math.max(LEAST_WAY_MPS, way) + c.beforeS + TURN_S;
    this.needMah = SAGS * ((current * seconds) / 3.6 + (c.climbMah * climb) / 100);
  }
}

const layer = (heightM: number) => Math.log(Math.min(HIGHEST_M, Math.max(LOWEST_M, heightM)) / ROUGHNESS_M);
