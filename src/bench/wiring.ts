import type { Airframe } from '#core/airframe/airframe.ts';
import { isMotor } from '#core/airframe/airframe.ts';
import type { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { clamp } from '#core/math/scalar.ts';

/** Servo travel per second as a share of half the travel: 60 degrees in 0.12 s on a +-60 degree servo. */
const SERVO_RATE = 8;

/** What is soldered where: turns pulses on pads into moving surfaces and turning motors. */
export class Wiring {
  /** Position of each surface, -1..1 of its throw, in the order of the airframe's surfaces. */
  readonly surfaces: Float64Array;
  private readonly surfaceOutput: Int8Array;
  private readonly surfaceSign: Float64Array;
  private readonly motorOutput: Int8Array;
  private readonly throws: Float64Array;

  constructor(airframe: Airframe, truth: BenchTruth, plant: Plant) {
    const pad = (id: string) => truth.pads.find((p) => p.actuator === id);
    this.surfaces = new Float64Array(airframe.surfaces.length);
    this.surfaceOutput = Int8Array.from(airframe.surfaces, (s) => (pad(s.id)?.output ?? 0) - 1);
    this.surfaceSign = Float64Array.from(airframe.surfaces, (s) => pad(s.id)?.direction ?? 1);
    this.motorOutput = Int8Array.from(airframe.motors, (m) => (pad(m.id)?.output ?? 0) - 1);
    this.throws = plant.throws();
    for (const p of truth.pads) {
      const fitted = isMotor(p.actuator) ? airframe.motors.some((m) => m.id === p.actuator) : true;
      if (!fitted) throw new Error(`no ${p.actuator} on ${airframe.name}`);
    }
  }

  step(pulses: Float64Array, plant: Plant, powered: boolean, dt: number): void {
    for (let i = 0; i < this.surfaces.length; i++) {
      const out = this.surfaceOutput[i]!;
      const pulse = out >= 0 && out < pulses.length ? pulses[out]! : 0;
      if (powered && pulse > 0) {
        const target = clamp((this.surfaceSign[i]! * (pulse - 1500)) / 500, -1.1, 1.1);
        const step = SERVO_RATE * dt;
        this.surfaces[i] = clamp(target, this.surfaces[i]! - step, this.surfaces[i]! + step);
      }
      plant.deflections[i] = this.surfaces[i]! * this.throws[i]!;
    }
    for (let i = 0; i < this.motorOutput.length; i++) {
      const out = this.motorOutput[i]!;
      const pulse = out >= 0 && out < pulses.length ? pulses[out]! : 0;
      const duty = (pulse - 1000) / 1000;
      plant.duties[i] = powered && duty > 0.02 ? Math.min(1, duty) : 0;
    }
  }
}
