import { isMotor } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { Plant } from '#core/flight/plant.ts';
import { Servo, type TrueRod } from '#core/flight/servo.ts';
import type { BenchTruth, BuiltLinkage } from '#core/formats/benchTruth.ts';
import { clamp, DEG } from '#core/math/scalar.ts';

/** A motor controller wants to see no throttle for this long after power-on, s. */
const WAKES_AFTER_S = 0.2;

/** How fast what a craft carries moves, of its travel to one side. */
const FITTING_PER_S = 6;

/** What is soldered where: turns pulses on pads into moving surfaces and turning motors. */
export class Wiring {
  /** Position of each surface, -1..1 of its throw, in the order of the airframe's surfaces. */
  readonly surfaces: Float64Array;
  private servos: readonly Servo[];
  private readonly surfaceOutput: Int8Array;
  private readonly surfaceSign: Float64Array;
  /** Where what the craft carries stands, -1..1, in the order of the airframe's fittings. */
  readonly fittings: Float64Array;
  private readonly fittingOutput: Int8Array;
  private readonly fittingSign: Float64Array;
  private readonly motorOutput: Int8Array;
  /** How long each motor controller has seen its lowest pulse, s; it does not run before it is sure of that. */
  private readonly sawLow: Float64Array;
  /** Pulses that each takes for standing still and for full, us. */
  private readonly lowUs: Float64Array;
  private readonly highUs: Float64Array;
  /** How long each that just got power has seen a long pulse, and since then a short one, s; and the long one that it took, us. */
  private readonly sawLong: Float64Array;
  private readonly sawShort: Float64Array;
  private readonly took: Float64Array;
  /** What the motors are heard to say: a tone for a long pulse taken for full, three for both ends taken. */
  tones: 'none' | 'one' | 'three' = 'none';
  /** Told when a controller has taken other ends. */
  onTaught: (motor: string, lowUs: number, highUs: number) => void = () => {};
  private readonly motorIds: readonly string[];

  constructor(airframe: Airframe, truth: BenchTruth) {
    const pad = (id: string) => truth.pads.find((p) => p.actuator === id);
    this.surfaces = new Float64Array(airframe.surfaces.length);
    this.servos = servosOf(airframe, truth.linkages);
    this.surfaceOutput = Int8Array.from(airframe.surfaces, (s) => (pad(s.id)?.output ?? 0) - 1);
    this.surfaceSign = Float64Array.from(airframe.surfaces, (s) => pad(s.id)?.direction ?? 1);
    const carried = airframe.fittings ?? [];
    this.fittings = new Float64Array(carried.length);
    this.fittingOutput = Int8Array.from(carried, (id) => (pad(id)?.output ?? 0) - 1);
    this.fittingSign = Float64Array.from(carried, (id) => pad(id)?.direction ?? 1);
    this.motorOutput = Int8Array.from(airframe.motors, (m) => (pad(m.id)?.output ?? 0) - 1);
    this.sawLow = new Float64Array(airframe.motors.length);
    const ends = airframe.motors.map((m) => truth.controllers.find((c) => c.motor === m.id)?.ends);
    this.lowUs = Float64Array.from(ends, (e) => e?.lowUs ?? 1000);
    this.highUs = Float64Array.from(ends, (e) => e?.highUs ?? 2000);
    this.sawLong = new Float64Array(airframe.motors.length);
    this.sawShort = new Float64Array(airframe.motors.length);
    this.took = new Float64Array(airframe.motors.length);
    this.motorIds = airframe.motors.map((m) => m.id);
    for (const p of truth.pads) {
      if (isMotor(p.actuator) && !airframe.motors.some((m) => m.id === p.actuator))
        throw new Error(`no ${p.actuator} on ${airframe.name}`);
    }
  }

  /** The servo of a surface sticks where it stands, or follows again. */
  stick(surface: number, stuck: boolean): void {
    const servo = this.servos[surface];
    if (servo) servo.stuck = stuck;
  }

  /** Rods that were turned while the craft lies here: the servos stay where they stand. */
  relink(airframe: Airframe, linkages: readonly BuiltLinkage[]): void {
    const old = this.servos;
    this.servos = servosOf(airframe, linkages);
    this.servos.forEach((servo, i) => {
      servo.share = old[i]!.share;
      servo.step(10);
    });
  }

