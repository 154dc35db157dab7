import { groundHeight } from '#core/flight/terrain.ts';
import type { EndsEarly } from '#core/formats/batch.ts';
import { DEG, wrapPi } from '#core/math/scalar.ts';
import type { FlyingCraft } from '../flyingCraft.ts';
import { type Evidence, JUDGE_STEP_S } from './evidence.ts';

/** A wing is home after so many whole circles, rotors after so long, s. */
const CIRCLES = 2;
const HOVER_S = 30;
/** Nearer than this to the height it circles at, m. */
const AT_HEIGHT_M = 12;
const HOVER_NEAR_M = 20;
/** Off its circle or height for this long, it begins to count anew, s. */
const FORGIVES_S = 4;
/** Room over the ground that a circle must have, m. */
export const CIRCLE_ROOM_M = 15;
/** A circle held for so long without being closed is none, s. */
const NO_CIRCLE_S = 260;
/** A third of a circle at home settles it where nothing is near an edge. */
const SOON_TURNED = (2 * Math.PI) / 3;
const SOON_ROOM_M = 30;
const SOON_PASSED_M = 20;
/** Of the wind up here over the speed it flies; further down it blows less. */
const SOON_WIND_SHARE = 0.72;
const SOON_ATTITUDE = 12 * DEG;
/** What circling may take more than the level way home, of the battery; on the way down it takes no more. */
const SOON_POWER = 1.3;
/** It sinks at least so fast, and two circles take no longer than this. */
const SOON_SINK_MPS = 1.2;
const SOON_CIRCLES_S = 120;
/** Whether it is settled is asked this often, s. */
const SOON_EVERY_S = 1;
/** Level and straight for home for so long, within this of the course, and closing at no less than this share later on. */
const SOON_STRAIGHT_S = 12;
const SOON_COURSE = Math.cos(15 * DEG);
const SOON_CLOSING = 0.8;
/** Farther from home than this much time, much may happen yet, s. */
const SOON_WAY_MOST_S = 240;
/** The way home is looked at in steps of this, and so far to its sides, m. */
const WAY_STEP_M = 30;
const WAY_SIDE_M = 60;
const AROUND = 36;
/** A home that lasts: battery for this much longer, s. */
export const LASTS_S = 600;

export type ArrivalState =
  | { readonly kind: 'not-yet' }
  | { readonly kind: 'circled'; readonly clearanceM: number; readonly watts: number }
  | { readonly kind: 'cannot-circle' };

const NOT_YET: ArrivalState = { kind: 'not-yet' };

/**
 * Whether a craft that stays in the air at home has arrived: above home in its last phase and at its last height, two
 * full circles on wings, half a minute on rotors. Tells what that took of the battery and how near the ground was.
 */
export class Arrival {
  private turned = 0;
  /** Turned about home since it got there, whatever the height. */
  private seen = 0;
  private bearing = Number.NaN;
  private clearance = Number.POSITIVE_INFINITY;
  private offFor = 0;
  private hovered = 0;
  /** At its last height above home for so long, s. */
  private above = 0;
  private last = Number.NaN;
  private fromWh = 0;
  private fromS = 0;
  private askedFor = 0;
  /** Level and straight for home for so long, s. */
  private straight = 0;
  /** From home where that began, m. */
  private straightFrom = 0;

  constructor(
    private readonly craft: FlyingCraft,
    private readonly rotors: boolean,
  ) {}

  /**
   * For flights by the hundred: whether a wing need not be watched to its last circle, since ground, wind, battery and
   * beliefs leave so much room that the end cannot be another. Never for a landing.
   * @param early from where on: above home, or already on its level way there, which is only for settings that have
   *   closed their circles at home in a stronger wind
   * @param watts drawn on the level way home. @param speed that it makes through the air, m/s. @param timeS still left
   */
  isSettled(e: Evidence, early: EndsEarly, watts: number, speed: number, timeS: number): boolean {
    this.askedFor += JUDGE_STEP_S;
    if (this.askedFor < SOON_EVERY_S) return false;
    this.askedFor = 0;
    const { plant } = this.craft;
    const { home, config, position } = this.craft.pfad.controller;
    if (this.rotors || config.arrival === 'land' || !this.isCalm(e, speed)) return false;
    let wayS = 0;
    let above = 0;
    if (home.phase === 'homeward' && early === 'homeward') {
      wayS = this.wayHome();
      const late = home.seconds + wayS > config.giveUp;
      if (!(wayS < SOON_WAY_MOST_S) || late || e.faults.length > 0) return false;
      if (position.place.health !== 'good' || !this.hasRoom(plant.height, true)) return false;
    } else if (home.phase === 'circling' && this.seen >= SOON_TURNED) {
      const height = this.goalHeight;
      if (!this.hasRoom(height, false)) return false;
      above = plant.height - height;
    } else return false;
    const sinks = Math.max(0, above) / SOON_SINK_MPS;
    if (wayS + sinks + SOON_CIRCLES_S > timeS) return false;
    const b = plant.battery;
    const left = (b.capacityAs - b.usedAs) * b.voltage;
    return left > watts * (SOON_POWER * (LASTS_S + SOON_CIRCLES_S + wayS) + sinks);
  }

  /** Nothing odd was seen yet, and the wind leaves it speed. */
  private isCalm(e: Evidence, speed: number): boolean {
    const odd = e.upset.happened || e.stalled.happened || e.positionOff.happened || e.heightOff.happened;
    const weak = e.weak.happened || e.limited.happened || e.sagged.happened || e.airspeedOff.happened;
    return (
      !odd &&
      !weak &&
      e.greatestAttitudeOff <= SOON_ATTITUDE &&
      e.wind <= SOON_WIND_SHARE * speed &&
      e.clearanceM >= SOON_PASSED_M
    );
  }

