import { EnergyLoop } from '#core/control/energyLoop.ts';
import { HoverLoops } from '#core/control/hoverLoops.ts';
import { clamp, DEG, GRAVITY, wrapPi } from '#core/math/scalar.ts';
import type { ModeId } from '#core/modes/modes.ts';
import type { Config, ControlSet } from './config.ts';
import { type Goal, newGoal, Steering } from './goal.ts';
import type { AttitudeDemand } from './loops.ts';
import type { Sensing } from './sensing.ts';
import type { Sticks } from './sticks.ts';

/** Nose attitude of a glide just above the stall speed, rad. */
const GLIDE_PITCH = -3.5 * DEG;
/** The flare's nose by the sink that is left: rad per m/s about the sink it wants, least sink, and the nose's bounds. */
const FLARE_PER_SINK = 0.25;
const FLARE_SINK_MPS = 0.6;
const FLARE_MORE = 6 * DEG;
const FLARE_LEAST = -5 * DEG;
/** Stick movement that counts as a wish, not as noise. */
const STICK_REST = 0.08;

/**
 * The guidance half of the controller, fifty times a second: turns goals, held heights and courses into
 * attitude and throttle, by bank and energy on wings and by tilt and thrust on rotors.
 */
export class Autopilot {
  /** 0..1 */
  throttle = 0;
  readonly steering: Steering;
  /** Limits of the control set that is flown. */
  set: ControlSet;
  private readonly energy: EnergyLoop;
  private readonly hover: HoverLoops;
  private heldHeight = 0;
  private heldCourse = Number.NaN;
  private readonly here: Goal = newGoal();
  private heldHere = false;

  constructor(
    private readonly c: Config,
    private readonly dt: number,
  ) {
    this.steering = new Steering(c);
    this.set = c.sets[c.setActive]!;
    this.energy = new EnergyLoop(c.energy, dt);
    this.hover = new HoverLoops(c.hover, dt);
  }

  /** A mode begins: what is held from now on is what is now. */
  begin(s: Sensing, throttle: number): void {
    const p = s.position;
    this.energy.reset(s.airspeed);
    this.hover.reset();
    this.throttle = throttle;
    this.heldHeight = p.height;
    this.heldCourse = Number.NaN;
    this.heldHere = false;
  }

  /**
   * Height, course, hover, position, loiter and steering by the map: held by itself, moved by the sticks.
   * @param turned how far the sticks' forward is turned from the nose, to the right, rad
   */
  hold(mode: ModeId, s: Sensing, sticks: Sticks, turned: number, d: AttitudeDemand): void {
    if (this.c.rotorcraft) this.holdRotors(mode, s, sticks, turned, d);
    else this.holdWings(mode, s, sticks, d);
  }

  private holdWings(mode: ModeId, s: Sensing, sticks: Sticks, d: AttitudeDemand): void {
    const c = this.c;
    const p = s.position;
    if (mode === 'loiter') {
      this.follow(this.stay(s), s, d);
      return;
    }
    if (Math.abs(sticks.pitch) > STICK_REST) {
      const climb = sticks.pitch > 0 ? c.energy.climbMps : c.energy.sinkMps;
      this.heldHeight = clamp(this.heldHeight + sticks.pitch * climb * this.dt, p.height - 15, p.height + 15);
    }
    const limit = this.set.bank;
    d.roll = sticks.roll * limit;
    const speed = Math.hypot(p.velocityNorth, p.velocityEast);
    if (mode === 'course' && p.usable && speed > 3) {
      const course = Math.atan2(p.velocityEast, p.velocityNorth);
      if (Math.abs(sticks.roll) > STICK_REST || Number.isNaN(this.heldCourse)) this.heldCourse = course;
      else
        d.roll = clamp(Math.atan((0.4 * speed * wrapPi(this.heldCourse - course)) / GRAVITY), -limit, limit);
    }
    this.energy.step(p.height, p.climb, s.airspeed, this.heldHeight, c.navSpeed);
    d.pitch = this.energy.pitch;
    this.throttle = this.energy.throttle;
  }

  private holdRotors(mode: ModeId, s: Sensing, sticks: Sticks, turned: number, d: AttitudeDemand): void {
    const c = this.c;
    const p = s.position;
    const lift = clamp(2 * (sticks.throttle - 0.5), -1, 1);
    let climb: number;
    if (mode !== 'hover' && mode !== 'loiter' && Math.abs(lift) > 0.12) {
      climb = lift > 0 ? lift * c.hover.climbMps : lift * c.hover.sinkMps;
      this.heldHeight = p.height;
    } else climb = this.hover.climbFor(this.heldHeight - p.height);
    if (mode === 'height' || mode === 'from-home' || mode === 'as-armed') {
      // Forward is the nose down: that way, turned as asked, and to the right of it.
      const right = sticks.roll * Math.cos(turned) - sticks.pitch * Math.sin(turned);
      const back = sticks.pitch * Math.cos(turned) + sticks.roll * Math.sin(turned);
      d.roll = clamp(right, -1, 1) * this.set.bank;
      d.pitch = clamp(back, -1, 1) * (back > 0 ? this.set.up : this.set.down);
    } else {
      const moves = mode === 'position' && Math.hypot(sticks.roll, sticks.pitch) > STICK_REST;
      if (moves) {
        const yaw = s.attitude.yaw;
        const ahead = -sticks.pitch * c.hover.speed;
        const right = sticks.roll * c.hover.speed;
        this.heldHere = false;
        this.hover.move(
          ahead * Math.cos(yaw) - right * Math.sin(yaw),
          ahead * Math.sin(yaw) + right * Math.cos(yaw),
          p.velocityNorth,
          p.velocityEast,
          yaw,
          c.hover.tilt,
        );
      } else {
        this.steering.rotors(this.stay(s), p);
        this.toSpeed(s, c.hover.tilt);
      }
      d.roll = this.hover.roll;
      d.pitch = this.hover.pitch;
    }
    this.lift(s, climb);
  }

