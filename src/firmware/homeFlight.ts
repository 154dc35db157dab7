import type { PositionEstimator } from '#core/estimation/position.ts';
import { approachHeight, approachLength } from '#core/navigation/landingApproach.ts';
import { lookahead } from '#core/navigation/pathGuidance.ts';
import { returnHeights } from '#core/navigation/returnPlan.ts';
import type { Config } from './config.ts';
import { type Goal, newGoal } from './goal.ts';

export type HomePhase =
  | 'climbing'
  | 'homeward'
  | 'circling'
  | 'gate'
  | 'final'
  | 'flare'
  | 'descending'
  | 'down';

/** What the way home has to know beyond the position. */
export interface HomeView {
  /** By rangefinder, m; NaN without. */
  readonly aboveGround: number;
  /** Height of the ground above sea at a place, m; NaN where it is not known. */
  readonly groundAt: ((north: number, east: number) => number) | null;
}

/** Terrain is looked at this far ahead in time, and this often. */
const LOOK_AHEAD_S = 25;
const LOOK_EVERY_S = 0.5;
/** A new least distance by this much is progress, m. */
const PROGRESS_M = 10;
/** A climb that gains less than this in so long is none, m and s. */
const CLIMB_LEAST_M = 5;
const CLIMB_WATCH_S = 30;
/** Carried this much farther from home than where the climb began, it climbs on the way instead; m and loiter radii. */
const CARRIED_M = 100;
const CARRIED_RADII = 3;
/** A wind this near to the return speed leaves no way home: no climb goes on into it where the ground allows less. */
const WIND_SHARE = 0.8;
/** Room over the ground that the way home and a low circle keep where the terrain is known, m. */
const GROUND_ROOM_M = 30;
/** The ground is looked at in steps of this along a line and about a circle, m and directions. */
const LINE_STEP_M = 30;
const CIRCLE_LOOKS = 24;
/** Added to the approach speed for each m/s of wind, and the share of the return speed up to which it lands at all. */
const APPROACH_PER_WIND = 0.6;
const LAND_WIND_SHARE = 0.7;
/** In the flare it sinks by its height in so long, s. */
const FLARE_SINK_S = 2;
/** Off the approach by more than this close to home, it goes round; and so it does so often. */
const OFF_LINE_M = 30;
const CLOSE_M = 160;
const APPROACHES = 3;
/** Sinks at landing speed below this height above home, m. */
const SLOW_SINK_M = 8;
/** Rotors sink only this close to above home, m. */
const OVER_HOME_M = 15;
/** How far behind home the approach's line ends, m. */
const BEYOND_M = 500;

/**
 * The way home: climb if asked to, along the straight line, then circle or land. When wind holds it up it flies
 * faster, then lower, then says so.
 */
export class HomeFlight {
  phase: HomePhase = 'homeward';
  readonly goal: Goal = newGoal();
  /** Steps taken against being held up: 0 none, 1 faster, 2 lower, 3 nothing left. */
  heldUp: 0 | 1 | 2 | 3 = 0;
  /** On the way home since the return began, s; above home it does not count. */
  seconds = 0;
  homeNorth = 0;
  homeEast = 0;
  homeHeight = 0;
  /** By how many satellites home was set, and how well the place was known then, m. */
  satellites = 0;
  accuracy = 0;
  private startNorth = 0;
  private startEast = 0;
  private cruiseHeight = 0;
  private bestDistance = 0;
  private sinceBest = 0;
  private lookIn = 0;
  private groundHeight = Number.NEGATIVE_INFINITY;
  private gateNorth = 0;
  private gateEast = 0;
  private letdown = 0;
  private gateHeight = 0;
  private climbMark = 0;
  private sinceClimb = 0;
  private startDistance = 0;
  /** Height of the low circle that its ground asks for, m above sea; NaN until it is looked at. */
  private circleHeight = Number.NaN;
  private approaches = 0;
  private finalFor = 0;
  private groundAt: HomeView['groundAt'] = null;

  /** @param say told of each decision in words */
  constructor(
    private readonly c: Config,
    private readonly say: (text: string) => void = () => {},
  ) {}

