import type { Estimate } from './health.ts';

/** How old a solution is when it has been worked out, sent and read, in steps of 20 ms. */
const LATENCY_STEPS = 7;
const STEP_S = 0.02;
/** Corner of the height filter, rad/s. */
const HEIGHT_CORNER = 1.4;
/** How fast the receiver's height, which wanders by metres, pulls the barometer's along: within minutes only, 1/s. */
const OFFSET_PER_S = 0.003;
/** A jump that lasts longer than this was no glitch, s. */
const GLITCH_S = 1.5;

/** How long a speed that was seen of the ground counts, s, and what it takes of an error each time, fifty times a second. */
const FLOW_S = 0.3;
const FLOW_SHARE = 0.2;

export interface PositionSettings {
  /** How long it goes on by air speed and wind without a fix, s. */
  readonly blindFor: number;
  /** Sudden move of the fix that is not believed at first, m. */
  readonly jumpM: number;
}

/**
 * Position, velocity, height and wind. North, east in m from the first fix; height above sea. Accelerations
 * carry it between fixes; a fix corrects the state of the moment it was taken; without fixes it goes on by
 * speed through the air and the last known wind. A second-order filter on the barometer with the vertical
 * acceleration gives height and climb. Step it every 20 ms.
 */
export class PositionEstimator {
  north = 0;
  east = 0;
  height = 0;
  velocityNorth = 0;
  velocityEast = 0;
  climb = 0;
  /** Where the wind blows to, m/s. */
  windNorth = 0;
  windEast = 0;
  /** Seconds since the last fix that was used. */
  fixAge = Number.POSITIVE_INFINITY;
  /** m, m, m/s */
  readonly place: Estimate = { health: 'lost', accuracy: 999 };
  readonly level: Estimate = { health: 'lost', accuracy: 99 };
  readonly wind: Estimate = { health: 'lost', accuracy: 20 };
  /** Fixes not believed since the last good one. */
  glitches = 0;
  private baroOffset = 0;
  private lastBaro = 0;
  private heightKnown = false;
  private offsetKnown = false;
  private climbBias = 0;
  private baroAge = Number.POSITIVE_INFINITY;
  private flowAge = Number.POSITIVE_INFINITY;
  private glitchFor = 0;
  private readonly pastNorth = new Float64Array(LATENCY_STEPS);
  private readonly pastEast = new Float64Array(LATENCY_STEPS);
  private readonly pastVn = new Float64Array(LATENCY_STEPS);
  private readonly pastVe = new Float64Array(LATENCY_STEPS);
  private slot = 0;
  private everFixed = false;

  constructor(public settings: PositionSettings = { blindFor: 30, jumpM: 30 }) {}

  /**
   * Carries the state forward by 20 ms.
   * @param accelNorth @param accelEast @param accelUp over ground, gravity taken off, m/s^2
   * @param airNorth @param airEast velocity through the air, NaN when unknown
   */
  step(accelNorth: number, accelEast: number, accelUp: number, airNorth: number, airEast: number): void {
    const dt = STEP_S;
    this.fixAge += dt;
    this.baroAge += dt;
    this.flowAge += dt;
    const blind = this.fixAge > 0.7;
    const seen = this.flowAge < FLOW_S;
    if (this.fixAge < this.settings.blindFor || seen) {
      this.velocityNorth += accelNorth * dt;
      this.velocityEast += accelEast * dt;
      if (blind && !seen && !Number.isNaN(airNorth)) {
        const k = dt / 1.5;
        this.velocityNorth += k * (airNorth + this.windNorth - this.velocityNorth);
        this.velocityEast += k * (airEast + this.windEast - this.velocityEast);
      }
      this.north += this.velocityNorth * dt;
      this.east += this.velocityEast * dt;
    }
    this.climb += (accelUp - this.climbBias) * dt;
    this.height += this.climb * dt;
    this.pastNorth[this.slot] = this.north;
    this.pastEast[this.slot] = this.east;
    this.pastVn[this.slot] = this.velocityNorth;
    this.pastVe[this.slot] = this.velocityEast;
    this.slot = (this.slot + 1) % LATENCY_STEPS;
    const p = this.place;
    if (this.fixAge > this.settings.blindFor && !seen) p.health = 'lost';
    else if (blind || this.glitchFor > 0) p.health = 'degraded';
    p.accuracy = Math.min(9999, blind ? p.accuracy + dt * (seen ? 0.1 : 1.5) : p.accuracy);
    const l = this.level;
    l.health = this.baroAge < 0.6 ? 'good' : this.fixAge < 2 ? 'degraded' : 'lost';
    l.accuracy = l.health === 'good' ? 1.2 : l.health === 'degraded' ? 6 : l.accuracy + 0.5 * dt;
  }

  /** Takes a speed over ground as it is seen of the ground itself, m/s; only without a fix, which knows better. */
  overGround(north: number, east: number): void {
    if (!this.everFixed || this.fixAge < 0.7) return;
    this.flowAge = 0;
    this.velocityNorth += FLOW_SHARE * (north - this.velocityNorth);
    this.velocityEast += FLOW_SHARE * (east - this.velocityEast);
  }

  /** Takes the barometer's height, m. Also keeps the height when it is the only one. */
  baro(height: number, dt: number): void {
    this.baroAge = 0;
    this.lastBaro = height;
    const measured = height + this.baroOffset;
    if (!this.heightKnown) {
      this.height = measured;
      this.heightKnown = true;
    }
    this.correctHeight(measured - this.height, dt);
  }

