import { pressureAt } from '#core/flight/atmosphere.ts';
import type { Plant } from '#core/flight/plant.ts';
import { Random } from '#core/math/random.ts';
import { latitudeAt, longitudeAt, type Place } from '#core/navigation/earth.ts';
import type { Readings } from '#firmware/readings.ts';

const GYRO_NOISE = 0.004;
const ACCEL_NOISE = 0.12;
const GNSS_S = 0.1;

/** The board's chips and the devices on its ports, fed from the plant, with honest noise. */
export class Sensors {
  /** Satellites in use; the bench indoors sees too few for a fix. */
  satellites = 14;
  private readonly random: Random;
  private readonly gyroBias: readonly [number, number, number];
  private gnssDue = GNSS_S;
  private driftNorth = 0;
  private driftEast = 0;
  private driftUp = 0;
  private tick = 0;

  constructor(
    private readonly origin: Place,
    seed: number,
  ) {
    this.random = new Random(seed ^ 0x51ab);
    const bias = () => 0.004 * this.random.normal();
    this.gyroBias = [bias(), bias(), bias()];
  }

  step(plant: Plant, r: Readings, gnssAnswers: boolean, batteryIn: boolean, dt: number): void {
    const n = this.random;
    for (let i = 0; i < 3; i++) {
      r.gyro[i] = plant.rates[i]! + this.gyroBias[i]! + GYRO_NOISE * n.normal();
      r.accel[i] = plant.specificForce[i]! + ACCEL_NOISE * n.normal();
    }
    if (this.tick++ % 20 === 0) {
      r.pressurePa = pressureAt(plant.height) + 1.2 * n.normal();
      // A pitot tube sees the flow along the craft, and little below a few metres a second.
      const along = Math.max(0, plant.airVelocity[0]!);
      r.airspeedMps = Math.max(0, along + 0.15 * n.normal());
      r.supplyV = batteryIn ? plant.battery.voltage + 0.01 * n.normal() : 0;
      r.currentA = batteryIn ? plant.battery.currentA : 0;
      r.servoRailV = batteryIn ? 5.05 : 0;
    }
    r.gnssFresh = false;
    this.gnssDue -= dt;
    if (this.gnssDue <= 0) {
      this.gnssDue += GNSS_S;
      if (gnssAnswers) this.fix(plant, r);
    }
  }

  private fix(plant: Plant, r: Readings): void {
    const n = this.random;
    const k = 0.005;
    this.driftNorth += -k * this.driftNorth + 0.1 * n.normal();
    this.driftEast += -k * this.driftEast + 0.1 * n.normal();
    this.driftUp += -k * this.driftUp + 0.15 * n.normal();
    r.gnssFresh = true;
    r.satellites = this.satellites;
    r.lat = latitudeAt(this.origin.lat, plant.position[0]! + this.driftNorth);
    r.lon = longitudeAt(this.origin.lat, this.origin.lon, plant.position[1]! + this.driftEast);
    r.gnssHeightM = plant.height + this.driftUp;
    r.velocityNorth = plant.velocity[0]! + 0.06 * n.normal();
    r.velocityEast = plant.velocity[1]! + 0.06 * n.normal();
  }
}
