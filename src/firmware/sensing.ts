import { mountedAndLevelled } from '#core/calibration/levelTrim.ts';
import type { AccelCalibration } from '#core/calibration/sixPoses.ts';
import { GyroFilter, notchAt } from '#core/control/gyroFilter.ts';
import { LowPass } from '#core/control/lowPass.ts';
import { AttitudeEstimator } from '#core/estimation/attitude.ts';
import type { Estimate } from '#core/estimation/health.ts';
import { PositionEstimator } from '#core/estimation/position.ts';
import { TiltByVelocity } from '#core/estimation/tiltByVelocity.ts';
import {
  airspeedOfPressure,
  densityOfPressure,
  heightOfPressure,
  SEA_LEVEL_DENSITY,
} from '#core/flight/atmosphere.ts';
import { multiply, type Quat, quat, setEuler, toEarth } from '#core/math/quaternion.ts';
import { GRAVITY, wrapPi } from '#core/math/scalar.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { LeverArm } from '#core/sensors/leverArm.ts';
import { NmeaReader, velocityEast, velocityNorth } from '#core/sensors/nmea.ts';
import type { Config } from './config.ts';
import { GnssWatch } from './gnssWatch.ts';
import type { ImuReading, Readings, Sample } from './readings.ts';

const SLOW_STEPS = 20;
/** A chip that gives no sample for so long is silent, s. */
const IMU_SILENT_S = 0.1;
/** A sensor silent for this long is taken for dead; one that says the very same this often, for stuck. */
const SILENT_S = 0.5;
const STUCK_SAMPLES = 40;
/** Ground that is seen worse, or is nearer, says nothing of speed; share, m. */
const FLOW_LEAST = 0.3;
const FLOW_LEAST_M = 0.2;
/** Slower than this a pitot tube says little, m/s. */
const PITOT_LEAST = 3;

/** Watches one slow sensor: whether it still speaks and whether what it says moves. */
class Watch {
  age = Number.POSITIVE_INFINITY;
  private seen = 0;
  private last = Number.NaN;
  private same = 0;

  /** True when a new value came. */
  step(s: Sample, dt: number): boolean {
    this.age += dt;
    if (s.samples === this.seen) return false;
    this.seen = s.samples;
    this.same = s.value === this.last ? this.same + 1 : 0;
    this.last = s.value;
    if (this.same > STUCK_SAMPLES) return false;
    this.age = 0;
    return true;
  }

  get alive(): boolean {
    return this.age < SILENT_S;
  }
}

/** A shaft that turns slower than this stands, or nearly: its notch would take the craft's own turning. */
const TOLD_LEAST_RPM = 1200;