  setHome(north: number, east: number, height: number, satellites = 0, accuracy = 0): void {
    this.satellites = satellites;
    this.accuracy = accuracy;
    this.homeNorth = north;
    this.homeEast = east;
    this.homeHeight = height;
  }

  distance(p: PositionEstimator): number {
    const n = p.north - this.homeNorth;
    const e = p.east - this.homeEast;
    return Math.sqrt(n * n + e * e);
  }

  begin(p: PositionEstimator, linkLost: boolean): void {
    const c = this.c;
    const start = p.height - this.homeHeight;
    const near = linkLost && this.distance(p) < c.nearHome;
    const plan = returnHeights(near ? 'keep-height' : c.returnClimb, start, c.returnHeight);
    // Never lower than the circle's own floor, even when "keep height" begins low.
    this.cruiseHeight = this.homeHeight + Math.max(plan.heightM, 15);
    this.phase = plan.climbFirst ? 'climbing' : 'homeward';
    this.depart(p);
    this.heldUp = 0;
    this.seconds = 0;
    this.climbMark = p.height;
    this.sinceClimb = 0;
    this.startDistance = this.distance(p);
    this.circleHeight = Number.NaN;
    this.approaches = 0;
    this.groundHeight = Number.NEGATIVE_INFINITY;
    this.lookIn = 0;
    const metres = Math.round(this.cruiseHeight - this.homeHeight);
    this.say(
      plan.climbFirst
        ? `Way home: climbs here to ${metres} m above home, then turns for it.`
        : `Way home: straight for home at ${metres} m above it.`,
    );
  }

  private depart(p: PositionEstimator): void {
    this.startNorth = p.north;
    this.startEast = p.east;
    this.bestDistance = this.distance(p);
    this.sinceBest = 0;
  }

  step(p: PositionEstimator, view: HomeView, dt: number): void {
    const c = this.c;
    this.groundAt = view.groundAt;
    if (this.phase === 'climbing' || this.phase === 'homeward') this.seconds += dt;
    const g = this.goal;
    const distance = this.distance(p);
    g.speed = c.returnSpeed + (this.heldUp > 0 ? c.faster : 0);
    g.radius = c.loiterRadius;
    g.sink = 0;
    g.flare = Number.NaN;
    g.height = Math.max(this.cruiseHeight, this.overGround(p, view, dt));
    switch (this.phase) {
      case 'climbing':
        this.about(this.startNorth, this.startEast);
        if (p.height > g.height - 5) this.turnForHome(p, 'High enough: turns for home.');
        else if (this.windTooStrong(p) && this.clearFrom(p, p.height)) {
          this.cruiseHeight = Math.max(p.height, this.homeHeight + c.floor);
          this.turnForHome(
            p,
            'The wind up here is nearly as fast as the craft: turns for home at this height.',
          );
        } else if (distance > this.startDistance + CARRIED_M + CARRIED_RADII * c.loiterRadius)
          this.turnForHome(
            p,
            'The wind carries it away while it climbs: turns for home and climbs on the way.',
          );
        else if (this.doesNotClimb(p, dt)) {
          this.cruiseHeight = Math.max(p.height, this.homeHeight + c.floor);
          this.turnForHome(p, `It gained no height for ${CLIMB_WATCH_S} s: turns for home as it is.`);
        }
        break;
      case 'homeward': {
        this.watch(distance, p, dt);
        const speed = Math.sqrt(p.velocityNorth * p.velocityNorth + p.velocityEast * p.velocityEast);
        const near = c.rotorcraft ? 12 : c.loiterRadius + 0.5 * lookahead(c.period, c.damping, speed);
        g.kind = 'line';
        g.fromNorth = this.startNorth;
        g.fromEast = this.startEast;
        g.north = this.homeNorth;
        g.east = this.homeEast;
        if (distance < near) this.arrive();
        break;
      }
      case 'circling':
        this.circle(p, distance);
        break;
      default:
        this.land(p, view, distance, dt);
    }
  }

