import type { PositionEstimator } from '#core/estimation/position.ts';
import { lookahead } from '#core/navigation/pathGuidance.ts';
import type { Config } from './config.ts';
import { type Goal, newGoal } from './goal.ts';
import type { HomeFlight } from './homeFlight.ts';

/** Flies the route's points in order, laid out from home, and does at each what it says. */
export class RouteFlight {
  readonly goal: Goal = newGoal();
  /** Point flown to, 0-based; the number of points once all are done. */
  at = 0;
  /** The route asks for the way home now. */
  wantsReturn = false;
  private loiteredFor = 0;
  private arrived = false;

  constructor(
    private readonly c: Config,
    private readonly home: HomeFlight,
    private readonly say: (text: string) => void = () => {},
  ) {}

  begin(p: PositionEstimator): void {
    if (this.at >= this.c.route.length) this.at = 0;
    this.wantsReturn = false;
    this.leg(p);
    this.say(`Route: flies to point ${this.at + 1} of ${this.c.route.length}.`);
  }

  private leg(p: PositionEstimator): void {
    this.goal.fromNorth = p.north;
    this.goal.fromEast = p.east;
    this.loiteredFor = 0;
    this.arrived = false;
  }

  step(p: PositionEstimator, dt: number): void {
    const c = this.c;
    const g = this.goal;
    g.speed = c.navSpeed;
    g.radius = c.loiterRadius;
    g.sink = 0;
    g.flare = Number.NaN;
    const point = c.route[Math.min(this.at, c.route.length - 1)]!;
    g.north = this.home.homeNorth + point.north;
    g.east = this.home.homeEast + point.east;
    g.height = this.home.homeHeight + point.height;
    if (this.at >= c.route.length) {
      g.kind = 'circle';
      return;
    }
    const distance = Math.hypot(p.north - g.north, p.east - g.east);
    const speed = Math.hypot(p.velocityNorth, p.velocityEast);
    const near = c.rotorcraft ? 6 : 0.5 * lookahead(c.period, c.damping, speed) + 10;
    if (!this.arrived) {
      g.kind = 'line';
      if (distance > near + (point.do === 'pass' || c.rotorcraft ? 0 : c.loiterRadius)) return;
      this.arrived = true;
    }
    switch (point.do) {
      case 'pass':
        this.next(p);
        break;
      case 'loiter':
        g.kind = 'circle';
        this.loiteredFor += dt;
        if (this.loiteredFor >= point.timeS && Math.abs(p.height - g.height) < 10) this.next(p);
        break;
      case 'land':
        if (c.rotorcraft) {
          g.kind = 'circle';
          g.sink = p.height - this.home.homeHeight > 8 ? c.hover.sinkMps : c.hover.land;
        } else {
          // Wings land at home only, where the approach is known.
          this.say('A wing lands at home only: returns to land there.');
          this.wantsReturn = true;
        }
        break;
    }
  }

  private next(p: PositionEstimator): void {
    this.say(`Route: point ${this.at + 1} done.`);
    this.at++;
    this.leg(p);
    if (this.at >= this.c.route.length && this.c.routeEnd === 'return') {
      this.wantsReturn = true;
      this.say('Route: all points done, returns home.');
    }
  }
}