/** From readings to what the board believes: attitude, position, height, airspeed, wind, each with its health. */
export class Sensing {
  readonly attitude: AttitudeEstimator;
  readonly position: PositionEstimator;
  readonly nmea: NmeaReader;
  readonly gnss: GnssWatch;
  /** Indicated: the speed at sea level that would press as much, m/s, from the best source there is. Stall and gains go by it. */
  airspeed = 0;
  /** True over indicated airspeed, sqrt(rho_0/rho), by the standard atmosphere at the pressure around. Wind goes by true. */
  trueRatio = 1;
  readonly air: Estimate = { health: 'lost', accuracy: 20 };
  headingKnown = false;
  /** What the yaw follows now is the compass; else it was told by the course, if at all. */
  headingByCompass = false;
  compassHealthy = false;
  /** Height above ground by rangefinder, m; NaN without. */
  aboveGround = Number.NaN;
  satellites = 0;
  fixUsed = false;
  originSet = false;
  originLat = 0;
  originLon = 0;
  still = false;
  imuAlive = true;
  /** Set by the controller: in the air, how much throttle there is, and what the battery gives, V. */
  flying = false;
  throttle = 0;
  supplyV = 0;
  /** What motor controllers tell of their speed, turns a second; kept where it is logged. */
  motorHz = 0;
  private readonly filters: readonly [GyroFilter, GyroFilter, GyroFilter];
  /** Board to craft as it counts as level. */
  private readonly mount: Quat;
  /** Some accelerometer has offsets or scales of its own. */
  private readonly taught: boolean;
  private readonly turned: boolean;
  /** Compass to the same. */
  private readonly compassMount = quat();
  private readonly lever: LeverArm;
  private readonly tilt = new TiltByVelocity();
  private readonly gyro = new Float64Array(3);
  /** Before any filter, craft axes, rad/s; kept where it is logged. */
  readonly rawGyro = new Float64Array(3);
  private readonly accel = new Float64Array(3);
  private readonly otherGyro = new Float64Array(3);
  private readonly otherAccel = new Float64Array(3);
  private readonly work = new Float64Array(3);
  private readonly mean = new Float64Array(3);
  /** Sum of the squared specific force since the last slow step. */
  private squares = 0;
  /** How it shakes: specific force faster than 50 Hz, rms of all three axes over a second, m/s^2. */
  shake = 0;
  private readonly baroWatch = new Watch();
  private readonly pitotWatch = new Watch();
  private readonly rangeWatch = new Watch();
  private readonly flowWatch = new Watch();
  private readonly airFilter: LowPass;
  private pitotSpeed = 0;
  private pitotDoubt = 0;
  private compassSeen = 0;
  private compassAge = Number.POSITIVE_INFINITY;
  private heading = Number.NaN;
  private sinceFix = 0;
  private gnssSilence = Number.POSITIVE_INFINITY;
  /** Of each chip the samples that were counted last, and how long it has been silent, s. */
  private readonly imuSeen: [number, number] = [-1, -1];
  private readonly imuSilent: [number, number] = [0, 0];
  /** The chip that is set fell silent, and the other one is flown by. */
  imuSwapped = false;
  private restless = 0;
  private tick = 0;
  private dragX = 0;
  private dragY = 0;

  constructor(
    private readonly c: Config,
    private readonly dt: number,
    from?: Sensing,
  ) {
    this.attitude = from?.attitude ?? new AttitudeEstimator(dt);
    this.position = from?.position ?? new PositionEstimator();
    this.position.settings = c.position;
    this.nmea = from?.nmea ?? new NmeaReader();
    this.gnss = from?.gnss ?? new GnssWatch();
    const filter = (yaw: boolean) => new GyroFilter(c.filters, c.filters.notchHz, dt, yaw);
    this.filters = [filter(false), filter(false), filter(true)];
    this.airFilter = new LowPass(2, dt * SLOW_STEPS);
    this.attitude.aids.levelGain = c.rotorcraft ? 0.12 : 0.35;
    this.attitude.aids.headingGain = c.rotorcraft ? 0.5 : 0.4;
    this.mount = mountedAndLevelled(setEuler(quat(), c.mountRoll, c.mountPitch, c.mountYaw), c.level);
    this.turned = this.mount[0] !== 1;
    const { roll, pitch, yaw } = c.compass;
    multiply(this.compassMount, this.mount, setEuler(quat(), roll, pitch, yaw));
    this.taught = c.accels.some((a) => a.offset.some((o) => o !== 0) || a.scale.some((k) => k !== 1));
    this.lever = new LeverArm(c.mountAt, dt);
    if (from) {
      this.satellites = from.satellites;
      this.fixUsed = from.fixUsed;
      this.originSet = from.originSet;
      this.originLat = from.originLat;
      this.originLon = from.originLon;
      this.headingKnown = from.headingKnown;
    }
  }

