import { pressureOn } from '#core/flight/atmosphere.ts';
import type { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { type Quat, quat, setEuler, toBody } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Place } from '#core/navigation/earth.ts';
import { magneticField } from '#core/navigation/magneticField.ts';
import type { Readings, Sample } from '#firmware/readings.ts';
import type { Around } from '../around.ts';
import { Device, SampledDevice } from './device.ts';

/** Sensors read fifty times a second, each a small device of its own. */

/** What light does to a chip that lies open, and what of a breath gets through foam. */
const LIGHT_PA = -38;
const THROUGH_FOAM = 0.05;
/** What a room that gets colder does to a chip, Pa a minute. */
const COLD_PA_PER_MIN = 30;

/** Static pressure with noise and slow drift; without a shield airflow, a breath and light pull at it. */
export class Barometer extends SampledDevice<Sample> {
  private drift = 0;

  constructor(
    seed: number,
    private readonly plant: Plant,
    out: Sample,
    private readonly shielded: boolean,
    private readonly around: Around,
  ) {
    super(seed, out);
  }

  protected measure(): void {
    const { around } = this;
    this.drift += -0.0002 * this.drift + 0.06 * this.noise.next();
    if (around.cold) this.drift -= COLD_PA_PER_MIN / 60 / 50;
    const speed = this.plant.airspeed + Math.max(around.wind, around.wash);
    let pull = 0;
    if (!this.shielded) {
      pull = 0.3 * 0.5 * this.plant.density * speed * speed - around.breath;
      if (around.light) pull -= LIGHT_PA;
    } else pull = -THROUGH_FOAM * around.breath;
    const noise = 1.2 * this.loudness * this.noise.next();
    this.out.value = pressureOn(this.plant.day, this.plant.height) + this.drift + noise - pull;
  }
}

/** Of a breath that a tube with a leak keeps. */
const LEAKS = 0.3;

/** Dynamic pressure along the nose, of the air as dense as it is there; nothing of it under a cover. */
export class Pitot extends SampledDevice<Sample> {
  constructor(
    seed: number,
    private readonly plant: Plant,
    out: Sample,
    private readonly truth: Pick<BenchTruth, 'pitotScale' | 'pitotTube' | 'pitotZero'>,
    private readonly around: Around,
  ) {
    super(seed, out);
  }

  protected measure(): void {
    const { around, truth } = this;
    const wind = around.covered ? 0 : Math.max(0, this.plant.airVelocity[0]! + around.wind);
    const along = wind / truth.pitotScale;
    const felt = 0.5 * this.plant.density * along * along + around.breath;
    const through = truth.pitotTube === 'blocked' ? 0 : truth.pitotTube === 'leaks' ? LEAKS : 1;
    this.out.value = through * felt + truth.pitotZero + 1.6 * this.loudness * this.noise.next();
  }
}

/** Distance to the ground along the craft's down axis. */
export class Rangefinder extends SampledDevice<Sample> {
  constructor(
    seed: number,
    private readonly plant: Plant,
    out: Sample,
  ) {
    super(seed, out);
  }

  protected measure(): void {
    const q = this.plant.attitude;
    const upright = 1 - 2 * (q[1]! * q[1]! + q[2]! * q[2]!);
    const above = this.plant.height - this.plant.ground;
    const noise = 0.02 * this.loudness * this.noise.next();
    this.out.value = upright > 0.5 ? Math.max(0, above / upright + noise) : 0;
  }
}

/** Of a magnetic screwdriver a hand's breadth away, uT. */
const SCREWDRIVER_UT = 18;

/** An optical flow sensor sees ground from here to there, m. */
const FLOW_REACH = [0.12, 6] as const;

/** How fast the ground moves under the craft, as a camera that looks down says it; of no texture and no light it says little. */
export class Flow extends SampledDevice<Readings['flow']> {
  private readonly velocity = new Float64Array(3);

  constructor(
    seed: number,
    private readonly plant: Plant,
    out: Readings['flow'],
    private readonly scale: number,
  ) {
    super(seed, out);
  }