  /** A controller that met a long pulse when it got power takes that for full, and the short one that follows for standing still. */
  private learns(i: number, pulse: number, dt: number): boolean {
    if (pulse > LONG_US && this.sawShort[i] === 0) {
      this.sawLong[i]! += dt;
      this.took[i] = pulse;
      if (this.sawLong[i]! >= LOOKS_S) this.tones = 'one';
      return true;
    }
    if (this.sawLong[i]! < LOOKS_S) {
      this.sawLong[i] = 0;
      return false;
    }
    if (pulse <= 800 || pulse >= SHORT_US) return true;
    this.sawShort[i]! += dt;
    if (this.sawShort[i]! < LOOKS_S) return true;
    this.lowUs[i] = pulse;
    this.highUs[i] = this.took[i]!;
    this.sawLong[i] = 0;
    this.tones = 'three';
    this.onTaught(this.motorIds[i]!, this.lowUs[i]!, this.highUs[i]!);
    return false;
  }

  /** @param frames whether each output sends digital frames, which servos do not understand; left out for none */
  step(pulses: Float64Array, plant: Plant, powered: boolean, dt: number, frames?: Frames): void {
    for (let i = 0; i < this.servos.length; i++) {
      const pulse = heard(this.surfaceOutput[i]!, pulses, frames);
      const servo = this.servos[i]!;
      if (powered && pulse > 0) {
        servo.share = (this.surfaceSign[i]! * (pulse - 1500)) / 500;
        servo.step(dt);
      }
      plant.deflections[i] = servo.deflection;
      this.surfaces[i] = servo.deflection / servo.throw;
    }
    for (let i = 0; i < this.fittings.length; i++) {
      const pulse = heard(this.fittingOutput[i]!, pulses, frames);
      if (!powered || pulse <= 0) continue;
      const to = clamp((this.fittingSign[i]! * (pulse - 1500)) / 500, -1, 1);
      this.fittings[i]! += clamp(to - this.fittings[i]!, -FITTING_PER_S * dt, FITTING_PER_S * dt);
    }
    for (let i = 0; i < this.motorOutput.length; i++) {
      const out = this.motorOutput[i]!;
      const pulse = out >= 0 && out < pulses.length ? pulses[out]! : 0;
      // Frames carry the throttle as a number, which no end can bend.
      const framed = frames?.[out]?.frames === true;
      const duty = framed
        ? (pulse - 1000) / 1000
        : (pulse - this.lowUs[i]!) / (this.highUs[i]! - this.lowUs[i]!);
      const low = pulse > 800 && duty < 0.05;
      if (!powered) {
        this.sawLow[i] = 0;
        this.sawLong[i] = 0;
        this.sawShort[i] = 0;
        this.tones = 'none';
      } else if (!framed && this.sawLow[i]! < WAKES_AFTER_S && this.learns(i, pulse, dt)) {
        plant.duties[i] = 0;
        continue;
      } else if (low && this.sawLow[i]! < WAKES_AFTER_S) this.sawLow[i]! += dt;
      const awake = this.sawLow[i]! >= WAKES_AFTER_S;
      plant.duties[i] = awake && duty > 0.02 ? Math.min(1, duty) : 0;
    }
  }
}

type Frames = readonly { readonly frames: boolean }[];

/** How long a controller that just got power looks at a pulse before it takes it for an end, s. */
const LOOKS_S = 1;
const LONG_US = 1700;
const SHORT_US = 1300;

/** The pulse that a servo on an output hears, us; 0 for none, and for frames. */
function heard(out: number, pulses: Float64Array, frames: Frames | undefined): number {
  return out >= 0 && out < pulses.length && frames?.[out]?.frames !== true ? pulses[out]! : 0;
}

/** A rod as the bench has it, as computing takes it: mm and rad. */
function rodOf(l: BuiltLinkage): TrueRod {
  return {
    linkage: {
      arm: l.armMm,
      horn: l.hornMm,
      rod: l.rodMm,
      shaftAft: l.shaftAftMm,
      shaftUp: l.shaftUpMm,
      armLean: l.armLeanDeg * DEG,
      hornLean: l.hornLeanDeg * DEG,
    },
    play: l.playDeg * DEG,
  };
}

function servosOf(airframe: Airframe, linkages: readonly BuiltLinkage[]): Servo[] {
  return airframe.surfaces.map((s) => {
    const built = linkages.find((l) => l.surface === s.id);
    return new Servo(s, built && rodOf(built));
  });
}
