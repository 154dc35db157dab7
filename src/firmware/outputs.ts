import { clamp } from '#core/math/scalar.ts';
import { motorPulse, servoPulse } from '#core/mixer/pulse.ts';
import { RotorShare } from '#core/mixer/rotorShare.ts';
import type { BenchMoves } from './benchMoves.ts';
import { OUTPUT_COUNT } from './catalogue/counts.ts';
import type { Config } from './config.ts';

/** Commands after the loops: -1..1, throttle and flap 0..1. */
export interface Command {
  roll: number;
  pitch: number;
  yaw: number;
  throttle: number;
  flap: number;
}

/** Outputs are looked at after so many steps at the latest, should none have a pulse due: one may be tried by hand. */
const MOST_STEPS = 20;

/** The mixer's last stage: commands to pulses, each output at its timer's own rate. */
export class Outputs {
  /** us per output; 0 where nothing is sent. */
  readonly pulses = new Float64Array(OUTPUT_COUNT);
  private readonly rotors: RotorShare;
  /** Of each output its place among the rotors; -1 where it drives none. */
  private readonly rotorAt: Int8Array;
  /** Steps until each output's next pulse. */
  private readonly left = new Int16Array(OUTPUT_COUNT);
  /** Steps from the last pulse to the next of any output, and how many of them have passed. */
  private soonest = 0;
  private waited = 0;

  constructor(
    private readonly c: Config,
    private readonly dt: number,
  ) {
    const motors = c.outputs.filter((o) => o.isMotor);
    this.rotors = new RotorShare(
      motors.map((o) => o.mix),
      c.idle,
    );
    this.rotorAt = Int8Array.from(c.outputs, (o) => motors.indexOf(o));
  }

  /** The mixer had to give up part of a command for want of room. Rotors only. */
  get saturated(): boolean {
    return this.rotors.saturated;
  }

  step(k: Command, bench: BenchMoves, armed: boolean): void {
    const c = this.c;
    if (c.rotorcraft && armed) this.rotors.share(k);
    // A timer sends its pulses at its own rate; between them nothing changes on the wire.
    this.waited++;
    if (this.waited < this.soonest) return;
    const { waited, left } = this;
    this.waited = 0;
    let soonest = MOST_STEPS;
    for (let i = 0; i < OUTPUT_COUNT; i++) {
      const o = c.outputs[i]!;
      if (o.role === 'nothing' && bench.output !== i + 1) {
        this.pulses[i] = 0;
        left[i] = 0;
        continue;
      }
      left[i]! -= waited;
      const due = left[i]! <= 0;
      if (due) left[i] = o.everySteps;
      if (left[i]! < soonest) soonest = left[i]!;
      if (!due) continue;
      let pulse = 0;
      if (bench.output === i + 1) {
        pulse = o.isMotor ? motorPulse(o, bench.duty) : bench.servoPulse(o);
      } else if (o.isMotor) {
        pulse = motorPulse(
          o,
          armed ? (c.rotorcraft ? this.rotors.duties[this.rotorAt[i]!]! : this.wingMotor(i, k)) : 0,
        );
      } else {
        let d = o.mix.roll * k.roll + o.mix.pitch * k.pitch + o.mix.yaw * k.yaw;
        if (o.mix.yaw !== 0 && o.mix.roll === 0) d += o.mix.yaw * c.turnRudder * k.roll;
        // The down-going half of a pair that rolls moves less, against adverse yaw.
        if (o.mix.roll !== 0 && o.mix.pitch === 0 && d > 0) d *= 1 - c.aileronUp;
        d += o.mix.flap * k.flap;
        pulse = bench.output !== 0 ? o.centreUs : servoPulse(o, d);
      }
      const last = this.pulses[i]!;
      if (o.speed > 0 && last > 0 && pulse > 0 && !o.isMotor) {
        const step = o.speed * o.everySteps * this.dt;
        pulse = clamp(pulse, last - step, last + step);
      }
      this.pulses[i] = pulse;
    }
    this.soonest = soonest;
  }

  private wingMotor(i: number, k: Command): number {
    const c = this.c;
    const yaw = c.outputs[i]!.mix.yaw * c.differential * k.yaw;
    return clamp(k.throttle + yaw * Math.min(1, 3 * k.throttle), 0, 1);
  }
}