  /** Above sea level, of where the board wants to be. */
  private get goalHeight(): number {
    const { home, position } = this.craft.pfad.controller;
    return this.craft.plant.height + (home.goal.height - position.height);
  }

  /** How long the way home takes yet, s; not a number until it has flown level and straight for home for a while. */
  private wayHome(): number {
    if (this.straight < SOON_STRAIGHT_S) return Number.NaN;
    const { position } = this.craft.plant;
    const distance = Math.hypot(position[0]!, position[1]!);
    // As it has come nearer so far, not as it does in this gust.
    const closing = (this.straightFrom - distance) / this.straight;
    return distance / Math.max(0.1, SOON_CLOSING * closing);
  }

  /** Room over the ground about home at a height, and on the way there. m above sea level */
  private hasRoom(height: number, way: boolean): boolean {
    const { plant, field, pfad } = this.craft;
    const clear = (north: number, east: number) =>
      groundHeight(field.terrain, field.homeEast + east, field.homeNorth + north) + SOON_ROOM_M <= height;
    const reach = pfad.controller.config.loiterRadius + 80;
    for (let k = 0; k < AROUND; k++) {
      const a = (2 * Math.PI * k) / AROUND;
      for (const r of [0.4 * reach, 0.7 * reach, reach])
        if (!clear(r * Math.cos(a), r * Math.sin(a))) return false;
    }
    if (!way) return true;
    const [north, east] = [plant.position[0]!, plant.position[1]!];
    const distance = Math.max(1, Math.hypot(north, east));
    for (let at = 0; at < distance; at += WAY_STEP_M)
      for (const side of [-WAY_SIDE_M, 0, WAY_SIDE_M]) {
        const n = (north * at - east * side) / distance;
        const e = (east * at + north * side) / distance;
        if (!clear(n, e)) return false;
      }
    return true;
  }

  /** Something may still happen that it has to show itself against: nothing counts yet, for it or against it. */
  wait(): void {
    this.reset();
    this.above = 0;
    this.straight = 0;
  }

  private reset(): void {
    this.turned = 0;
    this.hovered = 0;
    this.bearing = Number.NaN;
    this.clearance = Number.POSITIVE_INFINITY;
  }

  /** @param distance from home, m */
  step(distance: number, seconds: number): ArrivalState {
    const c = this.craft.pfad.controller;
    const { plant } = this.craft;
    if (this.straight === 0) this.straightFrom = distance;
    this.straight = this.isStraight(distance) ? this.straight + JUDGE_STEP_S : 0;
    if (c.pilot !== 'return' || c.home.phase !== 'circling') {
      this.reset();
      this.above = 0;
      this.seen = 0;
      this.last = Number.NaN;
      return NOT_YET;
    }
    this.lookRound(distance);
    const near = this.rotors ? HOVER_NEAR_M : 2 * c.config.loiterRadius + 80;
    // The board's height against its own goal: how far both are from the truth shows in the clearance.
    const atHeight = Math.abs(c.position.height - c.home.goal.height) < AT_HEIGHT_M;
    // The way down to that height may take as long as it likes.
    if (atHeight) this.above += JUDGE_STEP_S;
    if (distance < near && atHeight) this.offFor = 0;
    else {
      this.offFor += JUDGE_STEP_S;
      if (this.offFor > FORGIVES_S) this.reset();
    }
    if (this.above > NO_CIRCLE_S && this.turned < 2 * Math.PI && this.hovered === 0 && atHeight)
      return { kind: 'cannot-circle' };
    if (this.offFor > 0 && !(this.turned > 0 || this.hovered > 0)) return NOT_YET;
    if (this.turned === 0 && this.hovered === 0) {
      this.fromWh = plant.battery.usedWh;
      this.fromS = seconds - JUDGE_STEP_S;
    }
    this.clearance = Math.min(this.clearance, this.craft.aboveGround);
    if (this.rotors) {
      this.hovered += JUDGE_STEP_S;
      if (this.hovered < HOVER_S) return NOT_YET;
    } else {
      const bearing = Math.atan2(plant.position[1]!, plant.position[0]!);
      const by = Number.isNaN(this.bearing) ? 1e-9 : wrapPi(bearing - this.bearing) * c.config.loiterSense;
      this.bearing = bearing;
      this.turned = Math.max(1e-9, this.turned + by);
      if (this.turned < CIRCLES * 2 * Math.PI) return NOT_YET;
    }
    const watts = ((plant.battery.usedWh - this.fromWh) * 3600) / Math.max(1, seconds - this.fromS);
    return { kind: 'circled', clearanceM: this.clearance, watts };
  }

  private isStraight(distance: number): boolean {
    const { pilot, home, position } = this.craft.pfad.controller;
    if (pilot !== 'return' || home.phase !== 'homeward' || home.heldUp > 0) return false;
    if (Math.abs(position.height - home.goal.height) > AT_HEIGHT_M) return false;
    const [p, v] = [this.craft.plant.position, this.craft.plant.velocity];
    const closing = -(p[0]! * v[0]! + p[1]! * v[1]!);
    return closing > SOON_COURSE * distance * Math.hypot(v[0]!, v[1]!);
  }

  private lookRound(distance: number): void {
    const c = this.craft.pfad.controller;
    const p = this.craft.plant.position;
    const bearing = Math.atan2(p[1]!, p[0]!);
    if (distance > 2 * c.config.loiterRadius + 80) this.seen = 0;
    else if (!Number.isNaN(this.last)) this.seen += wrapPi(bearing - this.last) * c.config.loiterSense;
    this.last = bearing;
  }
}