  step(r: Readings): void {
    this.tick++;
    this.inertial(r);
    while (r.gnss.length > 0) if (this.nmea.push(r.gnss.shift())) this.solution();
    this.attitude.step(this.gyro, this.accel);
    const a = this.accel;
    this.mean[0]! += a[0]!;
    this.mean[1]! += a[1]!;
    this.mean[2]! += a[2]!;
    this.squares += a[0]! * a[0]! + a[1]! * a[1]! + a[2]! * a[2]!;
    if (this.tick % SLOW_STEPS === 0) this.slow(r);
  }

  private inertial(r: Readings): void {
    const [first, second] = r.imus;
    this.listen(first, 0);
    this.listen(second, 1);
    const alive = this.imuSilent[0] < IMU_SILENT_S;
    const otherAlive = this.imuSilent[1] < IMU_SILENT_S;
    const two = second.samples > 0;
    const wantsSecond = this.c.imu === 'second' && two;
    // On a board with two chips the one that speaks is flown by.
    const useSecond = two && (wantsSecond ? otherAlive || !alive : !alive && otherAlive);
    this.imuSwapped = two && (this.c.imu === 'both' ? alive !== otherAlive : useSecond !== wantsSecond);
    this.imuAlive = useSecond ? otherAlive : alive;
    if (this.c.imu === 'both' && alive && otherAlive && two) this.both(first, second);
    else this.one(useSecond ? second : first, useSecond ? 1 : 0);
    if (this.c.logGyro) {
      this.rawGyro.set(this.gyro);
      if (this.turned) toEarth(this.rawGyro, this.mount, this.rawGyro);
    }
    for (let i = 0; i < 3; i++) this.gyro[i] = this.filters[i]!.step(this.gyro[i]!);
    if (this.turned) {
      toEarth(this.gyro, this.mount, this.gyro);
      toEarth(this.accel, this.mount, this.accel);
    }
    if (!this.lever.isNone) this.lever.correct(this.accel, this.gyro);
  }

  private listen(chip: ImuReading, n: 0 | 1): void {
    if (chip.samples === this.imuSeen[n]) this.imuSilent[n] += this.dt;
    else this.imuSilent[n] = 0;
    this.imuSeen[n] = chip.samples;
  }

  /** One chip, in board axes, with what it was taught. */
  private one(chip: ImuReading, n: 0 | 1): void {
    const { gyro, accel } = this;
    // One by one: a call to copy three numbers takes longer than they do.
    gyro[0] = chip.gyro[0]!;
    gyro[1] = chip.gyro[1]!;
    gyro[2] = chip.gyro[2]!;
    accel[0] = chip.accel[0]!;
    accel[1] = chip.accel[1]!;
    accel[2] = chip.accel[2]!;
    if (this.taught) correct(accel, this.c.accels[n]);
    const yaw = this.c.chipYaws[n];
    if (yaw === 0) return;
    turnRound(gyro, yaw);
    turnRound(accel, yaw);
  }

  private both(first: ImuReading, second: ImuReading): void {
    this.one(first, 0);
    this.otherGyro.set(this.gyro);
    this.otherAccel.set(this.accel);
    this.one(second, 1);
    for (let i = 0; i < 3; i++) {
      this.gyro[i] = 0.5 * (this.gyro[i]! + this.otherGyro[i]!);
      this.accel[i] = 0.5 * (this.accel[i]! + this.otherAccel[i]!);
    }
  }

