import type { Airframe } from '#core/airframe/airframe.ts';
import type { BoardModel } from '#core/board/model.ts';
import { dayFromField } from '#core/flight/atmosphere.ts';
import { HOUSE_CURRENT_A, Plant } from '#core/flight/plant.ts';
import { groundHeight, type Terrain } from '#core/flight/terrain.ts';
import { Wind, type WindSettings } from '#core/flight/wind.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { FaultDevice, FaultKind } from '#core/formats/scenario.ts';
import { toBody, toEarth } from '#core/math/quaternion.ts';
import { Noise } from '#core/math/random.ts';
import { GRAVITY } from '#core/math/scalar.ts';
import { eastOf, northOf, type Place } from '#core/navigation/earth.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { FlightLog } from '#firmware/flightLog.ts';
import { Pfad, STEP_S } from '#firmware/pfad.ts';
import { WRITTEN_VERSION } from '#firmware/versions.ts';
import { Devices } from './devices.ts';
import { flashWith, planFlashWith } from './flashImage.ts';
import { Wiring } from './wiring.ts';

const WIND_DIVIDER = 10;
/** A loose battery lead: how often its contact changes, ms; of a normal number over which it is bad; and how bad, ohm. Ours. */
const LEAD_STEPS = 200;
const LEAD_SHARE = 0.6;
const LOOSE_OHM = 0.8;

/** Where a craft flies: the ground, home on it, the air of the day. */
export interface Field {
  readonly terrain: Terrain;
  readonly home: Place;
  /** The decimal year that the earth's field is of. */
  readonly year: number;
  /** Home in metres east and north of the terrain's origin. */
  readonly homeEast: number;
  readonly homeNorth: number;
  readonly wind: WindSettings;
  /** Measured at home; left out, the standard day. */
  readonly pressurePa?: number | undefined;
  readonly temperatureC?: number | undefined;
  readonly homeHeightM: number;
}

/** A craft with its board, in the air over terrain. One step is a millisecond of everything. */
export class FlyingCraft {
  readonly plant: Plant;
  readonly pfad: Pfad;
  readonly devices: Devices;
  readonly wiring: Wiring;
  readonly wind: Wind;
  /** Held in a hand or standing with its weight on the ground: place does not change. */
  held = true;
  private throwFor = 0;
  private throwAccel = 0;
  private throwSpeed = 0;
  private tick = 0;
  private leadLoose = false;
  private contactOhm = 0;
  private readonly leadNoise: Noise;

  constructor(
    airframe: Airframe,
    board: BoardModel,
    values: Values,
    truth: BenchTruth,
    readonly field: Field,
    seed: number,
    log: FlightLog | null = null,
    /** Route and fences on its board. */
    plan: FlightPlan = EMPTY_PLAN,
  ) {
    this.plant = new Plant(airframe);
    const { pressurePa, temperatureC } = field;
    if (pressurePa !== undefined && temperatureC !== undefined)
      this.plant.day = dayFromField(field.homeHeightM, pressurePa, temperatureC + 273.15);
    const plans = planFlashWith(plan);
    this.pfad = new Pfad(board, flashWith(values), 'rehearsal', 'power on', log, WRITTEN_VERSION, plans);
    this.devices = new Devices(this.plant, truth, this.pfad.values, field, seed, board);
    this.wiring = new Wiring(airframe, truth);
    this.wind = new Wind(field.wind, seed);
    this.leadNoise = new Noise(seed ^ 0x1ead);
    const c = this.pfad.controller;
    if (!field.terrain.known) return;
    // The terrain on the board's memory card, about the origin that the board's first fix gave it.
    c.groundAt = (north, east) => {
      const s = this.pfad.controller.sensing;
      const n = field.homeNorth + northOf(field.home.lat, s.originLat) + north;
      const e = field.homeEast + eastOf(field.home.lat, field.home.lon, s.originLon) + east;
      return groundHeight(field.terrain, e, n);
    };
  }

  get radio() {
    return this.devices.radio;
  }

  /** Ground under the craft, above sea level, m. */
  get ground(): number {
    return this.plant.ground;
  }

  get aboveGround(): number {
    return this.plant.height - this.plant.ground;
  }

  step(): void {
    const p = this.plant;
    if (this.leadLoose && this.tick % LEAD_STEPS === 0)
      this.contact(this.leadNoise.next() > LEAD_SHARE ? LOOSE_OHM : 0);
    if (this.tick++ % WIND_DIVIDER === 0) {
      const f = this.field;
      p.ground = groundHeight(f.terrain, f.homeEast + p.position[1]!, f.homeNorth + p.position[0]!);
      this.wind.step(this.aboveGround, p.airspeed, STEP_S * WIND_DIVIDER);
    }
    this.devices.step(true, STEP_S);
    this.pfad.step(this.devices.readings);
    const { pulses, config } = this.pfad.controller;
    this.wiring.step(pulses, p, true, STEP_S, config.outputs);
    if (!this.held) p.step(this.wind.velocity, STEP_S);
    else if (this.throwFor > 0) this.throwing();
    else this.hold();
  }

  /** Makes a device or a part fail, or work again. False when the craft has no such thing. */
  fail(id: FaultDevice, fault: FaultKind): boolean {
    const failed = fault !== 'none';
    const { plant } = this;
    switch (id) {
      case 'motor':
        plant.motors[0]!.failed = failed;
        return true;
      case 'surface':
        this.wiring.stick(0, failed);
        return plant.airframe.surfaces.length > 0;
      case 'lead':
        this.leadLoose = failed;
        if (!failed) this.contact(0);
        return true;
      case 'cell':
        if (failed) plant.battery.loseCell(plant.airframe.battery.cellResistanceOhm);
        return failed;
      case 'receiver':
        this.radio.holds = failed;
        return true;
      default:
        return this.devices.fail(id, fault);
    }
  }

  /** Resistance of the battery's plug, which a loose one changes from moment to moment, ohm. */
  private contact(ohm: number): void {
    this.plant.battery.resistanceOhm += ohm - this.contactOhm;
    this.contactOhm = ohm;
  }

  /** In a hand or on the ground: gravity and no motion. The motors turn as they are told. */
  private hold(): void {
    const p = this.plant;
    p.rates.fill(0);
    p.velocity.fill(0);
    this.spin();
    const f = p.specificForce;
    f[0] = 0;
    f[1] = 0;
    f[2] = -GRAVITY;
    toBody(f, p.attitude, f);
  }

  private spin(): void {
    const p = this.plant;
    let current = 0;
    p.battery.share(p.duties, p.motors, HOUSE_CURRENT_A);
    for (let i = 0; i < p.motors.length; i++) {
      const unit = p.motors[i]!;
      unit.meet(p.duties[i]!, p.battery.voltage, 0, 1.22);
      unit.step(STEP_S);
      current += unit.currentA;
    }
    p.battery.currentA = HOUSE_CURRENT_A + current;
    p.battery.step(STEP_S);
  }

  /** An arm, a bungee or a catapult: the craft is pushed along its nose until it has its speed, and let go. m/s, m/s^2 */
  throw(speedMps: number, accel: number): void {
    this.throwAccel = accel;
    this.throwSpeed = speedMps;
    this.throwFor = speedMps / accel;
  }

  private throwing(): void {
    const p = this.plant;
    this.hold();
    p.specificForce[0]! += this.throwAccel;
    this.throwFor -= STEP_S;
    if (this.throwFor > 0) return;
    this.held = false;
    const v = p.velocity.fill(0);
    v[0] = this.throwSpeed;
    toEarth(v, p.attitude, v);
  }
}