  /** The wind as it is known blows nearly as fast as the craft flies home. */
  private windTooStrong(p: PositionEstimator): boolean {
    const wind = Math.hypot(p.windNorth, p.windEast);
    return !this.c.rotorcraft && p.wind.health !== 'lost' && wind > WIND_SHARE * this.c.returnSpeed;
  }

  /** The straight line home keeps its room over the ground at a height. False where the ground is not known. */
  private clearFrom(p: PositionEstimator, height: number): boolean {
    if (!this.groundAt) return false;
    const distance = this.distance(p);
    for (let s = 0; s <= distance; s += LINE_STEP_M) {
      const k = s / Math.max(distance, 1);
      const ground = this.groundAt(
        p.north + k * (this.homeNorth - p.north),
        p.east + k * (this.homeEast - p.east),
      );
      if (ground + GROUND_ROOM_M > height) return false;
    }
    return true;
  }

  /** Height that clears the ground under a circle and within it, m above sea; minus infinity where it is not known. */
  private overCircle(north: number, east: number): number {
    if (!this.groundAt) return Number.NEGATIVE_INFINITY;
    let most = this.groundAt(north, east);
    const radius = this.c.rotorcraft ? 25 : this.c.loiterRadius;
    for (let k = 0; k < CIRCLE_LOOKS; k++) {
      const a = (2 * Math.PI * k) / CIRCLE_LOOKS;
      for (const r of [0.6 * radius, radius, radius + 50]) {
        const ground = this.groundAt(north + r * Math.cos(a), east + r * Math.sin(a));
        if (ground > most) most = ground;
      }
    }
    return most + GROUND_ROOM_M;
  }

  private turnForHome(p: PositionEstimator, why: string): void {
    this.phase = 'homeward';
    this.depart(p);
    this.say(why);
  }

  private doesNotClimb(p: PositionEstimator, dt: number): boolean {
    if (p.height > this.climbMark + CLIMB_LEAST_M) {
      this.climbMark = p.height;
      this.sinceClimb = 0;
    } else this.sinceClimb += dt;
    return this.sinceClimb > CLIMB_WATCH_S;
  }

  private arrive(): void {
    const land = this.c.arrival === 'land';
    this.phase = land && this.c.rotorcraft ? 'descending' : 'circling';
    this.letdown = this.goal.height;
    this.say(
      land
        ? 'Above home: comes down to land.'
        : this.c.rotorcraft
          ? 'Above home: hovers there.'
          : 'Above home: circles there.',
    );
  }

  private about(north: number, east: number): void {
    this.goal.kind = 'circle';
    this.goal.north = north;
    this.goal.east = east;
  }

  private circle(p: PositionEstimator, distance: number): void {
    const c = this.c;
    const g = this.goal;
    this.about(this.homeNorth, this.homeEast);
    // Blown far out of its circle, it goes home anew.
    if (distance > 4 * c.loiterRadius + 200) {
      this.phase = 'homeward';
      this.depart(p);
      this.say('Blown out of its circle: goes home anew.');
      return;
    }
    if (c.arrival === 'circle' || c.rotorcraft) {
      if (c.arrival === 'circle-low') g.height = this.lowHeight();
      return;
    }
    if (c.arrival === 'circle-low' || this.approaches >= APPROACHES) {
      g.height = this.lowHeight();
      return;
    }
    g.height = Math.max(this.homeHeight + c.land.height, this.overCircle(this.homeNorth, this.homeEast));
    if (p.height > g.height + 12) return;
    const wind = Math.hypot(p.windNorth, p.windEast);
    if (wind > LAND_WIND_SHARE * c.returnSpeed) {
      if (this.approaches < APPROACHES)
        this.say(`The wind of ${wind.toFixed(0)} m/s is too strong to land in: circles.`);
      this.approaches = APPROACHES;
    } else this.planApproach(p);
  }

  /** Of the low circle: as set, or as high as its ground asks. */
  private lowHeight(): number {
    const set = this.homeHeight + this.c.arrivalHeight;
    if (Number.isNaN(this.circleHeight)) {
      this.circleHeight = this.overCircle(this.homeNorth, this.homeEast);
      if (this.circleHeight > set) {
        const metres = Math.round(this.circleHeight - this.homeHeight);
        this.say(
          `The ground under its circle is too high for ${this.c.arrivalHeight} m: circles at ${metres} m above home.`,
        );
      }
    }
    return Math.max(set, this.circleHeight);
  }

