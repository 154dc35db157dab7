import { type Airframe, isMotor } from '#core/airframe/airframe.ts';
import type { Plant } from '#core/flight/plant.ts';
import { Servo } from '#core/flight/servo.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';

/** A motor controller wants to see no throttle for this long after power-on, s. */
const WAKES_AFTER_S = 0.2;

/** What is soldered where: turns pulses on pads into moving surfaces and turning motors. */
export class Wiring {
  /** Position of each surface, -1..1 of its throw, in the order of the airframe's surfaces. */
  readonly surfaces: Float64Array;
  private readonly servos: readonly Servo[];
  private readonly surfaceOutput: Int8Array;
  private readonly surfaceSign: Float64Array;
  private readonly motorOutput: Int8Array;
  /** How long each motor controller has seen its lowest pulse, s; it does not run before it is sure of that. */
  private readonly sawLow: Float64Array;

  constructor(airframe: Airframe, truth: BenchTruth) {
    const pad = (id: string) => truth.pads.find((p) => p.actuator === id);
    this.surfaces = new Float64Array(airframe.surfaces.length);
    this.servos = airframe.surfaces.map((s) => new Servo(s));
    this.surfaceOutput = Int8Array.from(airframe.surfaces, (s) => (pad(s.id)?.output ?? 0) - 1);
    this.surfaceSign = Float64Array.from(airframe.surfaces, (s) => pad(s.id)?.direction ?? 1);
    this.motorOutput = Int8Array.from(airframe.motors, (m) => (pad(m.id)?.output ?? 0) - 1);
    this.sawLow = new Float64Array(airframe.motors.length);
    for (const p of truth.pads) {
      const fitted = isMotor(p.actuator) ? airframe.motors.some((m) => m.id === p.actuator) : true;
      if (!fitted) throw new Error(`no ${p.actuator} on ${airframe.name}`);
    }
  }

  /** @param frames whether each output sends digital frames, which servos do not understand; left out for none */
  step(
    pulses: Float64Array,
    plant: Plant,
    powered: boolean,
    dt: number,
    frames?: readonly { readonly frames: boolean }[],
  ): void {
    for (let i = 0; i < this.servos.length; i++) {
      const out = this.surfaceOutput[i]!;
      const heard = out >= 0 && out < pulses.length && frames?.[out]?.frames !== true;
      const pulse = heard ? pulses[out]! : 0;
      const servo = this.servos[i]!;
      if (powered && pulse > 0) {
        servo.share = (this.surfaceSign[i]! * (pulse - 1500)) / 500;
        servo.step(dt);
      }
      plant.deflections[i] = servo.deflection;
      this.surfaces[i] = servo.deflection / servo.throw;
    }
    for (let i = 0; i < this.motorOutput.length; i++) {
      const out = this.motorOutput[i]!;
      const pulse = out >= 0 && out < pulses.length ? pulses[out]! : 0;
      const duty = (pulse - 1000) / 1000;
      const low = pulse > 800 && duty < 0.05;
      if (!powered) this.sawLow[i] = 0;
      else if (low && this.sawLow[i]! < WAKES_AFTER_S) this.sawLow[i]! += dt;
      const awake = this.sawLow[i]! >= WAKES_AFTER_S;
      plant.duties[i] = awake && duty > 0.02 ? Math.min(1, duty) : 0;
    }
  }
}