  /** All that is done fifty times a second. */
  private slow(r: Readings): void {
    const dt = this.dt * SLOW_STEPS;
    const c = this.c;
    const p = this.position;
    const a = this.attitude;
    const m = this.mean;
    m[0]! /= SLOW_STEPS;
    m[1]! /= SLOW_STEPS;
    m[2]! /= SLOW_STEPS;
    const fast = Math.max(0, this.squares / SLOW_STEPS - m[0]! * m[0]! - m[1]! * m[1]! - m[2]! * m[2]!);
    this.shake += dt * (Math.sqrt(fast) - this.shake);
    this.squares = 0;
    if ((c.filters.follows || c.filters.told) && c.filters.notchHz > 0) {
      const middle = c.rotorcraft ? c.hover.throttle : c.energy.cruiseThrottle;
      const told = c.filters.told ? this.toldHz(r) : 0;
      const hz = told > 0 ? told : notchAt(c.filters, this.throttle, middle);
      for (let i = 0; i < 3; i++) this.filters[i]!.tune(hz);
    }
    if (this.c.logLoops) this.motorHz = this.toldHz(r);
    for (let i = 0; i < 3; i++) this.filters[i]!.follow();
    this.stillness();
    this.gnss.step(dt, this.nmea);
    this.sinceFix += dt;
    this.gnssSilence += dt;
    if (this.gnssSilence > 2) this.satellites = 0;
    if (this.baroWatch.step(r.baro, dt)) {
      p.baro(heightOfPressure(r.baro.value), dt);
      this.trueRatio = Math.sqrt(SEA_LEVEL_DENSITY / densityOfPressure(r.baro.value));
    }
    this.rangeFrom(r, dt);
    this.flowFrom(r, dt);
    this.compassFrom(r, dt);
    this.airspeedFrom(r, dt);
    // Through the air in earth axes, as well as it is known.
    let airNorth = Number.NaN;
    let airEast = Number.NaN;
    if (c.rotorcraft) {
      this.dragX += (dt / 0.5) * (m[0]! - this.dragX);
      this.dragY += (dt / 0.5) * (m[1]! - this.dragY);
      if (this.flying) {
        const ahead = -this.dragX / c.hover.drag;
        const right = -this.dragY / c.hover.drag;
        airNorth = ahead * Math.cos(a.yaw) - right * Math.sin(a.yaw);
        airEast = ahead * Math.sin(a.yaw) + right * Math.cos(a.yaw);
        if (p.place.health === 'good' && this.headingKnown) p.learnWind(airNorth, airEast, dt);
      }
    } else if (this.airspeed > PITOT_LEAST && this.headingKnown) {
      const through = this.airspeed * this.trueRatio;
      airNorth = through * Math.cos(a.yaw);
      airEast = through * Math.sin(a.yaw);
      if (this.flying && this.air.health === 'good' && p.place.health === 'good')
        p.learnWindBySpeed(through, dt);
    }
    const f = toEarth(this.work, a.attitude, m);
    this.tilt.step(f[0]!, f[1]!, f[2]!, dt);
    // Without a heading nobody knows which way a push points.
    const k = this.headingKnown ? 1 : 0;
    p.step(k * f[0]!, k * f[1]!, -(f[2]! + GRAVITY), airNorth, airEast);
    m.fill(0);
    this.aid();
  }

  /** Tells the attitude filter what is known of the motion. */
  private aid(): void {
    const p = this.position;
    const aids = this.attitude.aids;
    aids.airspeed = this.c.rotorcraft || !this.flying ? 0 : this.airspeed * this.trueRatio;
    aids.still = this.still && !this.flying;
    aids.heading = Number.NaN;
    this.headingByCompass = false;
    if (this.c.rotorcraft) {
      if (this.compassHealthy) {
        aids.heading = this.heading;
        this.headingByCompass = true;
      }
    } else {
      const n = p.velocityNorth - p.windNorth;
      const e = p.velocityEast - p.windEast;
      // The nose points where the craft moves through the air; slip is small.
      if (p.hasFix && this.flying && n * n + e * e > 36) aids.heading = Math.atan2(e, n);
      else if (this.compassHealthy) {
        aids.heading = this.heading;
        this.headingByCompass = true;
      }
    }
    if (!Number.isNaN(aids.heading) && !this.headingKnown) {
      this.headingKnown = true;
      this.attitude.setYaw(aids.heading);
    }
  }