  /** The approach goes against the wind, or along the strip the way that is more against it: its gate lies downwind of home. */
  private planApproach(p: PositionEstimator): void {
    const c = this.c;
    const wind = Math.hypot(p.windNorth, p.windEast);
    let north = wind > 1 ? p.windNorth / wind : 1;
    let east = wind > 1 ? p.windEast / wind : 0;
    const { strip, alongStrip } = c.land;
    if (alongStrip) {
      const along = north * Math.cos(strip) + east * Math.sin(strip) < 0 ? -1 : 1;
      north = along * Math.cos(strip);
      east = along * Math.sin(strip);
    }
    const length = approachLength(c.land.height, c.land.slope, c.loiterRadius);
    this.gateNorth = this.homeNorth + north * length;
    this.gateEast = this.homeEast + east * length;
    this.gateHeight = Math.max(
      this.homeHeight + c.land.height,
      this.overCircle(this.gateNorth, this.gateEast),
    );
    this.depart(p);
    this.phase = 'gate';
    const how = alongStrip ? 'along the strip, in' : 'against';
    this.say(`Lands ${how} the wind of ${wind.toFixed(0)} m/s: flies to the beginning of the approach.`);
  }

  private land(p: PositionEstimator, view: HomeView, distance: number, dt: number): void {
    const c = this.c;
    const g = this.goal;
    const above = Number.isNaN(view.aboveGround) ? p.height - this.homeHeight : view.aboveGround;
    switch (this.phase) {
      case 'gate':
        g.height = this.gateHeight;
        this.about(this.gateNorth, this.gateEast);
        g.speed = Math.max(c.land.speed, c.navSpeed);
        if (this.pastGate(p)) {
          this.phase = 'final';
          this.finalFor = 0;
          this.approaches++;
          this.say('On the approach.');
        } else if (this.blownFrom(p, this.gateNorth, this.gateEast))
          this.goRound(p, 'Blown off the beginning of the approach');
        break;
      case 'final': {
        const n = this.homeNorth - this.gateNorth;
        const e = this.homeEast - this.gateEast;
        const length = Math.hypot(n, e);
        const left = ((this.homeNorth - p.north) * n + (this.homeEast - p.east) * e) / length;
        // The line goes on behind home, so that it is flown straight to the flare.
        g.kind = 'line';
        g.fromNorth = this.gateNorth;
        g.fromEast = this.gateEast;
        g.north = this.homeNorth + (n / length) * BEYOND_M;
        g.east = this.homeEast + (e / length) * BEYOND_M;
        // Against the wind it flies faster, so that it comes forward and keeps its speed when the wind drops low down.
        const wind = Math.hypot(p.windNorth, p.windEast);
        g.speed = Math.min(c.land.speed + APPROACH_PER_WIND * wind, c.returnSpeed);
        this.finalFor += dt;
        // Height follows its demand by the height time: that much earlier it is asked for.
        const speed = Math.hypot(p.velocityNorth, p.velocityEast);
        const slope = approachHeight(left - speed * c.energy.heightTime, speed, c.land.slope);
        const off = Math.abs((this.homeEast - p.east) * n - (this.homeNorth - p.north) * e) / length;
        g.height =
          this.homeHeight + Math.min(this.gateHeight - this.homeHeight, Math.max(slope, -c.land.flare));
        if (above < c.land.flare) {
          this.phase = 'flare';
          this.say('Flares: motor off, nose up.');
        } else if (left < 10 && above > 4 * c.land.flare) this.goRound(p, 'Too high over home');
        else if (off > OFF_LINE_M && left < CLOSE_M) this.goRound(p, 'Beside the line of the approach');
        else if (this.finalFor > 30 + length / 4) this.goRound(p, 'The approach takes too long');
        break;
      }
      case 'flare':
        g.flare = c.land.pitch;
        g.sink = above / FLARE_SINK_S;
        break;
      case 'descending': {
        this.about(this.homeNorth, this.homeEast);
        // Blown aside it first goes back to above home; it sinks nowhere else.
        const over = distance < OVER_HOME_M;
        if (over) this.letdown = p.height;
        g.speed = over ? 3 : c.returnSpeed;
        g.height = this.letdown;
        if (over) g.sink = above > SLOW_SINK_M ? c.hover.sinkMps : c.hover.land;
        break;
      }
    }
  }

