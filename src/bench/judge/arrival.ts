import { groundHeight } from '#core/flight/terrain.ts';
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

  constructor(
    private readonly craft: FlyingCraft,
    private readonly rotors: boolean,
  ) {}

  /**
   * For flights by the hundred: whether a wing that circles above home need not be watched to its last circle, since
   * ground, wind, battery and beliefs leave so much room that the end cannot be another. Never for a landing.
   * @param watts drawn on the level way home. @param speed that it makes through the air, m/s. @param timeS still left
   */
  isSettled(e: Evidence, watts: number, speed: number, timeS: number): boolean {
    this.askedFor += JUDGE_STEP_S;
    if (this.askedFor < SOON_EVERY_S) return false;
    this.askedFor = 0;
    const { plant, field } = this.craft;
    const c = this.craft.pfad.controller;
    const { home, config } = c;
    if (this.rotors || config.arrival === 'land' || home.phase !== 'circling' || this.seen < SOON_TURNED)
      return false;
    const odd = e.upset.happened || e.stalled.happened || e.positionOff.happened || e.heightOff.happened;
    if (odd || e.weak.happened || e.limited.happened || e.sagged.happened || e.airspeedOff.happened)
      return false;
    if (
      e.greatestAttitudeOff > SOON_ATTITUDE ||
      e.wind > SOON_WIND_SHARE * speed ||
      e.clearanceM < SOON_PASSED_M
    )
      return false;
    const height = plant.height + (home.goal.height - c.position.height);
    const reach = config.loiterRadius + 80;
    for (let k = 0; k < AROUND; k++) {
      const a = (2 * Math.PI * k) / AROUND;
      for (const r of [0.4 * reach, 0.7 * reach, reach]) {
        const east = field.homeEast + r * Math.sin(a);
        const north = field.homeNorth + r * Math.cos(a);
        if (groundHeight(field.terrain, east, north) + SOON_ROOM_M > height) return false;
      }
    }
    const sinks = Math.max(0, plant.height - height) / SOON_SINK_MPS;
    if (sinks + SOON_CIRCLES_S > timeS) return false;
    const b = plant.battery;
    const left = (b.capacityAs - b.usedAs) * b.voltage;
    return left > watts * (SOON_POWER * (LASTS_S + SOON_CIRCLES_S) + sinks);
  }

  /** Something may still happen that it has to show itself against: nothing counts yet, for it or against it. */
  wait(): void {
    this.reset();
    this.above = 0;
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

  private lookRound(distance: number): void {
    const c = this.craft.pfad.controller;
    const p = this.craft.plant.position;
    const bearing = Math.atan2(p[1]!, p[0]!);
    if (distance > 2 * c.config.loiterRadius + 80) this.seen = 0;
    else if (!Number.isNaN(this.last)) this.seen += wrapPi(bearing - this.last) * c.config.loiterSense;
    this.last = bearing;
  }
}