  protected measure(): void {
    const p = this.plant;
    const q = p.attitude;
    const upright = 1 - 2 * (q[1]! * q[1]! + q[2]! * q[2]!);
    const away = upright > 0.5 ? (p.height - p.ground) / upright : Number.POSITIVE_INFINITY;
    const seen = away > FLOW_REACH[0] && away < FLOW_REACH[1];
    const { out } = this;
    out.quality = seen ? Math.min(1, 1.3 * (1 - away / FLOW_REACH[1]) + 0.1) : 0;
    const v = toBody(this.velocity, q, p.velocity);
    const loud = 0.02 * this.loudness;
    // A point below moves against the craft and against its turning; a gyro's sign is kept.
    out.x = (seen ? p.rates[0]! - v[1]! / away : 0) / this.scale + loud * this.noise.next();
    out.y = (seen ? p.rates[1]! + v[0]! / away : 0) / this.scale + loud * this.noise.next();
    out.value = out.x;
  }
}

/** The earth's field at the place, turned into board axes, with the craft's own iron and currents. */
export class Compass extends SampledDevice<Readings['compass']> {
  private readonly earth = new Float64Array(3);
  private readonly mount: Quat = quat();
  private readonly own: Quat = quat();
  private readonly soft = new Float64Array(3);
  private passed = 0;

  constructor(
    seed: number,
    private readonly plant: Plant,
    out: Readings['compass'],
    { home, year }: { readonly home: Place; readonly year: number },
    private readonly truth: Pick<BenchTruth, 'iron' | 'mount' | 'compassMount'>,
    private readonly around: Around,
  ) {
    super(seed, out);
    const f = magneticField(home.lat, home.lon, 0, year);
    this.earth.set([f.northNt / 1000, f.eastNt / 1000, f.downNt / 1000]);
    const m = truth.mount;
    setEuler(this.mount, m.rollDeg * DEG, m.pitchDeg * DEG, m.yawDeg * DEG);
    const c = truth.compassMount;
    setEuler(this.own, c.rollDeg * DEG, c.pitchDeg * DEG, c.yawDeg * DEG);
    for (let i = 0; i < 3; i++) this.soft[i] = 1 + 0.01 * this.noise.next();
  }

  protected measure(): void {
    const b = this.out.field;
    b.set(this.earth);
    toBody(b, this.plant.attitude, b);
    toBody(b, this.mount, b);
    toBody(b, this.own, b);
    if (this.around.screwdriver) this.passing(b);
    const { iron } = this.truth;
    const current = iron.perAmp * this.plant.battery.currentA;
    const loud = 0.3 * this.loudness;
    b[0] = b[0]! * this.soft[0]! + iron.x + 0.5 * current + loud * this.noise.next();
    b[1] = b[1]! * this.soft[1]! + iron.y + 0.3 * current + loud * this.noise.next();
    b[2] = b[2]! * this.soft[2]! + iron.z + 0.8 * current + loud * this.noise.next();
  }

  /** A magnetic screwdriver in a hand that does not rest. */
  private passing(b: Float64Array): void {
    this.passed += 0.02;
    const near = 1 + Math.sin(1.7 * this.passed);
    b[0]! += SCREWDRIVER_UT * near * Math.cos(2.3 * this.passed);
    b[1]! += SCREWDRIVER_UT * near * Math.sin(2.9 * this.passed);
  }
}

/** Converters for voltage and current, each with its own scale. */
export class PowerSense extends Device {
  constructor(
    seed: number,
    private readonly plant: Plant,
    private readonly out: Readings,
    private readonly truth: Pick<BenchTruth, 'voltageScale' | 'currentSense'>,
  ) {
    super(seed);
  }

  step(batteryIn: boolean): void {
    const turn = this.turn();
    if (turn === 'repeat') return;
    const b = this.plant.battery;
    const alive = batteryIn && turn === 'measure';
    const noise = 0.01 * this.loudness * this.noise.next();
    const { voltageScale, currentSense } = this.truth;
    this.out.powerSamples++;
    this.out.supplyV = alive ? b.voltage / voltageScale + noise : 0;
    this.out.currentA = alive ? b.currentA / currentSense.scale + currentSense.offset : 0;
    this.out.servoRailV = batteryIn ? 5.05 : 0;
  }
}