  private blownFrom(p: PositionEstimator, north: number, east: number): boolean {
    const far = Math.hypot(p.north - north, p.east - east);
    return far > this.startDistance + 4 * this.c.loiterRadius + 300 && far > 8 * this.c.loiterRadius + 400;
  }

  /** Climbs back to its circle above home and tries again, a few times. */
  private goRound(p: PositionEstimator, why: string): void {
    this.phase = 'circling';
    this.depart(p);
    this.say(
      this.approaches < APPROACHES ? `${why}: goes round.` : `${why}: lands no more and circles above home.`,
    );
  }

  /** Circling at the gate, it turns in once it flies towards home. */
  private pastGate(p: PositionEstimator): boolean {
    const n = this.homeNorth - this.gateNorth;
    const e = this.homeEast - this.gateEast;
    const size = Math.hypot(n, e);
    const near = Math.hypot(p.north - this.gateNorth, p.east - this.gateEast) < 1.7 * this.c.loiterRadius;
    const speed = Math.max(0.1, Math.hypot(p.velocityNorth, p.velocityEast));
    const towards = (p.velocityNorth * n + p.velocityEast * e) / (size * speed);
    const level = p.height < this.gateHeight + 8;
    return near && towards > 0.9 && level;
  }

  /** The height that keeps the return height above the ground ahead, m above sea; minus infinity without terrain. */
  private overGround(p: PositionEstimator, view: HomeView, dt: number): number {
    if (this.c.returnAbove !== 'ground' || !view.groundAt) return Number.NEGATIVE_INFINITY;
    this.lookIn -= dt;
    if (this.lookIn > 0) return this.groundHeight;
    this.lookIn = LOOK_EVERY_S;
    const distance = this.distance(p);
    const reach = Math.min(distance, LOOK_AHEAD_S * Math.max(this.c.returnSpeed, 8));
    const n = distance > 1 ? (this.homeNorth - p.north) / distance : 0;
    const e = distance > 1 ? (this.homeEast - p.east) / distance : 0;
    let most = Number.NEGATIVE_INFINITY;
    for (let s = 0; s <= reach; s += 20) {
      const ground = view.groundAt(p.north + n * s, p.east + e * s);
      if (ground > most) most = ground;
    }
    this.groundHeight = most + this.c.returnHeight;
    return this.groundHeight;
  }

  /** Progress is a new least distance; without one for the watched time the next step is taken. */
  private watch(distance: number, p: PositionEstimator, dt: number): void {
    const c = this.c;
    if (distance < this.bestDistance - PROGRESS_M) {
      this.bestDistance = distance;
      this.sinceBest = 0;
      return;
    }
    this.sinceBest += dt;
    if (this.sinceBest <= c.watch || this.heldUp === 3) return;
    this.sinceBest = 0;
    const km = (distance / 1000).toFixed(1);
    const lower = Math.max(this.homeHeight + c.floor, p.height - c.lower);
    if (this.heldUp === 0 && c.faster > 0) {
      this.heldUp = 1;
      this.say(`No nearer home for ${c.watch} s, ${km} km out: flies ${c.faster} m/s faster.`);
    } else if (this.heldUp <= 1 && c.lower > 0 && lower < this.cruiseHeight - 5) {
      this.heldUp = 2;
      this.cruiseHeight = lower;
      this.say(
        `Still no nearer: goes down to ${Math.round(lower - this.homeHeight)} m above home, where there is less wind.`,
      );
    } else {
      this.heldUp = 3;
      this.say(`The wind is stronger than the craft: it makes no way home, ${km} km out.`);
    }
  }
}