  /** The place to stay at: where the craft was, or where it will have braked to. */
  private stay(s: Sensing): Goal {
    const p = s.position;
    const g = this.here;
    if (!this.heldHere) {
      this.heldHere = true;
      const ahead = this.c.rotorcraft ? 0.8 : 0;
      g.kind = 'circle';
      g.north = p.north + ahead * p.velocityNorth;
      g.east = p.east + ahead * p.velocityEast;
      g.radius = this.c.loiterRadius;
      g.height = this.heldHeight;
      g.speed = this.c.rotorcraft ? 6 : this.c.navSpeed;
      g.sink = 0;
      g.flare = Number.NaN;
    }
    return g;
  }

  /** Follows a goal by itself. @param more share by which tilt may exceed its limit, against wind */
  follow(g: Goal, s: Sensing, d: AttitudeDemand, more = 0): void {
    const c = this.c;
    const p = s.position;
    if (c.rotorcraft) {
      const tilt = Math.min(c.hover.tilt * (1 + more), 1.05);
      if (p.place.health === 'good' || p.usable) {
        this.steering.rotors(g, p);
        this.toSpeed(s, tilt);
      }
      d.roll = this.hover.roll;
      d.pitch = this.hover.pitch;
      const yaw = this.steering.yaw;
      if (!Number.isNaN(yaw))
        d.yawRate = clamp(1.5 * wrapPi(yaw - s.attitude.yaw), -c.hover.yawRate, c.hover.yawRate);
      this.lift(s, g.sink > 0 ? -g.sink : this.hover.climbFor(g.height - p.height));
      return;
    }
    if (!Number.isNaN(g.flare)) {
      // Sinks the slower the nearer the ground, so that it neither floats up nor falls from where it floated to.
      // The nose rises as long as there is speed to spare; then it glides down.
      const floor = c.energy.speedFloor;
      const spare = clamp((s.airspeed - 0.92 * floor) / (0.25 * floor), 0, 1);
      const sink = -p.climb;
      const nose = clamp(
        g.flare + FLARE_PER_SINK * (sink - Math.max(FLARE_SINK_MPS, g.sink)),
        FLARE_LEAST,
        g.flare + FLARE_MORE,
      );
      d.roll = 0;
      d.pitch = spare * nose + (1 - spare) * GLIDE_PITCH;
      this.throttle = 0;
      return;
    }
    this.steering.wings(g, p, this.set.bank);
    this.energy.step(p.height, p.climb, s.airspeed, g.height, g.speed);
    d.roll = this.steering.bank;
    d.pitch = this.energy.pitch;
    this.throttle = this.energy.throttle;
  }

  private toSpeed(s: Sensing, tilt: number): void {
    const p = s.position;
    this.hover.move(
      this.steering.velocityNorth,
      this.steering.velocityEast,
      p.velocityNorth,
      p.velocityEast,
      s.attitude.yaw,
      tilt,
    );
  }

  /** Comes down where it is: wings glide in a circle without power, rotors sink level. */
  comeDown(s: Sensing, d: AttitudeDemand): void {
    const c = this.c;
    if (!c.rotorcraft) {
      d.roll = c.glideBank;
      d.pitch = 0;
      this.throttle = 0;
      return;
    }
    d.roll = 0;
    d.pitch = 0;
    this.lift(s, -Math.max(c.hover.land, 0.6 * c.hover.sinkMps));
  }

  /** Waits for the link: wings straight on, rotors where they are, or level when that is not known. */
  guard(s: Sensing, d: AttitudeDemand): void {
    const c = this.c;
    if (!c.rotorcraft) {
      d.roll = 0;
      d.pitch = c.energy.pitchTrim;
      this.throttle = c.energy.cruiseThrottle;
      return;
    }
    if (s.position.usable && s.headingKnown) {
      this.steering.rotors(this.stay(s), s.position);
      this.toSpeed(s, c.hover.tilt);
      d.roll = this.hover.roll;
      d.pitch = this.hover.pitch;
    } else {
      d.roll = 0;
      d.pitch = 0;
    }
    this.lift(s, this.hover.climbFor(this.heldHeight - s.position.height));
  }

  private lift(s: Sensing, climb: number): void {
    const a = s.attitude;
    const tilt = Math.acos(clamp(Math.cos(a.roll) * Math.cos(a.pitch), -1, 1));
    this.hover.climb(climb, s.position.climb, tilt, this.c.idle, this.c.energy.maxThrottle);
    this.throttle = this.hover.throttle;
  }
}