  private correctHeight(error: number, dt: number): void {
    const w = HEIGHT_CORNER;
    this.height += 3 * w * error * dt;
    this.climb += 3 * w * w * error * dt;
    this.climbBias -= 0.3 * w * w * w * error * dt;
    if (this.climbBias > 1) this.climbBias = 1;
    else if (this.climbBias < -1) this.climbBias = -1;
  }

  /** Takes one GNSS solution; its height ties the barometer slowly to sea level. False when it is not believed. */
  fix(
    north: number,
    east: number,
    height: number,
    velocityNorth: number,
    velocityEast: number,
    accuracy: number,
    sinceLast: number,
  ): boolean {
    const past = this.slot;
    const offN = north - this.pastNorth[past]!;
    const offE = east - this.pastEast[past]!;
    const size = Math.sqrt(offN * offN + offE * offE);
    const fresh = !this.everFixed || this.fixAge > this.settings.blindFor;
    const room = this.settings.jumpM + 3 * this.place.accuracy;
    if (!fresh && size > room && this.glitchFor < GLITCH_S) {
      this.glitchFor += sinceLast;
      this.glitches++;
      return false;
    }
    if (fresh || this.glitchFor >= GLITCH_S) {
      this.everFixed = true;
      this.north = north;
      this.east = east;
      this.velocityNorth = velocityNorth;
      this.velocityEast = velocityEast;
      this.pastNorth.fill(north);
      this.pastEast.fill(east);
      this.pastVn.fill(velocityNorth);
      this.pastVe.fill(velocityEast);
    } else {
      const dvN = velocityNorth - this.pastVn[past]!;
      const dvE = velocityEast - this.pastVe[past]!;
      this.north += 0.35 * offN;
      this.east += 0.35 * offE;
      this.velocityNorth += 0.45 * dvN;
      this.velocityEast += 0.45 * dvE;
      // What was corrected now was as wrong then.
      for (let i = 0; i < LATENCY_STEPS; i++) {
        this.pastNorth[i]! += 0.35 * offN;
        this.pastEast[i]! += 0.35 * offE;
        this.pastVn[i]! += 0.45 * dvN;
        this.pastVe[i]! += 0.45 * dvE;
      }
    }
    this.glitchFor = 0;
    this.fixHeight(height, sinceLast);
    this.fixAge = 0;
    this.place.health = 'good';
    this.place.accuracy = accuracy;
    return true;
  }

  private fixHeight(height: number, dt: number): void {
    if (this.baroAge > 0.6) {
      if (!this.heightKnown) {
        this.height = height;
        this.heightKnown = true;
      }
      this.correctHeight(0.3 * (height - this.height), Math.min(dt, 0.5));
      return;
    }
    // Against the barometer as it is read: the filtered height may still be settling.
    const offset = height - this.lastBaro;
    if (!this.offsetKnown) {
      this.offsetKnown = true;
      this.height += offset - this.baroOffset;
      this.baroOffset = offset;
      return;
    }
    const change = Math.min(1, OFFSET_PER_S * dt) * (offset - this.baroOffset);
    this.baroOffset += change;
    this.height += change;
  }

  /** Learns the wind from velocities over ground and through the air along a known heading. */
  learnWind(airNorth: number, airEast: number, dt: number): void {
    const k = dt / 6;
    this.windNorth += k * (this.velocityNorth - airNorth - this.windNorth);
    this.windEast += k * (this.velocityEast - airEast - this.windEast);
    this.windKnown(dt);
  }

  /**
   * Learns the wind without a heading: over ground less wind must be as fast as through the air, whichever way
   * the nose points. Turns make it whole.
   */
  learnWindBySpeed(airspeed: number, dt: number): void {
    const n = this.velocityNorth - this.windNorth;
    const e = this.velocityEast - this.windEast;
    const size = Math.sqrt(n * n + e * e);
    if (size < 2) return;
    const k = (0.35 * dt * (size - airspeed)) / size;
    this.windNorth += k * n;
    this.windEast += k * e;
    this.windKnown(dt);
  }

  /**
   * For benches: carried elsewhere at once, as if it had flown there. By how far, m; over ground from now on and the wind
   * there, m/s. What it has learnt of itself stays.
   */
  carried(
    by: { readonly north: number; readonly east: number; readonly up: number },
    now: { readonly north: number; readonly east: number },
    wind: { readonly north: number; readonly east: number },
  ): void {
    this.north += by.north;
    this.east += by.east;
    this.height += by.up;
    this.lastBaro += by.up;
    this.velocityNorth = now.north;
    this.velocityEast = now.east;
    this.climb = 0;
    this.pastNorth.fill(this.north);
    this.pastEast.fill(this.east);
    this.pastVn.fill(now.north);
    this.pastVe.fill(now.east);
    this.windNorth = wind.north;
    this.windEast = wind.east;
    this.wind.accuracy = 1;
    this.wind.health = 'good';
  }

  private windKnown(dt: number): void {
    const w = this.wind;
    w.accuracy += (dt / 15) * (1 - w.accuracy);
    w.health = w.accuracy < 3 ? 'good' : w.accuracy < 10 ? 'degraded' : 'lost';
  }

  get hasFix(): boolean {
    return this.fixAge < 2;
  }

  /** Whether position can be flown by: with a fix, or without one for as long as is allowed. */
  get usable(): boolean {
    return this.place.health !== 'lost';
  }
}
