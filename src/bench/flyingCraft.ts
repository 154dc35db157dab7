import type { Airframe } from '#core/airframe/airframe.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { Plant } from '#core/flight/plant.ts';
import { groundHeight, type Terrain } from '#core/flight/terrain.ts';
import { Wind, type WindSettings } from '#core/flight/wind.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Place } from '#core/navigation/earth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { Pfad, STEP_S } from '#firmware/pfad.ts';
import { Readings } from '#firmware/readings.ts';
import { flashWith } from './flashImage.ts';
import { Radio } from './radio.ts';
import { Sensors } from './sensors.ts';
import { Wiring } from './wiring.ts';

const WIND_DIVIDER = 10;

/** A craft with its board, in the air over terrain. One step is a millisecond of everything. */
export class FlyingCraft {
  readonly plant: Plant;
  readonly pfad: Pfad;
  readonly radio: Radio;
  readonly wiring: Wiring;
  readonly wind: Wind;
  readonly readings = new Readings();
  /** Ground under the craft, above sea level, m. */
  ground = 0;
  /** Held on the ground until launched: attitude and place do not change. */
  held = true;
  private readonly sensors: Sensors;
  private readonly gnssAnswers: boolean;
  private tick = 0;

  constructor(
    airframe: Airframe,
    values: Values,
    truth: BenchTruth,
    private readonly terrain: Terrain,
    /** Place of home, and metres east and north of the terrain's centre. */
    origin: Place,
    private readonly originEast: number,
    private readonly originNorth: number,
    wind: WindSettings,
    seed: number,
  ) {
    this.plant = new Plant(airframe);
    this.pfad = new Pfad(fellF7, flashWith(values), 'rehearsal', 'power on');
    this.radio = new Radio(truth.channels);
    this.wiring = new Wiring(airframe, truth, this.plant);
    this.wind = new Wind(wind, seed);
    this.sensors = new Sensors(origin, seed);
    this.gnssAnswers = Number(values['gnss.baud'] ?? this.pfad.values['gnss.baud']) === truth.gnssBaud;
  }

  get aboveGround(): number {
    return this.plant.height - this.ground;
  }

  step(): void {
    const p = this.plant;
    if (this.tick++ % WIND_DIVIDER === 0) {
      this.ground = groundHeight(
        this.terrain,
        this.originEast + p.position[1]!,
        this.originNorth + p.position[0]!,
      );
      this.wind.step(this.aboveGround, p.airspeed, STEP_S * WIND_DIVIDER);
    }
    this.radio.step(this.readings, true, STEP_S);
    this.sensors.step(p, this.readings, this.gnssAnswers, true, STEP_S);
    this.pfad.step(this.readings);
    this.wiring.step(this.pfad.controller.pulses, p, true, STEP_S);
    if (this.held) this.hold();
    else p.step(this.wind.velocity, STEP_S);
  }

  /** In a hand on the ground: gravity and no motion. */
  private hold(): void {
    const p = this.plant;
    p.rates.fill(0);
    p.velocity.fill(0);
    p.specificForce[0] = 0;
    p.specificForce[1] = 0;
    p.specificForce[2] = -9.80665;
  }
}
