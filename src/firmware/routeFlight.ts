import type { PositionEstimator } from '#core/estimation/position.ts';
import { wrapPi } from '#core/math/scalar.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { highestAhead } from '#core/navigation/groundLine.ts';
import { lookahead } from '#core/navigation/pathGuidance.ts';
import type { FlightPlan, RoutePoint } from '#core/plan/plan.ts';
import type { Config } from './config.ts';
import { type Goal, newGoal } from './goal.ts';
import type { HomeFlight } from './homeFlight.ts';

/** What metres are counted from: the first fix. */
export interface Origin {
  readonly originLat: number;
  readonly originLon: number;
}

type GroundAt = ((north: number, east: number) => number) | null;

/** A point is reached within so much of its height where its height counts, m. */
const HEIGHT_NEAR_M = 10;
/** Above the ground it looks so far ahead, s and m; and so often, s. */
const LOOK_S = 15;
const LOOK_STEP_M = 30;
const LOOK_EVERY_S = 0.5;
/** A craft with rotors comes straight down from there; above it comes faster. m */
const SLOW_BELOW_M = 8;

/** Flies the plan's points in order and does at each what it says. */
export class RouteFlight {
  readonly goal: Goal = newGoal();
  /** Point flown to, 0-based; the number of points once all are done. */
  at = 0;
  /** The route asks for the way home now. */
  wantsReturn = false;
  /** Where the camera points, of a right angle below the horizon. */
  camera = 0;
  /** Points in m north and east of the origin, by turns. */
  private readonly places: Float64Array;
  private circledFor = 0;
  /** Angle gone round, rad, and where on the circle it was last. */
  private turned = 0;
  private bearing = Number.NaN;
  private arrived = false;
  private groundHeight = Number.NEGATIVE_INFINITY;
  private lookIn = 0;

  constructor(
    private readonly c: Config,
    private readonly plan: FlightPlan,
    private readonly home: HomeFlight,
    private readonly say: (text: string) => void = () => {},
  ) {
    this.places = new Float64Array(2 * plan.points.length);
  }

  /** Some of its heights are above the ground, which it has to know. */
  get byGround(): boolean {
    return this.plan.points.some((p) => p.above === 'ground');
  }

  begin(p: PositionEstimator, origin: Origin): void {
    const { points } = this.plan;
    if (this.at >= points.length) this.at = 0;
    for (let i = 0; i < points.length; i++) {
      const { lat, lon } = points[i]!;
      this.places[2 * i] = northOf(origin.originLat, lat);
      this.places[2 * i + 1] = eastOf(origin.originLat, origin.originLon, lon);
    }
    this.wantsReturn = false;
    this.leg(p);
    this.say(`Route: flies to point ${this.at + 1} of ${points.length}.`);
  }

  private leg(p: PositionEstimator): void {
    this.goal.fromNorth = p.north;
    this.goal.fromEast = p.east;
    this.circledFor = 0;
    this.turned = 0;
    this.bearing = Number.NaN;
    this.arrived = false;
    this.lookIn = 0;
  }

  step(p: PositionEstimator, groundAt: GroundAt, dt: number): void {
    const { c, goal: g } = this;
    const { points } = this.plan;
    const k = Math.min(this.at, points.length - 1);
    const point = points[k]!;
    g.speed = point.speedMps > 0 ? point.speedMps : c.navSpeed;
    g.radius = c.loiterRadius;
    g.sink = 0;
    g.flare = Number.NaN;
    g.north = this.places[2 * k]!;
    g.east = this.places[2 * k + 1]!;
    g.height =
      point.above === 'home'
        ? this.home.homeHeight + point.heightM
        : point.heightM + this.ground(p, groundAt, dt);
    if (this.at >= points.length) {
      g.kind = 'circle';
      return;
    }
    const distance = Math.hypot(p.north - g.north, p.east - g.east);
    const speed = Math.hypot(p.velocityNorth, p.velocityEast);
    const near = c.rotorcraft ? 6 : 0.5 * lookahead(c.period, c.damping, speed) + 10;
    const stays = point.do === 'circle' || point.do === 'climb';
    if (!this.arrived) {
      g.kind = 'line';
      if (distance > near + (stays && !c.rotorcraft ? c.loiterRadius : 0)) return;
      this.arrived = true;
    }
    if (stays) {
      g.kind = 'circle';
      this.circledFor += dt;
      this.goRound(p);
      if (this.isDone(point) && Math.abs(p.height - g.height) < HEIGHT_NEAR_M) this.next(p);
    } else if (point.do === 'land') this.land(p);
    else {
      if (point.do === 'camera' && this.camera !== point.cameraDeg / 90) {
        this.camera = point.cameraDeg / 90;
        this.say(`Camera ${Math.round(point.cameraDeg)}° below the horizon.`);
      }
      this.next(p);
    }
  }

  private isDone(point: RoutePoint): boolean {
    if (point.do === 'climb') return true;
    const round = this.c.rotorcraft || this.turned >= 2 * Math.PI * point.turns;
    return round && this.circledFor >= point.seconds;
  }

  private goRound(p: PositionEstimator): void {
    const bearing = Math.atan2(p.east - this.goal.east, p.north - this.goal.north);
    if (!Number.isNaN(this.bearing)) this.turned += Math.abs(wrapPi(bearing - this.bearing));
    this.bearing = bearing;
  }

  private land(p: PositionEstimator): void {
    const { c, goal: g } = this;
    if (!c.rotorcraft) {
      // Wings land at home only, where the approach is known.
      if (!this.wantsReturn) this.say('A wing lands at home only: returns to land there.');
      this.wantsReturn = true;
      return;
    }
    g.kind = 'circle';
    g.sink = p.height - this.home.homeHeight > SLOW_BELOW_M ? c.hover.sinkMps : c.hover.land;
  }

  /** The highest ground from here on, m above the sea; home where nobody knows it. */
  private ground(p: PositionEstimator, groundAt: GroundAt, dt: number): number {
    if (!groundAt) return this.home.homeHeight;
    this.lookIn -= dt;
    if (this.lookIn > 0) return this.groundHeight;
    this.lookIn = LOOK_EVERY_S;
    const { north, east, speed } = this.goal;
    this.groundHeight = highestAhead(groundAt, p, north, east, LOOK_S * speed, LOOK_STEP_M);
    return this.groundHeight;
  }

  private next(p: PositionEstimator): void {
    this.say(`Route: point ${this.at + 1} done.`);
    this.at++;
    this.leg(p);
    if (this.at < this.plan.points.length) return;
    if (this.plan.end === 'return') {
      this.wantsReturn = true;
      this.say('Route: all points done, returns home.');
    } else this.say('Route: all points done, circles at the last one.');
  }
}