  /** How often the motors turn, the mean of those whose controllers tell, Hz; 0 where none does or they stand. */
  private toldHz({ controllers }: Readings): number {
    let [sum, n] = [0, 0];
    for (let i = 0; i < controllers.length; i++) {
      const { output, tells, told } = controllers[i]!;
      const on = this.c.outputs[output - 1];
      if (!tells || !on?.frames || !on.isMotor || told.rpm < TOLD_LEAST_RPM) continue;
      sum += told.rpm;
      n++;
    }
    return n > 0 ? sum / n / 60 : 0;
  }

  private stillness(): void {
    const w = this.attitude.rates;
    const off = Math.abs(Math.hypot(this.mean[0]!, this.mean[1]!, this.mean[2]!) - GRAVITY) > 1.5;
    const moving = off || Math.hypot(w[0]!, w[1]!, w[2]!) > 0.08;
    this.restless = moving ? 0.6 : Math.max(0, this.restless - 0.02);
    this.still = this.restless === 0;
  }

  private rangeFrom(r: Readings, dt: number): void {
    const { fitted, most, offset, scale } = this.c.range;
    const fresh = fitted && this.rangeWatch.step(r.range, dt);
    if (fresh)
      this.aboveGround =
        r.range.value > 0.05 && r.range.value < most ? scale * r.range.value - offset : Number.NaN;
    else if (!this.rangeWatch.alive) this.aboveGround = Number.NaN;
  }

  /** Speed over ground near to it, from how fast the ground turns below less how the craft turns itself. */
  private flowFrom(r: Readings, dt: number): void {
    const { fitted, scale } = this.c.flow;
    if (!fitted || !this.flowWatch.step(r.flow, dt)) return;
    const away = this.aboveGround;
    if (!this.flying || !this.headingKnown || r.flow.quality < FLOW_LEAST || !(away > FLOW_LEAST_M)) return;
    const { rates, yaw } = this.attitude;
    const ahead = (scale * r.flow.y - rates[1]!) * away;
    const right = (rates[0]! - scale * r.flow.x) * away;
    const [cos, sin] = [Math.cos(yaw), Math.sin(yaw)];
    this.position.overGround(ahead * cos - right * sin, ahead * sin + right * cos);
  }

  /** Heading from the field's level part; not believed when its strength is far from what the place has. */
  private compassFrom(r: Readings, dt: number): void {
    const c = this.c.compass;
    this.compassAge += dt;
    if (!c.fitted || r.compass.samples === this.compassSeen) {
      if (this.compassAge > SILENT_S) this.compassHealthy = false;
      return;
    }
    this.compassSeen = r.compass.samples;
    this.compassAge = 0;
    const b = this.work;
    const amps = (r.currentA - this.c.currentOffset) * this.c.currentScale;
    for (let i = 0; i < 3; i++) b[i] = r.compass.field[i]! - c.offset[i]! - c.perAmp[i]! * amps;
    const [x0, y0, z0] = [b[0]!, b[1]!, b[2]!];
    for (let i = 0; i < 3; i++) {
      const row = c.matrix[i]!;
      b[i] = row[0] * x0 + row[1] * y0 + row[2] * z0;
    }
    toEarth(b, this.compassMount, b);
    const size = Math.hypot(b[0]!, b[1]!, b[2]!);
    this.compassHealthy = Math.abs(size / c.strength - 1) < 0.35;
    if (!this.compassHealthy) return;
    const { roll, pitch } = this.attitude;
    const x = b[0]! * Math.cos(pitch) + (b[1]! * Math.sin(roll) + b[2]! * Math.cos(roll)) * Math.sin(pitch);
    const y = b[1]! * Math.cos(roll) - b[2]! * Math.sin(roll);
    this.heading = Math.atan2(-y, x) + c.declination;
  }

