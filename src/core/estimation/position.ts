/** Position, velocity and height from GNSS and barometer. North, east in m from the first fix; height above sea. */
export class PositionEstimator {
  north = 0;
  east = 0;
  height = 0;
  velocityNorth = 0;
  velocityEast = 0;
  climb = 0;
  /** Seconds since the last fix that was used. */
  fixAge = Number.POSITIVE_INFINITY;
  private baroOffset = 0;
  private heightKnown = false;
  private offsetKnown = false;

  /** Carries the state forward by dt and blends the barometric height in. */
  step(baroHeight: number, dt: number): void {
    this.fixAge += dt;
    if (this.fixAge < 5) {
      this.north += this.velocityNorth * dt;
      this.east += this.velocityEast * dt;
    }
    const measured = baroHeight + this.baroOffset;
    if (!this.heightKnown) {
      this.height = measured;
      this.heightKnown = true;
    }
    // Second-order tracking filter, 2.5 rad/s and critically damped.
    const error = measured - this.height;
    this.height += (this.climb + 5 * error) * dt;
    this.climb += 6.25 * error * dt;
  }

  /** Takes one GNSS solution; height ties the barometer slowly to sea level. */
  fix(north: number, east: number, height: number, velocityNorth: number, velocityEast: number): void {
    if (this.fixAge > 5) {
      this.north = north;
      this.east = east;
      this.velocityNorth = velocityNorth;
      this.velocityEast = velocityEast;
    } else {
      this.north += 0.3 * (north - this.north);
      this.east += 0.3 * (east - this.east);
      this.velocityNorth += 0.6 * (velocityNorth - this.velocityNorth);
      this.velocityEast += 0.6 * (velocityEast - this.velocityEast);
    }
    const offset = height - (this.height - this.baroOffset);
    if (!this.offsetKnown) {
      this.offsetKnown = true;
      this.height += offset - this.baroOffset;
      this.baroOffset = offset;
    } else {
      const change = 0.002 * (offset - this.baroOffset);
      this.baroOffset += change;
      this.height += change;
    }
    this.fixAge = 0;
  }

  get hasFix(): boolean {
    return this.fixAge < 2;
  }
}