  /** Airspeed from the pitot tube; when that fails from ground speed and wind; and then not at all. */
  private airspeedFrom(r: Readings, dt: number): void {
    const c = this.c;
    const p = this.position;
    const n = p.velocityNorth - p.windNorth;
    const e = p.velocityEast - p.windEast;
    const synthetic = p.usable ? Math.sqrt(n * n + e * e) / this.trueRatio : Number.NaN;
    if (c.pitot.fitted && this.pitotWatch.step(r.pitot, dt)) {
      const raw = airspeedOfPressure(r.pitot.value - c.pitot.zero) * c.pitot.scale;
      this.pitotSpeed = this.airFilter.step(raw);
    }
    // A tube that says "standing" while the craft flies over ground is blocked, for all it keeps talking.
    const doubtful = this.flying && this.pitotSpeed < 0.45 * synthetic && synthetic > 8;
    this.pitotDoubt = doubtful ? Math.min(6, this.pitotDoubt + dt) : Math.max(0, this.pitotDoubt - 0.5 * dt);
    const trusted = c.pitot.fitted && this.pitotWatch.alive && this.pitotDoubt < 2;
    if (trusted) {
      this.airspeed = this.pitotSpeed;
      this.air.health = 'good';
      this.air.accuracy = 0.5;
    } else if (!Number.isNaN(synthetic) && this.flying) {
      this.airspeed += Math.min(1, dt / 0.5) * (synthetic - this.airspeed);
      this.air.health = 'degraded';
      this.air.accuracy = 1 + p.wind.accuracy;
    } else {
      this.airspeed = this.flying
        ? c.reference * Math.sqrt(Math.max(0.3, this.throttle) / c.energy.cruiseThrottle)
        : 0;
      this.air.health = 'lost';
      this.air.accuracy = 20;
    }
  }

  private solution(): void {
    const e = this.nmea.epoch;
    this.satellites = e.used;
    this.gnssSilence = 0;
    if (!e.valid || e.used < 4) return;
    if (!this.originSet) {
      this.originSet = true;
      this.originLat = e.lat;
      this.originLon = e.lon;
    }
    const north = northOf(this.originLat, e.lat);
    const east = eastOf(this.originLat, this.originLon, e.lon);
    const accuracy = 1.2 * e.hdop + 0.6;
    const since = this.sinceFix;
    this.sinceFix = 0;
    const vn = velocityNorth(e);
    const ve = velocityEast(e);
    if (this.position.fix(north, east, e.heightM, vn, ve, accuracy, since)) {
      this.fixUsed = true;
      if (this.flying && this.headingKnown) this.tilt.velocity(vn, ve, this.attitude.aids);
      else this.tilt.forget();
    } else this.tilt.forget();
  }

  /** How far the compass points off the heading that is flown by, rad, -pi to pi; NaN where it says nothing. */
  get compassOff(): number {
    return this.compassHealthy ? wrapPi(this.heading - this.attitude.yaw) : Number.NaN;
  }

  get baroAlive(): boolean {
    return this.baroWatch.alive;
  }

  /** Through the air as the tube says it, true, m/s; NaN where there is none or it is not believed. */
  get tubeSpeed(): number {
    return this.c.pitot.fitted && this.pitotAlive ? this.pitotSpeed * this.trueRatio : Number.NaN;
  }

  get pitotAlive(): boolean {
    return this.pitotWatch.alive && this.pitotDoubt < 2;
  }

  /** The specific force in body axes now, for those who watch for a throw. */
  get push(): number {
    return this.accel[0]!;
  }
}

/** What a chip means by what it says, in place. */
function correct(accel: Float64Array, { offset, scale }: AccelCalibration): void {
  for (let i = 0; i < 3; i++) accel[i] = scale[i]! * (accel[i]! - offset[i]!);
}

/** From a chip's axes to the board's: turned about the board's z, in place. */
function turnRound(v: Float64Array, yaw: number): void {
  const [x, y] = [v[0]!, v[1]!];
  v[0] = x * Math.cos(yaw) - y * Math.sin(yaw);
  v[1] = x * Math.sin(yaw) + y * Math.cos(yaw);
}
